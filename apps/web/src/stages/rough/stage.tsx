import Panels from 'lucide-react-native/icons/layout-panel-top';
import Picture from 'lucide-react-native/icons/image';
import ScanLine from 'lucide-react-native/icons/scan-line';
import type { Stage, Tool, Wing } from '../../board';
import { TurningRows } from '../../hand';
import { RoughAll, RoughChips, RoughLine } from './RoughBench';
import { beginPlacing } from './roughHand';
import { useRoughInHand } from './useRoughInHand';

/** Moves, sizes and turns the rough in hand. */
const place: Tool = {
  id: 'place-rough',
  label: 'Place',
  icon: Picture,
  hint: 'Drag the rough, its corners or its knob',
  command: { room: 'Draw', label: 'Place the rough' },
  borrows: 'nib',
  begin(board, { at, modifiers }) {
    const { roughId } = board.desk();
    return roughId === undefined ? undefined : beginPlacing(board, roughId, at, () => modifiers().shiftKey);
  },
  Line: RoughLine,
  Settings: RoughAll,
};

/** A sketch, a scan or a photo is brought in to draw over; by wings, it is traced, and the page is laid out in panels. */
export const roughStage = (panels: Wing, trace: Wing) =>
  ({
    id: 'rough',
    label: 'Rough',
    key: 'Digit1',
    tools: [place, ...trace.tools, ...panels.tools],
    holds: ['move', 'scrub-zoom'],
    isAside: true,
    keeps: [...(trace.keeps ?? []), ...(panels.keeps ?? [])],
    forget: () => {
      trace.forget?.();
      panels.forget?.();
    },
    commands: [...(trace.commands ?? []), ...(panels.commands ?? [])],
    holdCommands: panels.holdCommands ?? [],
    Chips: () => (
      <TurningRows
        rows={[
          { label: 'Rough', icon: Picture, tools: [place], chips: <RoughChips place={place} /> },
          { label: 'Scan', icon: ScanLine, tools: trace.tools },
          { label: 'Panels', icon: Panels, tools: panels.tools },
        ]}
      />
    ),
    Habit: () => (useRoughInHand(), null),
  }) satisfies Stage;
