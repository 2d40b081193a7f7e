import type { Stage } from '../../board';
import { outlineSlot } from './fillTools';
import { joinSlot } from './joinHand';
import { leakSlot } from './leakHand';
import { pourSlot } from './pourHand';
import { blackTools } from './tools';

/** Blacks are spotted, lights cut out of them, flats dropped in beneath. */
export const BLACKS = {
  id: 'blacks',
  label: 'Blacks',
  tools: blackTools,
  holds: ['peek', 'borrow'],
  keeps: [outlineSlot, joinSlot, pourSlot, leakSlot],
} as const satisfies Stage;
