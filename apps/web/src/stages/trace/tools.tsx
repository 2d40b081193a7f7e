import Crop from 'lucide-react-native/icons/scan';
import Spline from 'lucide-react-native/icons/spline';
import Wrench from 'lucide-react-native/icons/circle-dot';
import type { Command, Tool, Wing } from '../../board';
import { regionSlot } from './regionHand';
import { RightLine, RightSettings } from './RightSettings';
import { rightSlot } from './rightHand';
import { StraightenLine, StraightenSettings } from './StraightenSettings';
import { straightenSlot } from './straightenHand';
import { TraceLine, TraceSettings } from './TraceSettings';
import { NOTHING_TRACED, useTrace } from './traceStore';
import { tracingSlot } from './tracingDesk';

const straighten: Tool = {
  id: 'straighten',
  label: 'Straighten',
  icon: Crop,
  hint: 'Drag the four corners onto the sheet, then make it flat',
  command: { room: 'Draw', label: 'Straighten a photo of paper' },
  borrows: 'place-rough',
  begin: (board, press) => board.of(straightenSlot).drag(press),
  Line: StraightenLine,
  Settings: StraightenSettings,
};

const trace: Tool = {
  id: 'trace',
  label: 'Trace',
  icon: Spline,
  hint: 'Set what counts as a line, then trace; Enter traces',
  command: { room: 'Draw', label: 'Trace a scan' },
  borrows: 'straighten',
  begin: (board, press) => board.of(regionSlot).begin(press),
  Line: TraceLine,
  Settings: TraceSettings,
};

const putRight: Tool = {
  id: 'put-right',
  label: 'Put right',
  icon: Wrench,
  hint: 'Touch a marked place: it is traced another way. Arrows step from place to place',
  command: { room: 'Draw', label: 'Put a tracing right' },
  borrows: 'trace',
  begin: (board, { at }) => board.of(rightSlot).begin(at),
  Line: RightLine,
  Settings: RightSettings,
};

const commands: readonly Command[] = [
  {
    id: 'next-doubt',
    label: 'Next place in doubt',
    room: 'Draw',
    key: 'Period',
    run: (board) => board.of(rightSlot).step(1),
  },
  {
    id: 'last-doubt',
    label: 'Place in doubt before',
    room: 'Draw',
    key: 'Comma',
    run: (board) => board.of(rightSlot).step(-1),
  },
  {
    id: 'another-way',
    label: 'Trace the place another way',
    room: 'Draw',
    key: 'Slash',
    run: (board) => void board.of(rightSlot).another(),
  },
  { id: 'let-be-ink', label: 'Let the tracing be ink', room: 'Draw', run: (board) => board.of(tracingSlot).letGoOf() },
];

/** The wing of the stage of roughs that turns scans into lines. */
export const TRACE: Wing = {
  tools: [straighten, trace, putRight],
  keeps: [tracingSlot, straightenSlot, regionSlot, rightSlot],
  forget: () => useTrace.setState(NOTHING_TRACED),
  commands,
};
