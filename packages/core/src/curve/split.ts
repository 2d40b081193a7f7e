import { makeSpine, SEGMENT, segmentCount, STRIDE, type Spine, type SpinePlace } from './spine';

/**
 * Cuts a spine in two at a place. Both halves follow the old course and weight exactly (de Casteljau 1959).
 * A closed spine is cut as if it were open at its first node. Throws a RangeError for a place that is not on it.
 */
export function splitSpine(spine: Spine, at: SpinePlace): readonly [Spine, Spine] {
  const last = segmentCount(spine) - 1;
  if (!(at.segment >= 0 && at.segment <= last && at.t >= 0 && at.t <= 1))
    throw new RangeError(`Segment ${at.segment}, t ${at.t} is not on a spine of ${last + 1} segments.`);
  const [before, after] = splitCubic(spine.points, at.segment * SEGMENT, at.t);
  const start = spine.points.subarray(0, at.segment * SEGMENT);
  const rest = spine.points.subarray((at.segment + 1) * SEGMENT + STRIDE);
  return [makeSpine(joined(start, before)), makeSpine(joined(after, rest))];
}

/** The part of a spine between two places, `from` before `to`. */
export function cutSpine(spine: Spine, from: SpinePlace, to: SpinePlace): Spine {
  const head = splitSpine(spine, to)[0];
  // Within one segment the first cut has already shortened the parameter range.
  const t = from.segment === to.segment ? Math.min(1, to.t > 0 ? from.t / to.t : 0) : from.t;
  return splitSpine(head, { segment: from.segment, t })[1];
}

function splitCubic(points: Float64Array, offset: number, t: number): readonly [Float64Array, Float64Array] {
  const before = new Float64Array(SEGMENT + STRIDE);
  const after = new Float64Array(SEGMENT + STRIDE);
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
    before.set([a], axis);
    before.set([ab], 3 + axis);
    before.set([abc], 6 + axis);
    before.set([middle], 9 + axis);
    after.set([middle], axis);
    after.set([bcd], 3 + axis);
    after.set([cd], 6 + axis);
    after.set([d], 9 + axis);
  }
  return [before, after];
}

function joined(a: Float64Array, b: Float64Array): Float64Array {
  const both = new Float64Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}
