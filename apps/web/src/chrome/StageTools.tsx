import Combine from 'lucide-react-native/icons/combine';
import Cuboid from 'lucide-react-native/icons/cuboid';
import Eraser from 'lucide-react-native/icons/eraser';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import ListTree from 'lucide-react-native/icons/list-tree';
import Lasso from 'lucide-react-native/icons/lasso';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import AlignJustify from 'lucide-react-native/icons/text-align-justify';
import Rows from 'lucide-react-native/icons/rows-4';
import Move from 'lucide-react-native/icons/move';
import Ruler from 'lucide-react-native/icons/ruler';
import Maximize from 'lucide-react-native/icons/maximize';
import PenTool from 'lucide-react-native/icons/pen-tool';
import Shapes from 'lucide-react-native/icons/shapes';
import Spline from 'lucide-react-native/icons/spline';
import Waypoints from 'lucide-react-native/icons/waypoints';
import type { GuideKind } from '@true-nib/core/guides';
import type { LucideIcon } from 'lucide-react-native';
import ArrowUpFromLine from 'lucide-react-native/icons/arrow-up-from-line';
import CircleDot from 'lucide-react-native/icons/circle-dot';
import Droplet from 'lucide-react-native/icons/droplet';
import Feather from 'lucide-react-native/icons/feather';
import FoldVertical from 'lucide-react-native/icons/fold-vertical';
import Link2 from 'lucide-react-native/icons/link-2';
import Magnet from 'lucide-react-native/icons/magnet';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import Scissors from 'lucide-react-native/icons/scissors';
import Slice from 'lucide-react-native/icons/slice';
import Weight from 'lucide-react-native/icons/weight';
import { Children, type ReactNode } from 'react';
import { ScrollView, useWindowDimensions, View } from 'react-native';
import { Chip } from '../look/Chip';
import { useIsWide } from '../look/useIsWide';
import { useBoard } from '../board/boardContext';
import { withKey } from '../keys/keySet';
import { takeTool, useDesk, type Tool } from '../board/desk';
import { layNext } from '../stages/guides/guideCommands';
import { setGuides, useGuides } from '../guiding/guideStore';
import { takeDepth } from '../guiding/frames';
import { useRough } from '../stages/rough/RoughSettings';
import { chooseRough } from '../stack/takeRough';

/** The few tools of the stage one is in: side by side on a phone, three in a row of the wide column. */
export function StageTools() {
  const stage = useDesk((desk) => desk.stage);
  if (stage === 'rough') return <RoughTools />;
  if (stage === 'guides') return <GuideTools />;
  if (stage === 'ink') return <InkTools />;
  if (stage === 'mend') return <MendTools />;
  return null;
}

function RoughTools() {
  const { session } = useBoard();
  const actions = useRough();
  return (
    <>
      <Chip
        label="Bring in"
        icon={ImagePlus}
        tooltip="Bring in a picture from disk"
        onPress={() => void chooseRough(session)}
      />
      {actions && (
        <>
          <Chip
            label="Fit"
            icon={Maximize}
            disabled={actions.layer.locked}
            tooltip="Fit the rough to the page"
            onPress={actions.fit}
          />
          <Chip
            label={actions.layer.locked ? 'Unlock' : 'Lock'}
            icon={actions.layer.locked ? Lock : LockOpen}
            tooltip="A locked rough cannot be moved"
            onPress={() => actions.lock(!actions.layer.locked)}
          />
        </>
      )}
    </>
  );
}

const EDGES: readonly GuideKind[] = ['straightedge', 'batten', 'template'];
const FIELDS: readonly GuideKind[] = ['rails', 'ripples', 'rays', 'echo'];
const SYMMETRIES: readonly GuideKind[] = ['mirror', 'wheel'];

const isOneOf = (kinds: readonly GuideKind[], kind: GuideKind | undefined): boolean =>
  kind !== undefined && kinds.includes(kind);

/** The first of some kinds, or the one after `kind`: a chip that is touched again goes on. */
const nextOf = (kinds: readonly GuideKind[], kind: GuideKind | undefined): GuideKind =>
  kinds[kind === undefined ? 0 : (kinds.indexOf(kind) + 1) % kinds.length];

