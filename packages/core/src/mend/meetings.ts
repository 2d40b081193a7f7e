import {
  directionAt,
  placeOf,
  pointAt,
  STRIDE,
  type Course,
  type Spine,
  BOUNDS,
  eachCrossingPair,
  eachNearPair,
  HULL,
  hullsOf,
  type Hulls,
} from '../curve';
import { boxesMeet, growBox, nearestShare, pointToLeg, type Point } from '../math';
import type { Stroke } from '../stroke';
import { refinedCrossing } from './crossCubics';

/** Radians below which lines run along each other rather than cross. */
export const GLANCE = 0.1;
/** Page px along a line within which it does not cross itself: there its own legs are neighbours. */
const NEIGHBOUR = 2;

/**
 * Where the ink of a line is stopped by other ink: a place on the line (see `Course`), the line that it meets there and the
 * place on that one. `crosses` where the middles cross; elsewhere the edges merely touch, or come within the gap.
 */
export interface Stop<S extends Stroke = Stroke> {
  readonly at: number;
  readonly other: S;
  readonly otherAt: number;
  readonly crosses: boolean;
}

/**
 * All stops of a line among others and on itself, from its start to its end. `gap` is how far ink may miss ink and still
 * count, page px. A line that merely runs along another one is not stopped by it.
 */
export function stopsOf<S extends Stroke>(stroke: S, others: Iterable<S>, gap = 0): Stop<S>[] {
  const stops: Stop<S>[] = [];
  const own = hullsOf(stroke.spine);
  for (const other of others) {
    if (other === stroke) continue;
    const theirs = hullsOf(other.spine);
    if (boxesMeet(growBox(own.box, gap), theirs.box)) stops.push(...metBy(stroke, other, own, theirs, gap));
  }
  stops.push(...ownStops(stroke));
  return stops.sort((a, b) => a.at - b.at);
}

/** Where a line is stopped by itself. */
export const ownStops = <S extends Stroke>(stroke: S): Stop<S>[] =>
  ownCrossings(stroke.spine).flatMap(({ a, b }) => [selfStop(stroke, a, b), selfStop(stroke, b, a)]);

const selfStop = <S extends Stroke>(stroke: S, at: number, otherAt: number): Stop<S> => ({
  ...{ at, other: stroke, otherAt, crosses: true },
});

/** A stretch of a line, lengths along it in page px, on which its ink meets that of another line. */
interface Meeting {
  /** The number of the last leg that it is known to lie on. */
  leg: number;
  from: number;
  to: number;
  /** Whether the lines run along each other where the stretch begins and ends. */
  startsAlong: boolean;
  endsAlong: boolean;
  /** The least clearance, and where. */
  least: number;
  at: number;
  otherAt: number;
  readonly crossings: { readonly at: number; readonly otherAt: number; readonly angle: number }[];
}

function metBy<S extends Stroke>(stroke: S, other: S, own: Hulls, theirs: Hulls, gap: number): Stop<S>[] {
  const found: Meeting[] = [];
  eachNearPair(own, theirs, gap, (i, j) => {
    const cross = legCrossing(own.course.line, STRIDE * i, theirs.course.line, STRIDE * j);
    const leg = { spine: stroke.spine, course: own.course, number: i };
    const beside = { spine: other.spine, course: theirs.course, number: j };
    const met = meetOnLeg(found, leg, beside, gap, cross);
    const exact = met && cross && exactCrossing(leg, beside, cross);
    if (exact)
      met.crossings.push({
        ...{ at: exact.a, otherAt: exact.b },
        angle: angleBetween(stroke.spine, exact.a, other.spine, exact.b),
      });
  });
  const meetings = united(found);
  if (stroke.spine.closed) closeSeam(meetings, own.course);
  return meetings.flatMap((met) => stopsIn(met, stroke, other));
}

/** The place on a line whose ink lies deepest in a disc; nothing where they do not touch. */
export function touchedAt({ course, bounds }: Hulls, { x, y }: Point, radius: number): number | undefined {
  const { line, places } = course;
  const legs = places.length - 1;
  let least = 0;
  let at: number | undefined;
  for (let h = 0, first = 0; h < bounds.length; h += BOUNDS, first += HULL) {
    if (x + radius < bounds[h] || x - radius > bounds[h + 2]) continue;
    if (y + radius < bounds[h + 1] || y - radius > bounds[h + 3]) continue;
    for (let leg = first; leg < Math.min(legs, first + HULL); leg++) {
      const i = STRIDE * leg;
      const share = shareNear(line, i, x, y);
      const ex = x - line[i] - share * (line[i + 3] - line[i]);
      const ey = y - line[i + 1] - share * (line[i + 4] - line[i + 1]);
      const clearance = Math.sqrt(ex * ex + ey * ey) - radius - (line[i + 2] + share * (line[i + 5] - line[i + 2])) / 2;
      if (clearance > least || (at !== undefined && clearance === least)) continue;
      least = clearance;
      at = mixed(places, leg, share);
    }
  }
  return at;
}

