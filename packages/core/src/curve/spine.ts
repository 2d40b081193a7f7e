import { boxOfFlat, growBox, type Box } from '../math';

/**
 * A line with a weight: a chain of cubic Béziers in three dimensions (x, y, width), in page px.
 *
 * `points` holds triples `x, y, width`: a node, two handles, a node, two handles, … a node, so a spine of n segments
 * has 3n + 1 triples and segment i starts at triple 3i. The width has handles like the course has, so splitting by
 * de Casteljau keeps both exactly. A closed spine repeats its first node as its last.
 */
export interface Spine {
  readonly points: Float64Array;
  readonly closed: boolean;
}

/** A place on a spine: `t` in 0..1 along the cubic number `segment`. */
export interface SpinePlace {
  readonly segment: number;
  readonly t: number;
}

/** A point of a line with its full width, in page px. */
export interface WeightedPoint {
  readonly x: number;
  readonly y: number;
  readonly width: number;
}

/** Numbers per point of a spine, a track or a polyline: x, y, width. */
export const STRIDE = 3;
/** Numbers per segment: a node and its two handles. */
export const SEGMENT = 9;

export const segmentCount = (spine: Spine): number => (spine.points.length - STRIDE) / SEGMENT;

/** Throws a RangeError unless the triples make whole cubics. */
export function makeSpine(points: Float64Array, closed = false): Spine {
  if (points.length < SEGMENT + STRIDE || (points.length - STRIDE) % SEGMENT !== 0)
    throw new RangeError(`A spine needs 3n + 1 triples of x, y, width; ${points.length} numbers came.`);
  return { points, closed };
}

export function pointAt(spine: Spine, { segment, t }: SpinePlace): WeightedPoint {
  const p = spine.points;
  const i = segment * SEGMENT;
  return {
    x: cubicAt(p[i], p[i + 3], p[i + 6], p[i + 9], t),
    y: cubicAt(p[i + 1], p[i + 4], p[i + 7], p[i + 10], t),
    width: Math.max(0, cubicAt(p[i + 2], p[i + 5], p[i + 8], p[i + 11], t)),
  };
}

export function cubicAt(a: number, b: number, c: number, d: number, t: number): number {
  const s = 1 - t;
  return s * s * (s * a + 3 * t * b) + t * t * (3 * s * c + t * d);
}

export function cubicSlope(a: number, b: number, c: number, d: number, t: number): number {
  const s = 1 - t;
  return 3 * (s * s * (b - a) + 2 * s * t * (c - b) + t * t * (d - c));
}

/** The greatest width at any node or handle, page px. */
export function widestOf({ points }: Spine): number {
  let widest = 0;
  for (let i = 2; i < points.length; i += STRIDE) widest = Math.max(widest, points[i]);
  return widest;
}

/** Whether two spines have the same course, to within 10⁻⁶ page px, whatever their weights. */
export function isSameCourse({ points: p }: Spine, { points: q }: Spine): boolean {
  if (p.length !== q.length) return false;
  for (let i = 0; i < p.length; i++) if (i % STRIDE !== 2 && Math.abs(p[i] - q[i]) > 1e-6) return false;
  return true;
}

/** The upright box around all nodes and handles, grown by half the greatest width: it holds every inked pixel. */
export const spineBox = (spine: Spine): Box => growBox(boxOfFlat(spine.points, STRIDE), widestOf(spine) / 2);
