import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import Layers from 'lucide-react-native/icons/layers';
import Redo2 from 'lucide-react-native/icons/redo-2';
import { router } from 'expo-router';
import { Pressable, Text, View } from 'react-native';
import { IconButton, web, useIsWide } from '../look';
import { isHeldUp, type SessionState } from '../session';
import { useBoard, useSessionState, workbench, useDesk } from '../board';
import { GuidedSwitch } from './GuidedSwitch';
import { useKeySet, withKey } from '../keys';
import { PanelSwitch } from './PanelSwitch';
import { PageSheet } from './PageSheet';
import { PeekButton } from './PeekButton';
import { UndoButton } from './UndoButton';
import { useFolioOf } from './useFolioOf';
import { useSendThumbnail } from './useThumbnail';

const SAVE_STATE = 'save-state';

/** The strip above the page: where one is, whether it is saved, back and forth in time, and peek. */
export function Strip() {
  const board = useBoard();
  const { session } = board;
  const folio = useFolioOf(session.card.folioId).data;
  const isOpen = useDesk((desk) => desk.sheet === 'page');
  const isRoomy = useIsWide();
  const isLeft = useKeySet((set) => set.hand === 'left');
  const index = folio?.pages.findIndex((page) => page.id === session.card.id) ?? -1;
  const card = folio?.pages[index] ?? session.card;
  const place = folio && `${index + 1} of ${folio.pages.length}`;
  const sendThumbnail = useSendThumbnail();
  const leave = async () => {
    await Promise.race([sendThumbnail(), new Promise((resolve) => setTimeout(resolve, 1_200))]);
    router.dismissTo(`/folio/${session.card.folioId}`);
  };
  return (
    <View
      role="banner"
      className={`h-12 ${isLeft && !isRoomy ? 'flex-row-reverse' : 'flex-row'} items-center gap-1 border-b border-rule bg-tray pl-1 pr-2`}
    >
      <IconButton label="Back to the folio" icon={ChevronLeft} onPress={() => void leave()} />
      <Pressable
        role="button"
        aria-label={`${card.name}, page settings`}
        onPress={() => useDesk.setState({ sheet: 'page' })}
        className="min-h-[44px] shrink grow justify-center"
        {...web({ title: 'Name, size and view of the page', 'aria-describedby': SAVE_STATE })}
      >
        <Text role="heading" aria-level={1} className="font-bold text-14 text-ink" numberOfLines={1}>
          {card.name}
        </Text>
        <SaveLine
          before={isRoomy && folio ? `${folio.name} · page ${place} · ` : ''}
          after={!isRoomy && place ? ` · ${place}` : ''}
        />
      </Pressable>
      <LastStep />
      <PanelSwitch isRoomy={isRoomy} />
      <GuidedSwitch isRoomy={isRoomy} />
      <UndoButton />
      <RedoButton />
      <PeekButton />
      {!isRoomy && (
        <IconButton
          label="Stack"
          tooltip={withKey('stack')}
          icon={Layers}
          onPress={() => workbench.run('stack', board)}
        />
      )}
      {isOpen && (
        <PageSheet card={card} pages={folio?.pages ?? []} onClose={() => useDesk.setState({ sheet: undefined })} />
      )}
    </View>
  );
}

/** Whether all is saved, and which page this is: on phones, where little fits, in this order. */
function SaveLine({ before, after }: { readonly before: string; readonly after: string }) {
  const board = useBoard();
  const saved = useSessionState(board, savedInWords);
  const isWaiting = useSessionState(board, isHeldUp);
  return (
    <Text
      className={`text-12 ${isWaiting ? 'font-bold text-seal' : 'font-sans text-faint'}`}
      numberOfLines={1}
      id={SAVE_STATE}
      testID={SAVE_STATE}
    >
      {`${before}${saved}${after}`}
    </Text>
  );
}

function savedInWords({ save, waiting }: SessionState): string {
  if (save === 'offline') return `offline, ${waiting} waiting`;
  return save === 'unsaved' ? `${waiting} unsaved` : save;
}

function RedoButton() {
  const board = useBoard();
  const isEmpty = useSessionState(board, ({ history }) => history.undone.length === 0);
  return (
    <IconButton
      label="Redo"
      tooltip={withKey('redo')}
      icon={Redo2}
      disabled={isEmpty}
      onPress={() => workbench.run('redo', board)}
    />
  );
}

/** For a screen reader: what the last step did, or took back. */
function LastStep() {
  const words = useSessionState(useBoard(), lastStepInWords);
  return (
    <Text role="status" aria-live="polite" className="absolute h-px w-px overflow-hidden opacity-0">
      {words}
    </Text>
  );
}

function lastStepInWords({ history: { done, undone } }: SessionState): string {
  const taken = undone.at(-1);
  if (taken) return `Taken back: ${taken.label}`;
  const last = done.at(-1);
  return last ? `Done: ${last.label}` : '';
}
