import type { GradientFill } from '../area';
import type { Box } from '../math';
import type { PxRows } from '../tone';

/**
 * What fills a part of the paper: closed rings of x, y pairs, page px, filled together by one rule. `of` names what the rings
 * are made of: shapes made of the very same have the same rings, so that a path of them need not be made twice.
 */
export interface MarkShape {
  readonly of: readonly [thing: object, ...more: readonly unknown[]];
  readonly rule: 'nonzero' | 'evenodd';
  /** The rings, straying by no more than `tolerance` page px. */
  rings(tolerance: number): readonly Float64Array[];
}

/** What lies on the paper. */
export interface Mark extends MarkShape {
  /** `#rrggbb` */
  readonly color: string;
  /** Colours that go over into each other, in place of `color`. */
  readonly shade?: Shade;
  /** 0..1 */
  readonly opacity: number;
  /** Only what lies in here shows. */
  readonly clip?: MarkShape;
  /** It takes away what lies beneath it on its layer, in place of inking. */
  readonly cuts?: true;
  /** Where it lies, page px, if it is one of many marks of a thing, or one that takes long: those out of sight are let be. */
  readonly box?: Box;
  /** What is seen in its place from a scale on, device px per page px: a mark of its own for each part of it. */
  readonly finer?: {
    readonly from: number;
    readonly marks: () => readonly Mark[];
    /** Which px of a block it inks where all px are black or white, row by row, 1 or 0. */
    readonly px: (rows: PxRows) => Uint8Array;
  };
}

/** A gradient as it is painted. */
export type Shade = Pick<GradientFill, 'ramp' | 'stops'>;

/** Marks as they are seen at a scale, device px per page px; Infinity is as fine as it can be. */
export function marksAt(marks: readonly Mark[], scale: number): readonly Mark[] {
  const isCoarse = ({ finer }: Mark) => finer !== undefined && scale >= finer.from;
  // Nearly always there is no such mark: no list is made.
  if (!marks.some(isCoarse)) return marks;
  return marks.flatMap((mark) => (mark.finer && isCoarse(mark) ? mark.finer.marks() : mark));
}

/** Whether two shapes have the same rings at any tolerance. */
export function isSameShape(a: MarkShape, b: MarkShape): boolean {
  if (a === b) return true;
  if (a.of.length !== b.of.length) return false;
  for (let k = 0; k < a.of.length; k++) if (a.of[k] !== b.of[k]) return false;
  return true;
}
