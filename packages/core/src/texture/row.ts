import type { GuidePath } from '../curve';
import { PageError } from '../gate';
import type { FieldShape } from '../guides';
import type { Matrix3x3, Point } from '../math';

/**
 * Rows on a plane in perspective: they run at `angle` (radians) to the plane's own x, and their spacing is counted in its own px.
 * `map` takes those to the page.
 */
export interface PlaneField {
  readonly kind: 'plane';
  readonly map: Matrix3x3;
  readonly angle: number;
}

/** What rows run along. */
export type CombField = FieldShape | PlaneField;

/** A row before it is cut to what it fills. */
export interface Row {
  readonly path: GuidePath;
  /** Its number: rows of neighbouring numbers lie beside each other. */
  readonly k: number;
  /** How far apart rows lie about a place of it, as a share of their spacing; 1 everywhere where it is missing. */
  readonly narrowing?: (at: Point) => number;
}

/** How rows lie. Lengths in page px. */
export interface Rowing {
  readonly spacing: number;
  /** How far the next row strays to one side, as a share of the spacing. */
  readonly stray: () => number;
  /** Nearer to each other than this they stop, first every second one; 0 where they may crowd. */
  readonly touch: number;
}

/** Rows that one loop may have. */
export const MOST_ROWS = 10_000;

/** Says how many rows there would be. */
export function refuseRows(count: number): never {
  const some = count > 1e6 ? 'more than a million' : Math.round(count).toLocaleString('en-GB');
  throw new PageError(
    `This would be ${some} lines, and at most ${MOST_ROWS.toLocaleString('en-GB')} are drawn at once. Make the spacing wider or the loop smaller.`,
  );
}

/** Rays that go on to where every sixteenth of them would touch the next. */
export const EVEN_ROUND = 16;

/** The largest power of two, up to 16, by which the number of a row can be divided: the larger, the longer it goes on. */
export function powerIn(k: number): number {
  let power = 1;
  while (power < EVEN_ROUND && k % (2 * power) === 0) power *= 2;
  return power;
}

/** How far apart rows stay that come together, in weights: the paper between them is still seen. */
export const APART = 1.5;