/** Guides: move them, lay one down, list them, rake along one. */
function GuideTools() {
  const { session } = useBoard();
  const tool = useDesk((desk) => desk.tool);
  const laying = useGuides((state) => state.laying);
  const isRoomy = useIsWide();
  return (
    <Cells>
      <Chip
        label="Move"
        icon={Move}
        isChosen={tool === 'guide' && !laying}
        tooltip={withKey('guide')}
        onPress={() => layNext(undefined)}
      />
      <Chip
        label="Edge"
        icon={Ruler}
        isChosen={tool === 'guide' && isOneOf(EDGES, laying)}
        tooltip="Lay down a straightedge, a batten or a template"
        onPress={() => layNext(nextOf(EDGES, laying))}
      />
      <Chip
        label="Field"
        icon={AlignJustify}
        isChosen={tool === 'guide' && isOneOf(FIELDS, laying)}
        tooltip="Lay down rails, ripples, rays or an echo"
        onPress={() => layNext(nextOf(FIELDS, laying))}
      />
      <Chip
        label="Axes"
        icon={Combine}
        isChosen={tool === 'guide' && isOneOf(SYMMETRIES, laying)}
        tooltip="Lay down a mirror or a wheel"
        onPress={() => layNext(nextOf(SYMMETRIES, laying))}
      />
      <Chip
        label="Depth"
        icon={Cuboid}
        isChosen={tool === 'depth'}
        tooltip={withKey('depth')}
        onPress={() => takeDepth(session.page, 'frame')}
      />
      <Chip
        label="Rake"
        icon={Rows}
        isChosen={tool === 'rake'}
        tooltip={withKey('rake')}
        onPress={() => takeTool('rake')}
      />
      {!isRoomy && (
        <Chip
          label="List"
          icon={ListTree}
          tooltip={withKey('guide-list')}
          onPress={() => setGuides({ isListOpen: true })}
        />
      )}
    </Cells>
  );
}

function InkTools() {
  const chips = INK_TOOLS.map((one) => <ToolInHand key={one.tool} {...one} />);
  return <Cells>{chips}</Cells>;
}

/** Chips that share the width of a phone, and stand in a grid on a wide screen. */
function Cells({ children }: { readonly children: ReactNode }) {
  const isRoomy = useIsWide();
  return isRoomy ? inCells(children, 'w-[60px]') : children;
}

const inCells = (chips: ReactNode, width: string) =>
  Children.map(chips, (chip) => chip && <View className={`h-[58px] ${width}`}>{chip}</View>);

/** CSS px that a chip and its gap need at least. */
const CHIP = 62;

/** More tools than a phone is wide: there they are drawn along sideways. A tablet shows all of them. */
function MendTools() {
  const isRoomy = useIsWide();
  const { width } = useWindowDimensions();
  const chips = MEND_TOOLS.map((one) => <ToolInHand key={one.tool} {...one} />);
  if (isRoomy || width >= MEND_TOOLS.length * CHIP) return <Cells>{chips}</Cells>;
  return (
    <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="items-center gap-1">
      {/* Words of two syllables are to be read whole. */}
      {inCells(chips, 'w-[68px]')}
    </ScrollView>
  );
}

interface ToolChip {
  readonly tool: Tool;
  readonly label: string;
  readonly icon: LucideIcon;
}

const INK_TOOLS: readonly ToolChip[] = [
  { tool: 'nib', label: 'Nib', icon: PenTool },
  { tool: 'rub', label: 'Rub', icon: Eraser },
  { tool: 'shape', label: 'Shapes', icon: Shapes },
  { tool: 'path', label: 'Bézier', icon: Spline },
  { tool: 'select', label: 'Select', icon: Lasso },
];

const MEND_TOOLS: readonly ToolChip[] = [
  { tool: 'snip', label: 'Snip', icon: Scissors },
  { tool: 'tidy', label: 'Tidy ends', icon: FoldVertical },
  { tool: 'tug', label: 'Tug', icon: Magnet },
  { tool: 'retrace', label: 'Retrace', icon: PencilLine },
  { tool: 'bridge', label: 'Bridge', icon: Link2 },
  { tool: 'reweigh', label: 'Re-weigh', icon: Weight },
  { tool: 'swell', label: 'Swell', icon: CircleDot },
  { tool: 'pool', label: 'Pool', icon: Droplet },
  { tool: 'ease', label: 'Ease', icon: Feather },
  { tool: 'knife', label: 'Knife', icon: Slice },
  { tool: 'points', label: 'Points', icon: Waypoints },
  { tool: 'lift', label: 'Lift', icon: ArrowUpFromLine },
];

function ToolInHand({ tool, label, icon }: ToolChip) {
  const isChosen = useDesk((desk) => desk.tool === tool);
  return <Chip {...{ label, icon, isChosen }} tooltip={withKey(tool)} onPress={() => takeTool(tool)} />;
}
