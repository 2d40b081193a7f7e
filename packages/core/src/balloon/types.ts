import type { Spine } from '../curve';
import type { LaidBase } from '../kind';
import type { Matrix, Point } from '../math';
import type { Nib } from '../nib';

/** What a body of a balloon looks like. `own` has a course of its own. */
export const BODY_SHAPES = ['oval', 'box', 'rounded', 'cloud', 'burst', 'own'] as const;
export type BodyShape = (typeof BODY_SHAPES)[number];

/** A body of a balloon: so wide and high about its own middle, laid on the page by a map. Page px. */
export interface Body {
  readonly shape: BodyShape;
  readonly width: number;
  readonly height: number;
  readonly place: Matrix;
  /** For `own`: closed, about its own middle, as wide and high as it says. */
  readonly ring?: Spine;
}

/** `pointed` runs into a point, `bubbles` is a row of rings that get smaller, for thoughts. */
export const TAIL_KINDS = ['pointed', 'bubbles'] as const;
export type TailKind = (typeof TAIL_KINDS)[number];

/** A tail. Lengths in page px. */
export interface Tail {
  readonly kind: TailKind;
  /** The body that it grows from. */
  readonly body: number;
  /** Where on that body's outline, as the direction from its middle in its own px: radians from x towards y. */
  readonly root: number;
  /** How wide it is there. */
  readonly width: number;
  readonly tip: Point;
  /** How far its middle lies beside the straight way, as a share of its length; 0 is straight. */
  readonly bend: number;
}

/** A neck between two bodies. */
export interface Bridge {
  readonly between: readonly [number, number];
  readonly width: number;
}

/** A balloon as a value. */
export interface Balloon {
  /** One at least. Those that touch have one outline. */
  readonly bodies: readonly Body[];
  readonly tails: readonly Tail[];
  readonly bridges?: readonly Bridge[];
  /** None where it is missing. */
  readonly border?: Nib;
  /** `#rrggbb`; it lets all beneath it show where it is missing. */
  readonly ground?: string;
}

export interface BalloonEntity extends Balloon, LaidBase {
  readonly kind: 'balloon';
}
