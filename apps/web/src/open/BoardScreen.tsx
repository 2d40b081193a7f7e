import { router, useLocalSearchParams } from 'expo-router';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import PanelsTopLeft from 'lucide-react-native/icons/panels-top-left';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { Button, IconButton, Empty, Drawer, TipLine, useIsLying, useIsWide, useTitle } from '../look';
import { BoardCanvas } from './BoardCanvas';
import { type Board, BoardContext, togglePage, useDesk, workbench } from '../board';
import { Bench, BenchColumn, Navigator, RulerSheet, SideColumn, StatusLine, Strip, useThumbnail } from '../chrome';
import { GuideList } from '../stages/guides';
import { layFirstPicture } from './firstPicture';
import { setGuides, useGuides, useKeptTemplates } from '../guiding';
import { FindSheet, KeysSheet, useKeySet, withKey, useBoardKeys } from '../keys';
import { useKeptRack } from '../nibs';
import { StackPanel } from '../stack';
import { usePageSession, type OpenedPage } from './usePageSession';
import './putTogether';

/** The board: one page, opened from the address. */
export function BoardScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <OpenPage key={id} id={id} />;
}

function OpenPage({ id }: { readonly id: string }) {
  const opening = usePageSession(id);
  const isFailed = opening.state === 'failed';
  useTitle(opening.state === 'open' ? opening.session.card.name : undefined);
  useEffect(() => (isFailed ? undefined : layFirstPicture(id)), [id, isFailed]);
  if (isFailed)
    return (
      <View className="flex-1 bg-desk" role="main">
        <Empty title="This page cannot be opened" detail={opening.reason}>
          <Button label="Try again" tone="seal" onPress={opening.retry} />
          <Button label="To the shelf" onPress={toShelf} />
        </Empty>
      </View>
    );
  return <OpenDesk opened={opening.state === 'open' ? opening : undefined} />;
}

/** A page and all that is around it, or the room for that while it opens: nothing moves when it comes. */
function OpenDesk({ opened }: { readonly opened: OpenedPage | undefined }) {
  const [board, setBoard] = useState<Board | undefined>();
  const wide = useIsWide();
  const isLying = useIsLying();
  const isBare = useDesk((desk) => desk.onlyPage);
  const isStackOpen = useDesk((desk) => desk.stackOpen);
  const isListOpen = useGuides((state) => state.isListOpen);
  const isLeft = useKeySet((set) => set.hand === 'left');
  return (
    <BoardContext value={board}>
      <View className="flex-1 bg-desk">
        {isBare ? null : board ? <Strip /> : <OpeningStrip />}
        <View className={`min-h-0 flex-1 ${isLeft ? 'flex-row-reverse' : 'flex-row'}`}>
          {wide && !isBare && (
            <View className="w-[276px] border-r border-rule bg-tray" role="complementary" aria-label="Bench">
              {board && <BenchColumn />}
            </View>
          )}
          <View className="min-w-0 flex-1" role="main">
            {opened && <BoardCanvas session={opened.session} inks={opened.inks} onOpen={setBoard} />}
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
        {board && <StageHabits />}
        {board && <OpenSheet />}
        <TipLine />
      </View>
    </BoardContext>
  );
}

/** What the strip says before there is a page. */
const OpeningStrip = () => (
  <View role="banner" aria-busy className="h-12 flex-row items-center gap-1 border-b border-rule bg-tray pl-1">
    <IconButton label="To the shelf" icon={ChevronLeft} onPress={toShelf} />
    <Text className="font-sans text-14 text-faint">Opening the page</Text>
  </View>
);

const toShelf = () => router.dismissTo('/');

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
  useThumbnail();
  useKeptRack();
  useKeptTemplates();
  return null;
}

/** The same for each stage. */
const StageHabits = () => workbench.stages.map(({ id, Habit }) => Habit && <Habit key={id} />);

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
