import type { Spine } from '../curve';
import type { LaidBase } from '../kind';
import type { Point } from '../math';

/** What is within the rings: a colour, or nothing at all, which takes away what lies beneath it on its layer. */
export type AreaFill =
  | { readonly as: 'colour'; readonly color: string; readonly opacity?: number }
  /** A nick. */
  | { readonly as: 'nothing' };

/** Where a flat was poured, page px, and by what: what the hand poured stays when the page is flatted. */
export interface Pour extends Point {
  readonly by: 'hand' | 'page';
}

/** A filled shape as a value. Lengths in page px. */
export interface Area {
  /** Closed; filled together by the non-zero rule, so holes wind against what they lie in. Their widths say nothing. */
  readonly rings: readonly Spine[];
  readonly fill: AreaFill;
  /** It is the flat of a region between lines. */
  readonly poured?: Pour;
}

export interface AreaEntity extends Area, LaidBase {
  readonly kind: 'area';
}
