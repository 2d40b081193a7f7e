import type { Stage } from '../../board';
import { RoughAll, RoughChips, RoughLine } from './RoughBench';
import { beginPlacing } from './roughHand';
import { useRoughInHand } from './useRoughInHand';

/** A sketch, a scan or a photo is brought in to draw over. */
export const ROUGH = {
  id: 'rough',
  label: 'Rough',
  key: 'Digit1',
  tools: [],
  holds: ['move', 'scrub-zoom'],
  Chips: RoughChips,
  hint: 'Drag the rough, its corners or its knob',
  Line: RoughLine,
  Settings: RoughAll,
  begin(board, { at, modifiers }) {
    const { roughId } = board.desk();
    return roughId === undefined ? undefined : beginPlacing(board, roughId, at, () => modifiers().shiftKey);
  },
  Habit: () => (useRoughInHand(), null),
} as const satisfies Stage;
