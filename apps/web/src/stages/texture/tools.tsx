import Blend from 'lucide-react-native/icons/blend';
import Feather from 'lucide-react-native/icons/feather';
import Grip from 'lucide-react-native/icons/grip';
import Equal from 'lucide-react-native/icons/equal';
import Hash from 'lucide-react-native/icons/hash';
import Loader from 'lucide-react-native/icons/loader';
import Tally from 'lucide-react-native/icons/tally-4';
import { View } from 'react-native';
import type { Tool, Wing } from '../../board';
import { Faint } from '../../look';
import { CalmSetting, ColourSetting, nibFor, NibInHand, SizeSetting } from '../../nibs';
import { combSlot } from './combHand';
import { CombHint, CombLine, CombSettings } from './CombSettings';
import { ShakerHint, ShakerLine, ShakerSettings } from './DotSettings';
import { featherSlot } from './featherHand';
import { beginGradient } from './gradientHand';
import { FeatherLine, FeatherSettings, SpanHint, SpanLine, SpanSettings } from './RowSettings';
import { rowsSlot } from './rowsHand';
import { shakerSlot } from './shakerHand';
import { spanSlot } from './spanHand';
import { useTexture } from './textureStore';
import { toneSlot } from './toneHand';
import { GradientLine, GradientSettings, ToneHint, ToneLine, ToneSettings } from './ToneSettings';

const comb: Tool = {
  id: 'comb',
  label: 'Comb',
  icon: Hash,
  hint: CombHint,
  command: { room: 'Draw', label: 'Comb rows' },
  borrows: 'nib',
  begin: (board, press) => board.of(combSlot).begin(press),
  Line: CombLine,
  Settings: CombSettings,
};

const span: Tool = {
  id: 'span',
  label: 'Span',
  icon: Tally,
  hint: SpanHint,
  command: { room: 'Draw', label: 'Span rows between lines' },
  borrows: 'nib',
  begin: (board, press) => board.of(spanSlot).begin(press),
  Line: SpanLine,
  Settings: SpanSettings,
};

const feather: Tool = {
  id: 'feather',
  label: 'Feather',
  icon: Feather,
  hint: 'Draw along an edge of black: rows grow out of it',
  command: { room: 'Draw', label: 'Feather an edge' },
  borrows: 'nib',
  begin: (board, press) => board.of(featherSlot).begin(press),
  Line: FeatherLine,
  Settings: FeatherSettings,
};

const rows: Tool = {
  id: 'rows',
  label: 'Rows',
  icon: Equal,
  hint: 'A line beside the last one runs along it, evenly spaced',
  command: { room: 'Draw', label: 'Hatch by hand, evenly spaced' },
  borrows: 'nib',
  takesNib: true,
  begin: (board, press) => board.of(rowsSlot).begin(press),
  ring: (page) => nibFor(page).size / 2,
  Line: () => (
    <>
      <NibInHand width={92} height={48} />
      <SizeSetting of="nib" />
    </>
  ),
  Settings: ({ width, isWide }) => (
    <View className="gap-3">
      {isWide && <NibInHand width={width} height={56} isNamed />}
      <View className="flex-row gap-2">
        <SizeSetting of="nib" />
        <CalmSetting of="nib" />
      </View>
      <Faint>
        Draw a line, and a second one beside it: it runs along the first, and all that follow lie as far apart as these
        two. Begin farther off, or press Escape, for rows of another kind.
      </Faint>
      <ColourSetting />
    </View>
  ),
};

const shaker: Tool = {
  id: 'shaker',
  label: 'Shaker',
  icon: Loader,
  hint: ShakerHint,
  command: { room: 'Draw', label: 'Strew dots' },
  borrows: 'nib',
  begin: (board, press) => board.of(shakerSlot).begin(press),
  ring: () => {
    const { by, radius } = useTexture.getState().shaker;
    return by === 'pen' ? radius : 1;
  },
  Line: ShakerLine,
  Settings: ShakerSettings,
};

const tone: Tool = {
  id: 'tone',
  label: 'Tone',
  icon: Grip,
  hint: ToneHint,
  command: { room: 'Draw', label: 'Lay a tone' },
  borrows: 'nick',
  begin: (board, press) => board.of(toneSlot).begin(press),
  Line: ToneLine,
  Settings: ToneSettings,
};

const gradient: Tool = {
  id: 'gradient',
  label: 'Gradient',
  icon: Blend,
  hint: 'Drag from the first colour to the last, over an area, a region or a Wash layer',
  command: { room: 'Draw', label: 'Lay a gradient' },
  borrows: 'nib',
  begin: beginGradient,
  Line: GradientLine,
  Settings: GradientSettings,
};

/** Between paper and black lie the greys that ink has: rows, dots, screens. */
export const TEXTURE = {
  tools: [comb, span, feather, rows, shaker, tone, gradient],
  keeps: [combSlot, spanSlot, featherSlot, rowsSlot, shakerSlot, toneSlot],
} as const satisfies Wing;
