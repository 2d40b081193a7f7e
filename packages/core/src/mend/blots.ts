import { evenlyWide, type Spine } from '../curve';
import { outlineOf } from '../ink';
import { areaOfRings, isInRing, ringArea, ringPoints, withinRings, withoutRings } from '../math';
import type { Stroke } from '../stroke';
import { polylineSpine } from '../shapes';

/** What is left of a blot where a ring is taken out of it; nothing where it takes nothing. Corner by corner, not eased. */
export function blotWithout<S extends Stroke>(stroke: S, gone: Float64Array): S[] | undefined {
  const { rings } = outlineOf(stroke);
  if (areaOfRings(withinRings(rings, [gone])) < LEAST_INK) return undefined;
  return blotsOf(stroke, withoutRings(rings, [gone]));
}

/** What is left of a blot in a ring, as `blotWithout`. */
export function blotWithin<S extends Stroke>(stroke: S, kept: Float64Array): S[] | undefined {
  const { rings } = outlineOf(stroke);
  const left = withinRings(rings, [kept]);
  return areaOfRings(rings) - areaOfRings(left) < LEAST_INK ? undefined : blotsOf(stroke, left);
}

/** px² that nobody misses. */
export const LEAST_INK = 0.01;

/** How much of a stroke's ink lies within a ring and how much without, px². */
export function inkAt(stroke: Stroke, ring: Float64Array): { readonly within: number; readonly without: number } {
  const { rings } = outlineOf(stroke);
  return { within: areaOfRings(withinRings(rings, [ring])), without: areaOfRings(withoutRings(rings, [ring])) };
}

function blotsOf<S extends Stroke>(stroke: S, rings: readonly Float64Array[]): S[] {
  const { origin: _gone, guide: _left, copy: _alone, grain: _grain, ...rest } = stroke;
  const { edge: _edge, tip: _tip, profile: _profile, ...plain } = stroke.nib;
  return partsOf(rings).map((ring) => ({
    // Everything but these, which may be missing on any stroke, is still there.
    ...(rest as S),
    nib: plain,
    spine: ringSpine(ring),
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
const ringSpine = (ring: Float64Array): Spine => evenlyWide(polylineSpine(ringPoints(ring), true), 0);
