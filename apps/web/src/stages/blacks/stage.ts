import type { Stage } from '../../board';
import { outlineSlot } from './fillTools';
import { joinSlot } from './joinHand';
import { leakSlot } from './leakHand';
import { pieceSlot } from './pieceHand';
import { pourSlot } from './pourHand';
import { blackTools } from './tools';

/** Blacks are spotted, lights cut out of them, flats dropped in beneath. */
export const BLACKS = {
  id: 'blacks',
  label: 'Blacks',
  tools: blackTools,
  holds: ['pick-colour', 'peek', 'borrow'],
  keeps: [outlineSlot, joinSlot, pieceSlot, pourSlot, leakSlot],
} as const satisfies Stage;
