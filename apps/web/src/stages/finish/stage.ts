import type { Stage } from '../../board';
import { FinishAll, FinishChips, FinishLine } from './FinishBench';

/** The page is delivered. */
export const FINISH = {
  id: 'finish',
  label: 'Finish',
  key: 'Digit3',
  tools: [],
  holds: ['move', 'scrub-zoom'],
  PhoneChips: FinishChips,
  hint: 'The page, ready to deliver',
  Line: FinishLine,
  Settings: FinishAll,
  showsPlain: true,
} as const satisfies Stage;
