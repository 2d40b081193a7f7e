import { cubicSlope, SEGMENT, segmentCount, STRIDE, makeSpine, type Spine, type SpinePlace } from './spine';
import { cutSpine } from './split';
import { flattenSpine, flattenedCounts } from './flatten';

/** Page px that a course may stray from its spine. */
export const COURSE_TOLERANCE = 0.05;

/**
 * A spine as a polyline that knows where it lies on it. A place is one number here: the cubic's number and the way along
 * its parameter, so 3.25 is a quarter along the fourth cubic.
 */
export interface Course {
  /** Triples x, y, width. */
  readonly line: Float64Array;
  /** The place of each point on the spine. */
  readonly places: Float64Array;
  /** The way up to each point, page px. */
  readonly along: Float64Array;
}

const known = new WeakMap<Spine, Course>();

/** The course of a spine, made once for each spine. */
export function courseOf(spine: Spine): Course {
  let course = known.get(spine);
  if (!course) known.set(spine, (course = makeCourse(spine)));
  return course;
}

function makeCourse(spine: Spine): Course {
  const line = flattenSpine(spine, COURSE_TOLERANCE);
  const count = line.length / STRIDE;
  const places = new Float64Array(count);
  const along = new Float64Array(count);
  let k = 1;
  flattenedCounts(spine, COURSE_TOLERANCE).forEach((pieces, segment) => {
    for (let piece = 1; piece <= pieces; piece++, k++) {
      places[k] = segment + piece / pieces;
      const i = k * STRIDE;
      along[k] = along[k - 1] + Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]);
    }
  });
  return { line, places, along };
}

export const lengthOf = ({ along }: Course): number => along[along.length - 1];

/** The place at a length along a course, page px; its ends where the length goes beyond them. */
export const placeAlong = ({ along, places }: Course, length: number): number => looked(along, places, length);

/** The length along a course at a place. */
export const alongAt = ({ along, places }: Course, place: number): number => looked(places, along, place);

/** Looks `value` up in a rising list and answers what lies at the same share in another one. */
function looked(list: Float64Array, other: Float64Array, value: number): number {
  let low = 0;
  let high = list.length - 1;
  if (!(value > list[low])) return other[low];
  if (value >= list[high]) return other[high];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (list[middle] <= value) low = middle;
    else high = middle;
  }
  const room = list[high] - list[low];
  return other[low] + (room > 0 ? (value - list[low]) / room : 0) * (other[high] - other[low]);
}

/** A place as one number, and the other way round. */
export const placeNumber = ({ segment, t }: SpinePlace): number => segment + t;

export function placeOf(spine: Spine, place: number): SpinePlace {
  const segment = Math.max(0, Math.min(segmentCount(spine) - 1, Math.floor(place)));
  return { segment, t: Math.max(0, Math.min(1, place - segment)) };
}

/** Where the course goes at a place: a direction of unit length; of the way beside it where it stands still. */
export function directionAt(
  { points: p }: Spine,
  { segment, t }: SpinePlace,
): { readonly x: number; readonly y: number } {
  const i = segment * SEGMENT;
  const slope = (u: number) => ({
    x: cubicSlope(p[i], p[i + 3], p[i + 6], p[i + 9], u),
    y: cubicSlope(p[i + 1], p[i + 4], p[i + 7], p[i + 10], u),
  });
  let { x, y } = slope(t);
  if (Math.hypot(x, y) < 1e-9) ({ x, y } = slope(t < 0.5 ? t + 1e-3 : t - 1e-3));
  const length = Math.hypot(x, y);
  return length > 0 ? { x: x / length, y: y / length } : { x: 1, y: 0 };
}

/** The part between two places, `from` before `to`. */
export function partOf(spine: Spine, from: number, to: number): Spine {
  // Where a cubic ends, not where the next one starts: that would leave a cubic of no length.
  const segment = Math.ceil(Math.min(to, endOf(spine)) - 1e-12) - 1;
  const last = { segment: Math.max(0, segment), t: Math.min(1, Math.max(0, to - Math.max(0, segment))) };
  return cutSpine(spine, placeOf(spine, from), last);
}

/** A closed spine that starts and ends at a place; an open one is left as it is. */
export function startedAt(spine: Spine, place: number): Spine {
  const count = segmentCount(spine);
  if (!spine.closed || place <= 0 || place >= count) return spine;
  return { ...joinedSpines([partOf(spine, place, count), partOf(spine, 0, place)]), closed: true };
}

/** Where a place of a ring lies once it starts at another place (see `startedAt`); `count` cubics before. */
export function movedPlace(place: number, start: number, count: number): number {
  const cut = Math.floor(start);
  const share = start - cut;
  if (start <= 0 || start >= count) return place;
  const segment = Math.min(count - 1, Math.floor(place));
  const t = place - segment;
  if (segment > cut) return place - cut;
  if (segment < cut) return count - cut + place;
  if (t >= share) return (t - share) / (1 - share);
  return count + t / share;
}

/** The last place of a spine. */
export const endOf = (spine: Spine): number => segmentCount(spine);

/** Spines one after the other, each starting where the one before it ends; open. */
export function joinedSpines(parts: readonly Spine[]): Spine {
  const length = parts.reduce((sum, { points }) => sum + points.length - STRIDE, STRIDE);
  const points = new Float64Array(length);
  points.set(parts[0].points.subarray(0, STRIDE));
  let end = STRIDE;
  for (const part of parts) {
    points.set(part.points.subarray(STRIDE), end);
    end += part.points.length - STRIDE;
  }
  return makeSpine(points);
}

/** The spine with the part between two places given anew; the part starts and ends on it, or at its free ends. */
export function spliced(spine: Spine, from: number, to: number, part: Spine): Spine {
  const count = segmentCount(spine);
  const parts = [
    ...(from > 1e-9 ? [partOf(spine, 0, from)] : []),
    part,
    ...(to < count - 1e-9 ? [partOf(spine, to, count)] : []),
  ];
  return { ...joinedSpines(parts), closed: spine.closed };
}

/** The same line from its end to its start. */
export function reversedSpine({ points: old, closed }: Spine): Spine {
  const points = new Float64Array(old.length);
  for (let i = 0; i < old.length; i += STRIDE) points.set(old.subarray(i, i + STRIDE), old.length - STRIDE - i);
  return { points, closed };
}
