import {
  alongAt,
  courseOf,
  directionAt,
  endOf,
  lengthOf,
  nearestOnSpine,
  placeAlong,
  placeNumber,
  placeOf,
  pointAt,
  spliced,
  SpineFitter,
  startedAt,
  STRIDE,
  type Spine,
} from '../curve';
import { clamp, distance, type Point } from '../math';

/** What drawing over a line would do to it. */
export interface Retraced {
  readonly spine: Spine;
  /** The hand did not come back to the line: what lay ahead is gone, and the line ends where the hand did. */
  readonly leaves: boolean;
}

const TOLERANCE = 0.2;
/** The share of the new course over which it blends with the old one, at each side. */
const BLEND = 0.3;
/** Page px between points of the new course. */
const STEP = 1;

/**
 * Draws a part of a line again: from where the hand came to the line to where it left it, the line takes the hand's course.
 * At both sides the new course grows out of the old one, tangent to it; the weight stays where it was along the line.
 * `reach` is how near, page px, the hand must come to the line. Nothing where it never does, or goes no way at all.
 */
export function retrace(spine: Spine, hand: readonly Point[], reach: number): Retraced | undefined {
  if (hand.length < 2) return undefined;
  const turned = spine.closed ? startedAway(spine, hand) : spine;
  const course = courseOf(turned);
  const drawn = evenly(hand, STEP);
  if (drawn.length < 3) return undefined;
  const start = nearestOnSpine(turned, drawn[0]);
  if (start.distance > reach) return undefined;
  const last = nearestOnSpine(turned, drawn[drawn.length - 1]);
  const leaves = last.distance > reach && !spine.closed;
  const from = alongAt(course, placeNumber(start));
  const isBackwards = leaves ? goesBack(turned, placeNumber(start), drawn) : alongAt(course, placeNumber(last)) < from;
  const to = leaves ? (isBackwards ? 0 : lengthOf(course)) : alongAt(course, placeNumber(last));
  if (!leaves && Math.abs(to - from) < STEP) return undefined;
  const [low, high] = from < to ? [from, to] : [to, from];
  const points = isBackwards ? [...drawn].reverse() : drawn;
  const track = blended(turned, points, low, high, {
    startsOn: !leaves || !isBackwards,
    endsOn: !leaves || isBackwards,
  });
  const fitter = new SpineFitter(TOLERANCE, track.length / STRIDE + 1);
  fitter.addAll(track);
  const first = low <= 0 ? 0 : placeAlong(course, low);
  const end = high >= lengthOf(course) ? endOf(turned) : placeAlong(course, high);
  const part = tangentTo(turned, fitter.finish(), {
    start: leaves && isBackwards ? undefined : first,
    end: leaves && !isBackwards ? undefined : end,
  });
  return { spine: spliced(turned, first, end, part), leaves };
}

/** A ring that starts as far as can be from where the hand is, so that what is drawn does not run over its seam. */
function startedAway(spine: Spine, hand: readonly Point[]): Spine {
  const course = courseOf(spine);
  const at = alongAt(course, placeNumber(nearestOnSpine(spine, hand[Math.floor(hand.length / 2)])));
  return startedAt(spine, placeAlong(course, (at + lengthOf(course) / 2) % lengthOf(course)));
}

/** Whether a hand sets out against the line's own way. */
function goesBack(spine: Spine, place: number, drawn: readonly Point[]): boolean {
  const ahead = directionAt(spine, placeOf(spine, place));
  const some = drawn[Math.min(drawn.length - 1, Math.max(4, Math.floor(drawn.length / 3)))];
  return (some.x - drawn[0].x) * ahead.x + (some.y - drawn[0].y) * ahead.y < 0;
}

/** Points along a way, the same distance apart. */
function evenly(points: readonly Point[], apart: number): Point[] {
  const even: Point[] = [points[0]];
  let left = apart;
  for (let k = 1; k < points.length; k++) {
    let [p, q] = [points[k - 1], points[k]];
    let length = distance(p, q);
    while (length >= left && length > 0) {
      const t = left / length;
      p = { x: p.x + t * (q.x - p.x), y: p.y + t * (q.y - p.y) };
      even.push(p);
      length -= left;
      left = apart;
    }
    left -= length;
  }
  const end = points[points.length - 1];
  if (distance(even[even.length - 1], end) > apart / 4) even.push(end);
  return even;
}

/** The new course with the old weight: at its sides it grows out of the old course, where it is on it. */
function blended(
  spine: Spine,
  drawn: readonly Point[],
  low: number,
  high: number,
  { startsOn, endsOn }: { readonly startsOn: boolean; readonly endsOn: boolean },
): Float64Array {
  const course = courseOf(spine);
  const oldAt = (along: number) => pointAt(spine, placeOf(spine, placeAlong(course, along)));
  const count = drawn.length - 1;
  const track = new Float64Array((count + 1) * STRIDE);
  drawn.forEach((point, k) => {
    const share = k / count;
    const old = oldAt(low + share * (high - low));
    // By way gone from either side, so that near it old and new are the same place.
    const fromStart = oldAt(Math.min(high, low + k * STEP));
    const fromEnd = oldAt(Math.max(low, high - (count - k) * STEP));
    const start = startsOn ? 1 - smooth(share / BLEND) : 0;
    const end = endsOn ? 1 - smooth((1 - share) / BLEND) : 0;
    const x = point.x + start * (fromStart.x - point.x) + end * (fromEnd.x - point.x);
    const y = point.y + start * (fromStart.y - point.y) + end * (fromEnd.y - point.y);
    track.set([x, y, old.width], k * STRIDE);
  });
  if (startsOn) track.set(triple(oldAt(low)), 0);
  if (endsOn) track.set(triple(oldAt(high)), count * STRIDE);
  return track;
}

const triple = ({ x, y, width }: { readonly x: number; readonly y: number; readonly width: number }) => [x, y, width];

const smooth = (value: number): number => {
  const t = clamp(value, 0, 1);
  return t * t * (3 - 2 * t);
};

/** The part with its first and last handle along the old line, at the places where it grows out of it. */
function tangentTo(
  spine: Spine,
  part: Spine,
  { start, end }: { readonly start: number | undefined; readonly end: number | undefined },
): Spine {
  const points = part.points.slice();
  const turn = (node: number, handle: number, place: number, sign: 1 | -1) => {
    const { x, y } = directionAt(spine, placeOf(spine, place));
    const reach = Math.hypot(points[handle] - points[node], points[handle + 1] - points[node + 1]);
    points[handle] = points[node] + sign * x * reach;
    points[handle + 1] = points[node + 1] + sign * y * reach;
  };
  const last = points.length - STRIDE;
  if (start !== undefined && start > 0) turn(0, STRIDE, start, 1);
  if (end !== undefined && end < endOf(spine)) turn(last, last - STRIDE, end, -1);
  return { points, closed: false };
}
