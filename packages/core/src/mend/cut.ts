import {
  alongAt,
  courseOf,
  directionAt,
  endOf,
  placeAlong,
  placeOf,
  pointAt,
  spineLength,
  partOf,
  STRIDE,
  type Course,
} from '../curve';
import { isInRing, type Point } from '../math';
import type { Stroke, StrokeEnd } from '../stroke';
import type { Stop } from './meetings';

/** Sine of the slant below which a line is cut straight across rather than along what it meets. */
const TOO_SLANTING = 0.2;
/** Page px by which a cut stays inside the edge of the line it lies in. */
const INSIDE = 0.02;

/** Halvings by which the place is found at which a cut goes through the middle of a line. */
const HALVINGS = 20;

/** A place where a piece of a line ends, and how it is finished there. */
export interface Cut {
  readonly at: number;
  readonly end: StrokeEnd;
}

/**
 * Cuts a line at a stop so that it ends flush with the far edge of the line it meets, just inside its ink: no notch is left
 * before it and no bump behind it. `keepsBefore`: what goes is the ink after the stop. Lines that meet at a glance, and
 * those that merely touch, are cut straight across. `thickness` is by how much the layer shows it wider than it is.
 */
export function cutAtStop<S extends Stroke>(stroke: S, stop: Stop<S>, keepsBefore: boolean, thickness = 1): Cut {
  const sign = keepsBefore ? 1 : -1;
  const ahead = directionAt(stroke.spine, placeOf(stroke.spine, stop.at));
  const [dx, dy] = [sign * ahead.x, sign * ahead.y];
  const theirs = courseOf(stop.other.spine);
  const place = placeOf(stop.other.spine, stop.otherAt);
  const edge = directionAt(stop.other.spine, place);
  const sine = dx * edge.y - dy * edge.x;
  const atTheirEnd = stop.otherAt < 1e-6 || stop.otherAt > theirs.places[theirs.places.length - 1] - 1e-6;
  if (Math.abs(sine) < TOO_SLANTING || (!stop.crosses && !atTheirEnd)) return { at: stop.at, end: 'flat' };
  const own = (thickness * pointAt(stroke.spine, placeOf(stroke.spine, stop.at)).width) / 2;
  const half = pointAt(stop.other.spine, place).width / 2;
  const slant = Math.abs(sine);
  const gone = ringBeyond(
    theirs,
    stop.otherAt,
    sine > 0 ? -1 : 1,
    (1.2 * own) / slant + own + half + 2,
    12 * (own + half) + 20,
  );
  const course = courseOf(stroke.spine);
  const further = Math.min(6 * (own + half), (own * Math.sqrt(1 - slant * slant) + half) / slant) + 1;
  return { at: placeAlong(course, alongAt(course, stop.at) + sign * further), end: { gone } };
}

/**
 * The ring of what lies beyond a line's edge on one `side` (1: to the right of its way, as y points down) around a place:
 * its edge over `reach` page px each way, drawn out straight, and `far` beyond it.
 */
function ringBeyond(course: Course, place: number, side: 1 | -1, reach: number, far: number): Float64Array {
  const { line, along } = course;
  const middle = alongAt(course, place);
  const [from, to] = [Math.max(0, middle - reach), Math.min(along[along.length - 1], middle + reach)];
  const first = pointAfter(along, from);
  const inner = Math.max(0, pointAfter(along, to - 1e-9) - first);
  // The edge where the stretch begins, at the points of the course within and where it ends, drawn out straight at both.
  const count = inner + 4;
  const ring = new Float64Array(4 * count);
  const beyond = besideLeg(course, pointAfter(along, middle) - 1, side * far);
  const put = (k: number, x: number, y: number) => {
    ring.set([x, y], 2 * k);
    ring.set([x + beyond.x, y + beyond.y], 2 * (2 * count - 1 - k));
  };
  for (let k = 0; k <= inner + 1; k++) {
    const leg = first - 1 + Math.max(0, k - 1);
    const length = k === 0 ? from : k > inner ? to : along[leg + 1];
    const share = (length - along[leg]) / (along[leg + 1] - along[leg] || 1);
    const i = STRIDE * leg;
    const half = (line[i + 2] + share * (line[i + 5] - line[i + 2])) / 2;
    const out = besideLeg(course, leg, side * Math.max(half - INSIDE, 0.75 * half));
    const x = line[i] + share * (line[i + 3] - line[i]) + out.x;
    const y = line[i + 1] + share * (line[i + 4] - line[i + 1]) + out.y;
    put(k + 1, x, y);
    const right = k === 0 || k > inner ? besideLeg(course, leg, far) : undefined;
    if (right && k === 0) put(0, x - right.y, y + right.x);
    else if (right) put(count - 1, x + right.y, y - right.x);
  }
  return ring;
}

/** The first point of a course that lies farther along than `length`, but for its start. */
function pointAfter(along: Float64Array, length: number): number {
  let low = 0;
  let high = along.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (along[middle] <= length) low = middle;
    else high = middle;
  }
  return high;
}

/** The way `away` page px to the right of where a leg goes (y points down). */
function besideLeg({ line }: Course, leg: number, away: number): Point {
  const i = STRIDE * leg;
  const [x, y] = [line[i + 3] - line[i], line[i + 4] - line[i + 1]];
  const share = away / (Math.hypot(x, y) || 1);
  return { x: -y * share, y: x * share };
}

/** The place where a line is seen to end: where what is gone at a cut end begins, on its middle. */
export function seenEnd({ spine, ends }: Stroke, end: 0 | 1): number {
  const finish = ends[end];
  const last = end === 0 ? 0 : endOf(spine);
  if (typeof finish === 'string') return last;
  const isGone = (place: number) => isInRing(finish.gone, pointAt(spine, placeOf(spine, place)));
  if (!isGone(last)) return last;
  const { places } = courseOf(spine);
  let k = end === 0 ? 0 : places.length - 1;
  const step = end === 0 ? 1 : -1;
  while (k + step >= 0 && k + step < places.length && isGone(places[k + step])) k += step;
  // Nothing of its middle is left.
  if (k + step < 0 || k + step >= places.length) return last;
  let [gone, seen] = [places[k], places[k + step]];
  for (let halving = 0; halving < HALVINGS; halving++) {
    const middle = (gone + seen) / 2;
    if (isGone(middle)) gone = middle;
    else seen = middle;
  }
  return seen;
}

/** A piece of a line between two cuts: its grain goes on where it was, and its samples no longer tell its course. */
export function pieceOf<S extends Stroke>(stroke: S, from: Cut, to: Cut): S {
  const { grain, origin, spine } = stroke;
  const gone = (): number => (from.at <= 0 ? 0 : spineLength(partOf(spine, 0, from.at)));
  return {
    ...stroke,
    spine: partOf(spine, from.at, to.at),
    ends: [from.end, to.end],
    ...(origin && { origin: { ...origin, left: 'cut' } }),
    ...(grain && { grain: { ...grain, offset: grain.offset + gone() } }),
  };
}
