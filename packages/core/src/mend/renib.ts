import { reversedSpine, type Spine } from '../curve';
import { outlineOf, redrawn, whyNotRecalm } from '../ink';
import { isInRing, ringArea, withoutRings } from '../math';
import type { Nib, PenSample, Stroke } from '../page';
import { ease } from './ease';

/**
 * A line as another nib would have drawn it: from its raw samples where it still has them, otherwise its widths as many
 * times as large as the nib is.
 */
export function withNib<S extends Stroke>(stroke: S, nib: Nib, samples?: readonly PenSample[]): S {
  const { origin, spine } = stroke;
  if (origin && samples && !whyNotRecalm(stroke)) return redrawn(stroke, samples, nib, origin.calm);
  const factor = nib.size / stroke.nib.size;
  const points = spine.points.map((value, k) => (k % 3 === 2 ? value * factor : value));
  return { ...stroke, nib, spine: { ...spine, points } };
}

/** A line drawn from its end to its start; it looks the same, and tapers, profiles and grain run the other way from now on. */
export function reversed<S extends Stroke>(stroke: S): S {
  const { origin: _gone, ...rest } = stroke;
  // Everything but its samples, which went the other way.
  return { ...(rest as S), spine: reversedSpine(stroke.spine), ends: [stroke.ends[1], stroke.ends[0]] };
}

/** Page px that a blot may stray from the ink it was made of. */
const STRAY = 0.08;

/**
 * The inked shape of a line as filled outlines, which can be edited like lines: one for each part that hangs together. A
 * hole hangs on its outline by a slit of no width.
 */
export function asBlots<S extends Stroke>(stroke: S): S[] {
  const { origin: _gone, guide: _left, copy: _alone, grain: _grain, ...rest } = stroke;
  const { edge: _edge, tip: _tip, profile: _profile, ...plain } = stroke.nib;
  return partsOf(outlineOf(stroke).rings).map((ring) => ({
    // Everything but these, which may be missing on any stroke, is still there.
    ...(rest as S),
    nib: plain,
    spine: ease(ringSpine(ring), STRAY),
    ends: ['round', 'round'] as const,
    fills: true as const,
  }));
}

/** Filled rings as simple ones, each with its holes hung into it. */
function partsOf(rings: readonly Float64Array[]): Float64Array[] {
  const simple = withoutRings(rings, []);
  const outer = simple.filter((ring) => ringArea(ring) > 0);
  const holes = simple.filter((ring) => ringArea(ring) < 0);
  return outer.map((ring) =>
    holes
      .filter((hole) => isInRing(ring, { x: hole[0], y: hole[1] }))
      .reduce((whole, hole) => slitInto(whole, hole), ring),
  );
}

/** A ring that goes to a hole from its nearest corner, round it and back. */
function slitInto(ring: Float64Array, hole: Float64Array): Float64Array {
  let [least, at, from] = [Infinity, 0, 0];
  for (let i = 0; i < ring.length; i += 2)
    for (let k = 0; k < hole.length; k += 2) {
      const gap = (ring[i] - hole[k]) ** 2 + (ring[i + 1] - hole[k + 1]) ** 2;
      if (gap < least) [least, at, from] = [gap, i, k];
    }
  const round = [...hole.subarray(from), ...hole.subarray(0, from + 2)];
  return Float64Array.from([...ring.subarray(0, at + 2), ...round, ...ring.subarray(at)]);
}

/** A polygon as a closed spine of no width. */
function ringSpine(ring: Float64Array): Spine {
  const points: number[] = [ring[0], ring[1], 0];
  const count = ring.length / 2;
  for (let k = 1; k <= count; k++) {
    const [ax, ay] = [ring[2 * k - 2], ring[2 * k - 1]];
    const [bx, by] = [ring[(2 * k) % ring.length], ring[(2 * k + 1) % ring.length]];
    for (const t of [1 / 3, 2 / 3, 1]) points.push(ax + t * (bx - ax), ay + t * (by - ay), 0);
  }
  return { points: Float64Array.from(points), closed: true };
}