/** A ring goes on through its first node: what meets it there is one meeting, at its start. */
function closeSeam(meetings: Meeting[], { along, places }: Course): void {
  const [first, last] = [meetings[0], meetings[meetings.length - 1]];
  const [count, length] = [places[places.length - 1], along[along.length - 1]];
  for (const { crossings } of meetings)
    for (const [k, crossing] of crossings.entries())
      if (crossing.at > count - 1e-6) crossings[k] = { ...crossing, at: 0 };
  if (meetings.length < 2 || first.from > 1e-6 || last.to < length - 1e-6) return;
  first.crossings.push(...last.crossings);
  first.startsAlong = last.startsAlong;
  if (last.least < first.least) [first.least, first.at, first.otherAt] = [last.least, last.at, last.otherAt];
  meetings.pop();
}

function stopsIn<S extends Stroke>(met: Meeting, stroke: S, other: S): Stop<S>[] {
  const length = met.to - met.from;
  const width = widthAt(stroke.spine, met.at) + widthAt(other.spine, met.otherAt);
  const isAlong = met.startsAlong && met.endsAlong && length > width;
  const crossings = met.crossings.filter(({ angle }) => angle > GLANCE || !isAlong);
  if (crossings.length > 0)
    return distinct(crossings).map(({ at, otherAt }) => ({ at, other, otherAt, crosses: true }));
  return isAlong ? [] : [{ at: met.at, other, otherAt: met.otherAt, crosses: false }];
}

/** A crossing at the joint of two legs is found on both. */
function distinct<C extends { readonly at: number }>(crossings: readonly C[]): C[] {
  const sorted = [...crossings].sort((a, b) => a.at - b.at);
  return sorted.filter(({ at }, k) => k === 0 || at - sorted[k - 1].at > 1e-6);
}

const widthAt = (spine: Spine, place: number): number => pointAt(spine, placeOf(spine, place)).width;

function united(meetings: Meeting[]): Meeting[] {
  const all: Meeting[] = [];
  let last: Meeting | undefined;
  for (const next of meetings.sort((a, b) => a.from - b.from)) {
    if (!last || next.from > last.to + 1e-6) {
      all.push((last = next));
      continue;
    }
    if (next.to > last.to) [last.to, last.endsAlong] = [next.to, next.endsAlong];
    if (next.least < last.least) [last.least, last.at, last.otherAt] = [next.least, next.at, next.otherAt];
    last.crossings.push(...next.crossings);
  }
  return all;
}

const mixed = (list: Float64Array, k: number, share: number): number => list[k] + share * (list[k + 1] - list[k]);

export function angleBetween(a: Spine, at: number, b: Spine, otherAt: number): number {
  const [d, e] = [directionAt(a, placeOf(a, at)), directionAt(b, placeOf(b, otherAt))];
  return Math.atan2(Math.abs(d.x * e.y - d.y * e.x), Math.abs(d.x * e.x + d.y * e.y));
}

/** One leg of a line's course. */
export interface Leg {
  readonly spine: Spine;
  readonly course: Course;
  readonly number: number;
}

/** Two legs of which clearances are asked, by where they start in their lines. */
interface LegPair {
  readonly p: Float64Array;
  readonly i: number;
  readonly q: Float64Array;
  readonly j: number;
  readonly gap: number;
}

/** Page px by which widths on two legs may change before the nearest place is looked for in earnest. */
const TAPERING = 0.3;
/** Chords by which an edge of a meeting is found on a leg, and the clearance, page px, that is near enough to none. */
const CHORDS = 7;
const EDGE = 0.01;
/** Steps by which the nearest place is found where widths taper. */
const GOLDEN_STEPS = 20;

/**
 * Where along one leg its ink comes within `gap` of the ink around another, as a new one among the meetings that are known
 * or as more of one of these. Legs of even width are nearest where their middles are (Ericson 2004, §5.1.9); between
 * tapering ones the clearance is unimodal along the first one (distance to a convex set), so its bottom is found by golden
 * section. Its ends are found by chords (regula falsi).
 */
