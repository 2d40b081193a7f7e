import type { AreaFill } from '../area';
import type { LaidBase } from '../kind';

/** Many dots as a value. Lengths in page px. */
export interface Dots {
  /** Triples x, y, width: the middle of each dot and how wide it is. */
  readonly dots: Float64Array;
  /** A colour; or nothing, which takes away what lies beneath the dots on their layer. */
  readonly fill: Extract<AreaFill, { readonly as: 'colour' | 'nothing' }>;
}

export interface DotsEntity extends Dots, LaidBase {
  readonly kind: 'dots';
}
