import Contrast from 'lucide-react-native/icons/contrast';
import Sparkle from 'lucide-react-native/icons/sparkle';
import Droplets from 'lucide-react-native/icons/droplets';
import GlassWater from 'lucide-react-native/icons/glass-water';
import Puzzle from 'lucide-react-native/icons/puzzle';
import SquaresUnite from 'lucide-react-native/icons/squares-unite';
import { View } from 'react-native';
import type { Tool } from '../../board';
import { useBlacks, type OutlineBy } from './blackStore';
import { FillSettings, JoinChoice, JoinWords, OutlineChoice } from './BlackSettings';
import { beginFilling } from './fillTools';
import { joinSlot } from './joinHand';
import { leakSlot } from './leakHand';
import { LeakDeeds, LeakSettings, LeaksInWords } from './LeakSettings';
import { pieceSlot } from './pieceHand';
import { CrumbSetting, PieceSettings, PiecesInWords, SmallDeeds } from './PieceSettings';
import { pourSlot } from './pourHand';
import { GapSetting, PourSettings, RegionsInWords } from './PourSettings';

const FIRST: Readonly<Record<OutlineBy, string>> = {
  loop: 'Draw round',
  path: 'Touch for a corner, drag for a curve:',
  shape: 'Drag out a shape:',
  template: 'Drag the template out:',
};

const BlotHint = () => `${FIRST[useBlacks(({ by }) => by)]} what is to be black`;
const NickHint = () => `${FIRST[useBlacks(({ by }) => by)]} what is cut out of the ink of this layer`;

const blot: Tool = {
  id: 'blot',
  label: 'Blot',
  icon: Contrast,
  hint: BlotHint,
  command: { room: 'Draw' },
  borrows: 'nick',
  begin: (board, press) => beginFilling(board, 'blot', press),
  Line: () => <Grown />,
  Settings: (props) => <FillSettings tool="blot" {...props} />,
};

const nick: Tool = {
  id: 'nick',
  label: 'Nick',
  icon: Sparkle,
  hint: NickHint,
  command: { room: 'Draw' },
  borrows: 'blot',
  begin: (board, press) => beginFilling(board, 'nick', press),
  Line: () => <Grown />,
  Settings: (props) => <FillSettings tool="nick" {...props} />,
};

const Grown = () => (
  <View className="grow">
    <OutlineChoice />
  </View>
);

const join: Tool = {
  id: 'join',
  label: 'Join',
  icon: SquaresUnite,
  hint: 'Touch two areas, one after the other',
  command: { room: 'Draw', label: 'Join areas' },
  borrows: 'blot',
  begin: (board, { at }) => board.of(joinSlot).begin(at),
  Line: () => (
    <View className="grow">
      <JoinChoice />
    </View>
  ),
  Settings: ({ isWide }) => (
    <View className="gap-2">
      {isWide && <JoinChoice />}
      <JoinWords />
    </View>
  ),
};

const pour: Tool = {
  id: 'pour',
  label: 'Pour',
  icon: GlassWater,
  hint: 'Touch a region, or drag through several',
  command: { room: 'Draw', label: 'Pour' },
  borrows: 'nib',
  begin: (board, { at }) => board.of(pourSlot).begin(at),
  Line: () => (
    <>
      <View className="w-[132px] flex-row">
        <GapSetting />
      </View>
      <View className="shrink grow basis-0 justify-center">
        <RegionsInWords />
      </View>
    </>
  ),
  Settings: ({ isWide }) => <PourSettings isWide={isWide} />,
  commands: [
    {
      id: 'flat-page',
      label: 'Flat the page',
      room: 'Draw',
      run: (board) => void board.of(pourSlot).flatPage(),
    },
  ],
};

const leaks: Tool = {
  id: 'leaks',
  label: 'Leaks',
  icon: Droplets,
  hint: 'Touch a gap, then bridge it, stop it, or leave it open',
  command: { room: 'Draw', label: 'Check for leaks' },
  borrows: 'nib',
  begin: (board, { at }) => board.of(leakSlot).begin(at),
  Line: () => (
    <View className="grow gap-1">
      <LeaksInWords />
      <LeakDeeds />
    </View>
  ),
  Settings: ({ isWide }) => <LeakSettings isWide={isWide} />,
};

const pieces: Tool = {
  id: 'pieces',
  label: 'Pieces',
  icon: Puzzle,
  hint: 'Draw a loop round ink that overlaps, then touch what goes',
  command: { room: 'Draw', label: 'Take ink apart' },
  borrows: 'nib',
  begin: (board, { at }) => board.of(pieceSlot).begin(at),
  Line: () => (
    <View className="grow gap-1">
      <PiecesInWords />
      <View className="flex-row items-center gap-2">
        <View className="w-[124px] flex-row">
          <CrumbSetting />
        </View>
        <SmallDeeds />
      </View>
    </View>
  ),
  Settings: ({ isWide }) => <PieceSettings isWide={isWide} />,
};

export const blackTools: readonly Tool[] = [blot, nick, join, pieces, pour, leaks];
