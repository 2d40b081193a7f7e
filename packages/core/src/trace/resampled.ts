import { STRIDE } from '../curve';

/** Points of a line, x, y, width, evenly spaced. */
export interface Track {
  readonly points: Float64Array;
  /** Px from one point to the next. */
  readonly step: number;
}

/** Triples x, y, width at even distances along those that are given; a ring does not say its first one again. */
export function resampled(triples: ArrayLike<number>, step: number, isRing: boolean): Track {
  const given = triples.length / STRIDE;
  const legs = isRing ? given : given - 1;
  const along = new Float64Array(legs + 1);
  const at = (k: number, axis: number) => triples[STRIDE * (k % given) + axis];
  for (let k = 1; k <= legs; k++)
    along[k] = along[k - 1] + Math.hypot(at(k, 0) - at(k - 1, 0), at(k, 1) - at(k - 1, 1));
  const length = along[legs];
  const parts = Math.max(isRing ? 8 : 1, Math.round(length / step));
  const points = new Float64Array(STRIDE * (isRing ? parts : parts + 1));
  for (let k = 0, leg = 0; k * STRIDE < points.length; k++) {
    const here = (length * k) / parts;
    while (leg < legs - 1 && along[leg + 1] < here) leg++;
    const long = along[leg + 1] - along[leg];
    const share = long > 0 ? Math.min(1, Math.max(0, (here - along[leg]) / long)) : 0;
    for (let axis = 0; axis < STRIDE; axis++)
      points[STRIDE * k + axis] = at(leg, axis) + share * (at(leg + 1, axis) - at(leg, axis));
  }
  return { points, step: length / parts || step };
}

/** The widths of triples. */
export const widthsOf = (triples: ArrayLike<number>): Float64Array =>
  Float64Array.from({ length: triples.length / STRIDE }, (_, k) => triples[STRIDE * k + 2]);

/** Px between points that nothing was measured for. */
const STEP = 1.5;

/** Points from one to another, straight: that one left out, the other last. */
export function straightTo(from: readonly number[], to: readonly number[]): number[] {
  const parts = Math.max(1, Math.round(Math.hypot(to[0] - from[0], to[1] - from[1]) / STEP));
  return Array.from({ length: parts }, (_, k) =>
    from.map((value, axis) => value + ((to[axis] - value) * (k + 1)) / parts),
  ).flat();
}
