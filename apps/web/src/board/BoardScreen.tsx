import { router, useLocalSearchParams } from 'expo-router';
import PanelsTopLeft from 'lucide-react-native/icons/panels-top-left';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Button, IconButton } from '../look/Button';
import { Empty, Loading } from '../look/Empty';
import { Drawer } from '../look/Drawer';
import { TipLine } from '../look/TipLine';
import { useIsLying, useIsWide } from '../look/useIsWide';
import type { StartedInks } from '../render/startedInks';
import type { PageSession } from '../session/pageSession';
import { BoardCanvas } from './BoardCanvas';
import { BoardContext, type OpenBoard } from './boardContext';
import { Bench } from './Bench';
import { BenchColumn } from './BenchColumn';
import { GuideList } from './guides/GuideList';
import { keepTemplates } from './guides/templateStore';
import { setGuides, useGuides } from './guides/guideStore';
import { FindSheet } from './keys/FindSheet';
import { KeysSheet } from './keys/KeysSheet';
import { useKeySet, withKey } from './keys/keySet';
import { Navigator } from './Navigator';
import { keepRack } from './nibs/rackSync';
import { RulerSheet } from './RulerSheet';
import { SideColumn } from './SideColumn';
import { StackPanel } from './stack/StackPanel';
import { StatusLine } from './StatusLine';
import { togglePage, useDesk } from './desk';
import { Strip } from './Strip';
import { useBoardKeys } from './useBoardKeys';
import { usePageSession } from './usePageSession';
import { useRoughInHand } from './useRoughInHand';
import { useThumbnail } from './useThumbnail';

/** The board: one page, opened from the address. */
export function BoardScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <OpenPage key={id} id={id} />;
}

function OpenPage({ id }: { readonly id: string }) {
  const opening = usePageSession(id);
  if (opening.state === 'opening')
    return (
      <View className="flex-1 bg-desk" role="main">
        <img
          src={`/api/pages/${id}/thumbnail`}
          alt=""
          style={{
            position: 'absolute',
            inset: 0,
            margin: 'auto',
            maxWidth: '100%',
            height: '86%',
            objectFit: 'contain',
          }}
        />
        <Loading what="Opening the page" />
      </View>
    );
  if (opening.state === 'failed')
    return (
      <View className="flex-1 bg-desk" role="main">
        <Empty title="This page cannot be opened" detail={opening.reason}>
          <Button label="Try again" tone="seal" onPress={opening.retry} />
          <Button label="To the shelf" onPress={() => router.dismissTo('/')} />
        </Empty>
      </View>
    );
  return <Desk key={opening.session.card.id} session={opening.session} inks={opening.inks} />;
}

function Desk({ session, inks }: { readonly session: PageSession; readonly inks: StartedInks | undefined }) {
  const [board, setBoard] = useState<OpenBoard | undefined>();
  const wide = useIsWide();
  const isLying = useIsLying();
  const isBare = useDesk((desk) => desk.onlyPage);
  const isStackOpen = useDesk((desk) => desk.stackOpen);
  const isListOpen = useGuides((state) => state.isListOpen);
  const isLeft = useKeySet((set) => set.hand === 'left');
  return (
    <BoardContext value={board}>
      <View className="flex-1 bg-desk">
        {isBare ? null : board ? <Strip /> : <View className="h-12 border-b border-rule bg-tray" />}
        <View className={`min-h-0 flex-1 ${isLeft ? 'flex-row-reverse' : 'flex-row'}`}>
          {wide && !isBare && (
            <View className="w-[276px] border-r border-rule bg-tray" role="complementary" aria-label="Bench">
              {board && <BenchColumn />}
            </View>
          )}
          <View className="min-w-0 flex-1" role="main">
            <BoardCanvas session={session} inks={inks} onOpen={setBoard} />
            {board && <Navigator />}
            {isBare && <ToolsBack />}
            {board &&
              !isBare &&
              (wide ? (
                !isLying && <StatusLine />
              ) : isStackOpen ? (
                <StackDrawer />
              ) : isListOpen ? (
                <GuideDrawer />
              ) : (
                <Bench />
              ))}
          </View>
          {wide && !isBare && <SideColumn isOpen={board !== undefined} />}
        </View>
        {board && <Habits />}
        {board && <OpenSheet />}
        <TipLine />
      </View>
    </BoardContext>
  );
}

/** The way back from the page alone, for who has no keys: quiet, in the corner away from the drawing hand. */
function ToolsBack() {
  const isLeft = useKeySet((set) => set.hand === 'left');
  return (
    <View className={`absolute top-1 rounded-xl bg-tray opacity-60 ${isLeft ? 'right-1' : 'left-1'}`}>
      <IconButton
        label="Bring the tools back"
        tooltip={withKey('only-page')}
        icon={PanelsTopLeft}
        onPress={togglePage}
      />
    </View>
  );
}

/** What goes on beside the drawing and shows nothing itself. */
function Habits() {
  useBoardKeys();
  useRoughInHand();
  useThumbnail();
  useEffect(keepRack, []);
  useEffect(keepTemplates, []);
  return null;
}

const StackDrawer = () => (
  <Drawer title="Stack" onClose={() => useDesk.setState({ stackOpen: false })}>
    <StackPanel />
  </Drawer>
);

const GuideDrawer = () => (
  <Drawer title="Guides on this page" onClose={() => setGuides({ isListOpen: false })}>
    <GuideList />
  </Drawer>
);

/** The sheet that a key or a button has asked for. */
function OpenSheet() {
  const sheet = useDesk((desk) => desk.sheet);
  const close = () => useDesk.setState({ sheet: undefined });
  if (sheet === 'keys') return <KeysSheet onClose={close} />;
  if (sheet === 'find') return <FindSheet onClose={close} />;
  if (sheet === 'ruler') return <RulerSheet onClose={close} />;
  return null;
}
