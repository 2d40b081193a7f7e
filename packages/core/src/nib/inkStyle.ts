import { colour, number, oneOf, optional, record } from '../gate';
import { checkNib } from './check';
import type { Nib } from './types';

/** How all lines of an ink layer are shown, whatever they were drawn with. Changing it changes no stroke. */
export interface InkStyle {
  /** One colour for all lines, `#rrggbb`. */
  readonly color?: string;
  /** Every width times this, 0.1–10. */
  readonly widthFactor: number;
  /** All lines as this nib would have drawn them; its colour is not taken. */
  readonly nib?: Nib;
  /** `hard` has no half-covered pixels, as 1-bit print has none. */
  readonly edge: 'soft' | 'hard';
}

/** Lines as they were drawn. */
export const PLAIN_STYLE: InkStyle = { widthFactor: 1, edge: 'soft' };

/** The style in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkStyle(value: unknown): InkStyle {
  const fields = record(value, 'A style');
  return {
    widthFactor: number(fields.widthFactor, 'widthFactor', 0.1, 10),
    edge: oneOf(fields.edge, 'edge', ['soft', 'hard']),
    ...optional(fields, 'color', colour),
    ...optional(fields, 'nib', checkNib),
  };
}
