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
import Waypoints from 'lucide-react-native/icons/waypoints';
import Weight from 'lucide-react-native/icons/weight';
import type { Tool } from '../../board';
import { Hint, LineHint } from '../../look';
import { beginLifting } from './liftHand';
import { MendFields, MendNow, MendSettings } from './MendSettings';
import { mendSlot, type MendingTool } from './mendTool';
import { PointSettings, PointsInWords } from './PointSettings';
import { pointSlot } from './pointTool';

interface Mending {
  readonly id: MendingTool;
  readonly label: string;
  readonly icon: LucideIcon;
  readonly hint: string;
  /** What its command is called, where that is not the word on its chip. */
  readonly named?: string;
  readonly borrows?: string;
}

/** None has a key from the start: one hand's keys are taken; any can be given one. */
const mending = ({ id, label, icon, hint, named = label, borrows = 'nib' }: Mending): Tool => ({
  ...{ id, label, icon, hint, borrows },
  command: { room: 'Mend', label: named },
  begin: (board, press) => board.of(mendSlot).begin(id, press.at, press.notice),
  Line: () => <MendNow tool={id} />,
  Settings: ({ isWide }) => (isWide ? <MendSettings tool={id} /> : <MendFields tool={id} />),
});

const points: Tool = {
  id: 'points',
  label: 'Points',
  icon: Waypoints,
  hint: 'Touch a line, then drag its points',
  command: { room: 'Draw', key: 'Shift+Digit3' },
  borrows: 'nib',
  begin: (board, press) => board.of(pointSlot).begin(press.at, press.modifiers),
  Line: PointsInWords,
  Settings: PointSettings,
};

const lift: Tool = {
  id: 'lift',
  label: 'Lift',
  icon: ArrowUpFromLine,
  hint: 'Lift takes whole lines',
  command: { room: 'Draw', key: 'KeyE' },
  borrows: 'nib',
  begin: beginLifting,
  Line: () => <LineHint>Touch a line to lift it off the page.</LineHint>,
  Settings: ({ isWide }) => (
    <Hint>
      {isWide
        ? 'Touch a line, or drag over several, to lift them off the page.'
        : 'Touch a line, or drag over several.'}
    </Hint>
  ),
};

export const mendTools: readonly Tool[] = [
  mending({ id: 'snip', label: 'Snip', icon: Scissors, hint: 'Touch a piece to snip it off' }),
  mending({
    ...{ id: 'tidy', label: 'Tidy ends', icon: FoldVertical, borrows: 'snip' },
    hint: 'Touch a ring to leave that end alone',
  }),
  mending({ id: 'tug', label: 'Tug', icon: Magnet, hint: 'Drag a line to pull it' }),
  mending({ id: 'retrace', label: 'Retrace', icon: PencilLine, hint: 'Draw over a line' }),
  mending({ id: 'bridge', label: 'Bridge', icon: Link2, hint: 'Touch a ring to leave that gap open' }),
  mending({ id: 'reweigh', label: 'Re-weigh', icon: Weight, hint: 'Draw along a line to weigh it' }),
  mending({
    ...{ id: 'swell', label: 'Swell', named: 'Swell or pare', icon: CircleDot },
    hint: 'Brush over lines to swell or pare them',
  }),
  mending({ id: 'pool', label: 'Pool', icon: Droplet, hint: 'Ink gathers where lines meet' }),
  mending({ id: 'ease', label: 'Ease', icon: Feather, hint: 'Fewer points, the same lines' }),
  mending({ id: 'knife', label: 'Knife', named: 'Pare knife', icon: Slice, hint: 'Draw a loop to cut along' }),
  points,
  lift,
];
