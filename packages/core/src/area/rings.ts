import { evenlyWide, flattenSpine, makeSpine, reversedSpine, STRIDE, type Spine } from '../curve';
import { isInRing, ringArea, windingOf, type Point } from '../math';
import type { Area, AreaFill } from './types';

/** Page px by which a ring may stray where it is only measured. */
const MEASURED = 0.05;

const flattened = new WeakMap<Spine, { readonly tolerance: number; readonly ring: Float64Array }>();

/** A ring as x, y pairs that stray by no more than `tolerance` page px; the one last asked for is kept. */
export function flatRing(spine: Spine, tolerance = MEASURED): Float64Array {
  const known = flattened.get(spine);
  if (known?.tolerance === tolerance) return known.ring;
  const line = flattenSpine(spine, tolerance);
  // The last point of a closed line is its first.
  const count = line.length / STRIDE - 1;
  const ring = new Float64Array(2 * count);
  for (let k = 0; k < count; k++) {
    ring[2 * k] = line[STRIDE * k];
    ring[2 * k + 1] = line[STRIDE * k + 1];
  }
  flattened.set(spine, { tolerance, ring });
  return ring;
}

/** Whether a point lies in an area. */
export const isInArea = ({ rings }: Area, at: Point): boolean =>
  rings.reduce((winding, ring) => winding + windingOf(flatRing(ring), at), 0) !== 0;

/** Its rings as they are kept: without a weight, the outer one as it is and each hole winding against what it lies in. */
export function nested(courses: readonly Spine[]): Spine[] {
  const all = courses.map((course) => {
    const ring = flatRing(course);
    return { course, ring, area: ringArea(ring) };
  });
  return all.map(({ course, ring, area }) => {
    const at = { x: ring[0], y: ring[1] };
    const depth = all.filter((other) => other.ring !== ring && isInRing(other.ring, at)).length;
    const isHole = depth % 2 === 1;
    return evenlyWide(area < 0 === isHole ? course : reversedSpine(course), 0);
  });
}

/** Courses as one area; open ones are closed by a straight line. */
export const areaWithin = (courses: readonly Spine[], fill: AreaFill): Area => ({
  rings: nested(courses.map(closed)),
  fill,
});

function closed(course: Spine): Spine {
  if (course.closed) return course;
  const { points } = course;
  const [x, y, u, v] = [points[points.length - STRIDE], points[points.length - STRIDE + 1], points[0], points[1]];
  if (x === u && y === v) return { points, closed: true };
  const at = (t: number) => [x + (u - x) * t, y + (v - y) * t, 0];
  return makeSpine(Float64Array.from([...points, ...at(1 / 3), ...at(2 / 3), u, v, 0]), true);
}
