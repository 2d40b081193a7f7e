import type { FieldShape } from '../guides';
import type { EntityId } from '../kind';
import type { Point } from '../math';
import type { Nib } from '../nib';
import type { Stroke } from '../stroke';
import { combRows } from './comb';

/** How a loop is filled with lines of a field. Lengths in page px. */
export interface RakeSettings {
  readonly nib: Nib;
  /** Between two lines; of rays, where they cross the loop on average. */
  readonly spacing: number;
  /** How far a line may stray from its place, 0..1 of the spacing. */
  readonly jitter: number;
  /** How much of its length a line may lack at its far end, 0..1. */
  readonly ragged: number;
  /** A loop that stays free. */
  readonly middle?: readonly Point[];
  /** The guide that the field belongs to: the lines remember it, so that they can be tethered. */
  readonly guideId?: EntityId;
}

/**
 * A comb whose rows crowd as far as their field takes them: speed lines from rails, focus lines from rays (drawn from outside
 * inwards), rings from ripples, echoes of a curve. Throws what `combRows` throws.
 */
export const rake = (
  field: FieldShape,
  loop: readonly Point[],
  { jitter, ragged, ...settings }: RakeSettings,
  seed: number,
): Stroke[] => combRows(loop, field, { ...settings, stray: jitter, short: ragged, crowds: true }, seed);
