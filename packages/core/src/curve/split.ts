import { makeSpine, SEGMENT, segmentCount, STRIDE, type Spine, type SpinePlace } from './spine';

/**
 * Cuts a spine in two at a place. Both halves follow the old course and weight exactly (de Casteljau 1959).
 * A closed spine is cut as if it were open at its first node. Throws a RangeError for a place that is not on it.
 */
export function splitSpine(spine: Spine, at: SpinePlace): readonly [Spine, Spine] {
  checkPlace(spine, at);
  const { points } = spine;
  const offset = at.segment * SEGMENT;
  const before = points.slice(0, offset + SEGMENT + STRIDE);
  const after = points.slice(offset);
  splitCubic(points, offset, at.t, before, after);
  return [makeSpine(before), makeSpine(after)];
}

function checkPlace(spine: Spine, { segment, t }: SpinePlace): void {
  const count = segmentCount(spine);
  if (!(segment >= 0 && segment < count && t >= 0 && t <= 1))
    throw new RangeError(`Segment ${segment}, t ${t} is not on a spine of ${count} segments.`);
}

/** The part of a spine between two places, `from` before `to`. */
export function cutSpine(spine: Spine, from: SpinePlace, to: SpinePlace): Spine {
  const { points: old } = spine;
  checkPlace(spine, from);
  checkPlace(spine, to);
  const points = old.slice(from.segment * SEGMENT, (to.segment + 1) * SEGMENT + STRIDE);
  splitCubic(points, points.length - SEGMENT - STRIDE, to.t, points, undefined);
  // Within one segment the first cut has already shortened the parameter range.
  const t = from.segment === to.segment ? Math.min(1, to.t > 0 ? from.t / to.t : 0) : from.t;
  splitCubic(points, 0, t, undefined, points);
  return makeSpine(points);
}

/** Cuts the cubic at `offset` in two: its first part becomes the last cubic of `before`, its second the first of `after`. */
function splitCubic(
  points: Float64Array,
  offset: number,
  t: number,
  before: Float64Array | undefined,
  after: Float64Array | undefined,
): void {
  for (let axis = 0; axis < STRIDE; axis++) {
    const a = points[offset + axis];
    const b = points[offset + 3 + axis];
    const c = points[offset + 6 + axis];
    const d = points[offset + 9 + axis];
    const ab = a + (b - a) * t;
    const bc = b + (c - b) * t;
    const cd = c + (d - c) * t;
    const abc = ab + (bc - ab) * t;
    const bcd = bc + (cd - bc) * t;
    const middle = abc + (bcd - abc) * t;
    if (before) {
      const at = before.length - SEGMENT - STRIDE + axis;
      before[at] = a;
      before[at + 3] = ab;
      before[at + 6] = abc;
      before[at + 9] = middle;
    }
    if (after) {
      after[axis] = middle;
      after[axis + 3] = bcd;
      after[axis + 6] = cd;
      after[axis + 9] = d;
    }
  }
}