function meetOnLeg(
  known: Meeting[],
  { course: own, number: leg }: Leg,
  { course: theirs, number: beside }: Leg,
  gap: number,
  cross: readonly [number, number] | undefined,
): Meeting | undefined {
  const p = own.line;
  const q = theirs.line;
  const k = STRIDE * leg;
  const n = STRIDE * beside;
  const pair = { p, i: k, q, j: n, gap };
  let bottom = cross ? cross[0] : nearestOnLeg(p, k, q, n);
  let least = clearanceAt(pair, bottom);
  if (least > 0) {
    // Where one of them swells along the leg, ink may touch though the middles are nearest elsewhere.
    const swells = Math.abs(p[k + 5] - p[k + 2]) + Math.abs(q[n + 5] - q[n + 2]);
    if (swells < TAPERING || least > swells / 2) return undefined;
    bottom = goldenBottom(pair);
    least = clearanceAt(pair, bottom);
  }
  if (least > 0) return undefined;
  const otherShare = shareNear(q, n, p[k] + bottom * (p[k + 3] - p[k]), p[k + 1] + bottom * (p[k + 4] - p[k + 1]));
  const start = own.along[leg];
  const length = own.along[leg + 1] - start;
  const middle = start + length * bottom;
  const isAlong = legAngle(p, k, q, n) < GLANCE;
  let met: Meeting | undefined;
  for (let m = known.length - 1; !met && m >= 0 && known[m].leg === leg; m--)
    if (known[m].from <= middle && known[m].to >= middle) met = known[m];
  if (!met) {
    const alongside = { startsAlong: isAlong, endsAlong: isAlong };
    met = { leg, from: middle, to: middle, ...alongside, least: Infinity, at: 0, otherAt: 0, crossings: [] };
    known.push(met);
  }
  if (least < met.least) {
    met.least = least;
    met.at = mixed(own.places, leg, bottom);
    met.otherAt = mixed(theirs.places, beside, otherShare);
  }
  if (met.from > start) {
    const from = start + length * edge(pair, bottom, least, 0);
    if (from < met.from) [met.from, met.startsAlong] = [from, isAlong];
  }
  if (met.to < start + length) {
    const to = start + length * edge(pair, bottom, least, 1);
    if (to > met.to) [met.to, met.endsAlong] = [to, isAlong];
  }
  return met;
}

function legAngle(p: Float64Array, i: number, q: Float64Array, j: number): number {
  const [ax, ay, bx, by] = [p[i + 3] - p[i], p[i + 4] - p[i + 1], q[j + 3] - q[j], q[j + 4] - q[j + 1]];
  return Math.atan2(Math.abs(ax * by - ay * bx), Math.abs(ax * bx + ay * by));
}

/** The share of a leg at which it is nearest to another one that it does not cross: an end of either is part of it. */
function nearestOnLeg(p: Float64Array, i: number, q: Float64Array, j: number): number {
  let best = 0;
  let least = awayFrom(q, j, p[i], p[i + 1]);
  const end = awayFrom(q, j, p[i + 3], p[i + 4]);
  if (end < least) [best, least] = [1, end];
  for (let k = j; k <= j + STRIDE; k += STRIDE) {
    const away = awayFrom(p, i, q[k], q[k + 1]);
    if (away < least) [best, least] = [shareNear(p, i, q[k], q[k + 1]), away];
  }
  return best;
}

/** The share of a leg of a line that is nearest to a place. */
const shareNear = (q: Float64Array, j: number, x: number, y: number): number =>
  nearestShare(x, y, q[j], q[j + 1], q[j + 3], q[j + 4]);

/** The squared distance of a place from a leg of a line. */
const awayFrom = (q: Float64Array, j: number, x: number, y: number): number =>
  pointToLeg(x, y, q[j], q[j + 1], q[j + 3], q[j + 4]);

/** How far the ink at a share of one leg is from the ink of another, less the gap, page px. */
function clearanceAt({ p, i, q, j, gap }: LegPair, u: number): number {
  const x = p[i] + u * (p[i + 3] - p[i]);
  const y = p[i + 1] + u * (p[i + 4] - p[i + 1]);
  const share = shareNear(q, j, x, y);
  const own = p[i + 2] + u * (p[i + 5] - p[i + 2]);
  const other = q[j + 2] + share * (q[j + 5] - q[j + 2]);
  const ex = x - q[j] - share * (q[j + 3] - q[j]);
  const ey = y - q[j + 1] - share * (q[j + 4] - q[j + 1]);
  return Math.sqrt(ex * ex + ey * ey) - (own + other) / 2 - gap;
}

function goldenBottom(pair: LegPair): number {
  let [low, high] = [0, 1];
  for (let k = 0; k < GOLDEN_STEPS; k++) {
    const [a, b] = [low + 0.382 * (high - low), low + 0.618 * (high - low)];
    if (clearanceAt(pair, a) <= clearanceAt(pair, b)) high = b;
    else low = a;
  }
  const middle = (low + high) / 2;
  const at = (u: number) => clearanceAt(pair, u);
  return at(0) < at(middle) ? 0 : at(1) < at(middle) ? 1 : middle;
}

/** The share of the first leg at which its ink stops meeting the other, from one within, with its clearance, to an end. */
function edge(pair: LegPair, inside: number, least: number, outside: number): number {
  let low = least;
  let high = clearanceAt(pair, outside);
  if (high <= 0) return outside;
  // Towards the outside the clearance is convex: a chord lies above it and meets nought within the ink, never beyond.
  for (let k = 0; k < CHORDS; k++) {
    const middle = inside + (low / (low - high)) * (outside - inside);
    const clearance = clearanceAt(pair, middle);
    if (clearance > EDGE) [outside, high] = [middle, clearance];
    else if (clearance < -EDGE) [inside, low] = [middle, clearance];
    else return middle;
  }
  return inside;
}

/** The shares of two legs at which they cross; ends count, legs that lie along each other do not. */
export function legCrossing(
  p: Float64Array,
  i: number,
  q: Float64Array,
  j: number,
): readonly [number, number] | undefined {
  const ax = p[i + 3] - p[i];
  const ay = p[i + 4] - p[i + 1];
  const bx = q[j + 3] - q[j];
  const by = q[j + 4] - q[j + 1];
  const area = ax * by - ay * bx;
  // Squared: legs that lie along each other have no area to speak of.
  if (area * area <= 1e-24 * (ax * ax + ay * ay) * (bx * bx + by * by)) return undefined;
  const x = q[j] - p[i];
  const y = q[j + 1] - p[i + 1];
  const s = (x * by - y * bx) / area;
  if (!(s >= -1e-9 && s <= 1 + 1e-9)) return undefined;
  const t = (x * ay - y * ax) / area;
  return t >= -1e-9 && t <= 1 + 1e-9 ? [s, t] : undefined;
}

/** The crossing of two courses on legs of which `cross` says the shares; nothing where only the legs cross. */
export const exactCrossing = (a: Leg, b: Leg, cross: readonly [number, number]) =>
  refinedCrossing(
    a.spine,
    mixed(a.course.places, a.number, cross[0]),
    b.spine,
    mixed(b.course.places, b.number, cross[1]),
  );

/** Where the middle of a line crosses itself, each crossing once: the earlier place first. */
export function ownCrossings(spine: Spine): readonly OwnCrossing[] {
  let found = crossingsKnown.get(spine);
  if (!found) crossingsKnown.set(spine, (found = findOwnCrossings(spine)));
  return found;
}

interface OwnCrossing {
  readonly a: number;
  readonly b: number;
}

const crossingsKnown = new WeakMap<Spine, readonly OwnCrossing[]>();

/** Whether every leg leads on towards the end: most lines do, and such a line cannot cross itself. */
function runsOneWay(line: Float64Array): boolean {
  const dx = line[line.length - 3] - line[0];
  const dy = line[line.length - 2] - line[1];
  for (let i = STRIDE; i < line.length; i += STRIDE)
    if (!((line[i] - line[i - 3]) * dx + (line[i + 1] - line[i - 2]) * dy > 0)) return false;
  return true;
}

function findOwnCrossings(spine: Spine): OwnCrossing[] {
  const hulls = hullsOf(spine);
  const { line, along } = hulls.course;
  const found: OwnCrossing[] = [];
  if (runsOneWay(line)) return found;
  const length = along[along.length - 1];
  eachCrossingPair(hulls, hulls, (i, j) => {
    const cross = legCrossing(line, STRIDE * i, line, STRIDE * j);
    if (!cross) return;
    const apart = mixed(along, j, cross[1]) - mixed(along, i, cross[0]);
    if (apart < NEIGHBOUR || (spine.closed && length - apart < NEIGHBOUR)) return;
    const { course } = hulls;
    const exact = exactCrossing({ spine, course, number: i }, { spine, course, number: j }, cross);
    if (exact && !found.some(({ a, b }) => Math.abs(a - exact.a) < 1e-6 && Math.abs(b - exact.b) < 1e-6))
      found.push(exact);
  });
  return found.sort((x, y) => x.a - y.a);
}
