import { courseOf, directionAt, placeOf, STRIDE, type Course, type Spine } from '../curve';
import { boxesMeet, emptyBox, growBox, uniteBoxes, type Box } from '../math';
import type { Stroke } from '../page';
import { refinedCrossing } from './crossCubics';

/** Legs of a course that share a box. */
const HULL = 8;
/** Radians below which lines run along each other rather than cross. */
const GLANCE = 0.1;
/** Page px along a line within which its own legs are neighbours, on top of two widths. */
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
  stops.push(...ownCrossings(stroke.spine).flatMap(({ a, b }) => [selfStop(stroke, a, b), selfStop(stroke, b, a)]));
  return stops.sort((a, b) => a.at - b.at);
}

const selfStop = <S extends Stroke>(stroke: S, at: number, otherAt: number): Stop<S> => ({
  ...{ at, other: stroke, otherAt, crosses: true },
});

interface Hulls {
  readonly course: Course;
  readonly box: Box;
  /** The boxes of the ink of `HULL` legs each. */
  readonly boxes: readonly Box[];
}

const known = new WeakMap<Spine, Hulls>();

export function hullsOf(spine: Spine): Hulls {
  let hulls = known.get(spine);
  if (!hulls) {
    const course = courseOf(spine);
    const legs = course.places.length - 1;
    const boxes: Box[] = [];
    for (let from = 0; from < legs; from += HULL) boxes.push(boxOfLegs(course.line, from, Math.min(legs, from + HULL)));
    known.set(spine, (hulls = { course, boxes, box: boxes.reduce(uniteBoxes, emptyBox) }));
  }
  return hulls;
}

function boxOfLegs(line: Float64Array, from: number, to: number): Box {
  let { minX, minY, maxX, maxY } = emptyBox;
  for (let i = STRIDE * from; i <= STRIDE * to; i += STRIDE) {
    const half = line[i + 2] / 2;
    minX = Math.min(minX, line[i] - half);
    minY = Math.min(minY, line[i + 1] - half);
    maxX = Math.max(maxX, line[i] + half);
    maxY = Math.max(maxY, line[i + 1] + half);
  }
  return { minX, minY, maxX, maxY };
}

/** Calls back for each pair of legs whose ink may come within `gap`; both are numbers of their first points. */
export function eachNearPair(a: Hulls, b: Hulls, gap: number, tell: (legA: number, legB: number) => void): void {
  const [p, q] = [a.course.line, b.course.line];
  const legs = b.course.places.length - 1;
  for (let h = 0; h < a.boxes.length; h++) {
    const hull = growBox(a.boxes[h], gap);
    if (!boxesMeet(hull, b.box)) continue;
    const last = Math.min(a.course.places.length - 1, (h + 1) * HULL);
    for (let g = 0; g < b.boxes.length; g++) {
      if (!boxesMeet(hull, b.boxes[g])) continue;
      for (let i = h * HULL; i < last; i++)
        for (let j = g * HULL; j < Math.min(legs, (g + 1) * HULL); j++)
          if (legsNear(p, STRIDE * i, q, STRIDE * j, gap)) tell(i, j);
    }
  }
}

function legsNear(p: Float64Array, i: number, q: Float64Array, j: number, gap: number): boolean {
  const reach = gap + (Math.max(p[i + 2], p[i + 5]) + Math.max(q[j + 2], q[j + 5])) / 2;
  return (
    Math.min(p[i], p[i + 3]) - reach <= Math.max(q[j], q[j + 3]) &&
    Math.max(p[i], p[i + 3]) + reach >= Math.min(q[j], q[j + 3]) &&
    Math.min(p[i + 1], p[i + 4]) - reach <= Math.max(q[j + 1], q[j + 4]) &&
    Math.max(p[i + 1], p[i + 4]) + reach >= Math.min(q[j + 1], q[j + 4])
  );
}

/** A stretch of a line, lengths along it in page px, on which its ink meets that of another line. */
interface Meeting {
  from: number;
  to: number;
  /** Whether the lines run along each other where the stretch begins and ends. */
  startsAlong: boolean;
  endsAlong: boolean;
  /** The least clearance, and where. */
  least: number;
  at: number;
  otherAt: number;
  crossings: { readonly at: number; readonly otherAt: number; readonly angle: number }[];
}

function metBy<S extends Stroke>(stroke: S, other: S, own: Hulls, theirs: Hulls, gap: number): Stop<S>[] {
  const found: Meeting[] = [];
  eachNearPair(own, theirs, gap, (i, j) => {
    const met = legMeeting(own.course, i, theirs.course, j, gap);
    if (!met) return;
    const cross = legCrossing(own.course.line, STRIDE * i, theirs.course.line, STRIDE * j);
    if (cross) {
      const exact = refinedCrossing(
        stroke.spine,
        mixed(own.course.places, i, cross[0]),
        other.spine,
        mixed(theirs.course.places, j, cross[1]),
      );
      if (exact)
        met.crossings.push({
          ...{ at: exact.a, otherAt: exact.b },
          angle: angleBetween(stroke.spine, exact.a, other.spine, exact.b),
        });
    }
    found.push(met);
  });
  const meetings = united(found);
  if (stroke.spine.closed) closeSeam(meetings, own.course);
  return meetings.flatMap((met) => stopsIn(met, other, own.course, theirs.course));
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

function stopsIn<S extends Stroke>(met: Meeting, other: S, own: Course, theirs: Course): Stop<S>[] {
  const length = met.to - met.from;
  const width = widthAt(own, met.at) + widthAt(theirs, met.otherAt);
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

function widthAt({ places, line }: Course, place: number): number {
  let k = 0;
  while (k < places.length - 2 && places[k + 1] < place) k++;
  return line[STRIDE * k + 2];
}

function united(meetings: readonly Meeting[]): Meeting[] {
  const all: Meeting[] = [];
  for (const next of [...meetings].sort((a, b) => a.from - b.from)) {
    const last = all[all.length - 1];
    if (!last || next.from > last.to + 1e-6) {
      all.push(next);
      continue;
    }
    if (next.to > last.to) [last.to, last.endsAlong] = [next.to, next.endsAlong];
    last.crossings.push(...next.crossings);
    if (next.least < last.least) [last.least, last.at, last.otherAt] = [next.least, next.at, next.otherAt];
  }
  return all;
}

const mixed = (list: Float64Array, k: number, share: number): number => list[k] + share * (list[k + 1] - list[k]);

export function angleBetween(a: Spine, at: number, b: Spine, otherAt: number): number {
  const [d, e] = [directionAt(a, placeOf(a, at)), directionAt(b, placeOf(b, otherAt))];
  return Math.atan2(Math.abs(d.x * e.y - d.y * e.x), Math.abs(d.x * e.x + d.y * e.y));
}

const PROBES = 24;

/**
 * Where along one leg its ink comes within `gap` of the ink around another: the clearance between two tapering legs is
 * unimodal along the first one (distance to a convex set), so its bottom is found by golden section and its ends by halving.
 */
function legMeeting(own: Course, i: number, theirs: Course, j: number, gap: number): Meeting | undefined {
  const [p, q] = [own.line, theirs.line];
  const clearance = clearanceAlong(p, STRIDE * i, q, STRIDE * j, gap);
  let [low, high] = [0, 1];
  for (let k = 0; k < PROBES; k++) {
    const [a, b] = [low + 0.382 * (high - low), low + 0.618 * (high - low)];
    if (clearance(a).gap <= clearance(b).gap) high = b;
    else low = a;
  }
  const bottom = [0, (low + high) / 2, 1].reduce((best, u) => (clearance(u).gap < clearance(best).gap ? u : best));
  const least = clearance(bottom);
  if (least.gap > 0) return undefined;
  const length = own.along[i + 1] - own.along[i];
  const isAlong = legAngle(p, STRIDE * i, q, STRIDE * j) < GLANCE;
  return {
    from: own.along[i] + length * edge(clearance, bottom, 0),
    to: own.along[i] + length * edge(clearance, bottom, 1),
    startsAlong: isAlong,
    endsAlong: isAlong,
    least: least.gap,
    at: mixed(own.places, i, bottom),
    otherAt: mixed(theirs.places, j, least.share),
    crossings: [],
  };
}

function legAngle(p: Float64Array, i: number, q: Float64Array, j: number): number {
  const [ax, ay, bx, by] = [p[i + 3] - p[i], p[i + 4] - p[i + 1], q[j + 3] - q[j], q[j + 4] - q[j + 1]];
  return Math.atan2(Math.abs(ax * by - ay * bx), Math.abs(ax * bx + ay * by));
}

type Clearance = (u: number) => { readonly gap: number; readonly share: number };

function edge(clearance: Clearance, inside: number, outside: number): number {
  if (clearance(outside).gap <= 0) return outside;
  for (let k = 0; k < PROBES; k++) {
    const middle = (inside + outside) / 2;
    if (clearance(middle).gap <= 0) inside = middle;
    else outside = middle;
  }
  return inside;
}

function clearanceAlong(p: Float64Array, i: number, q: Float64Array, j: number, gap: number): Clearance {
  const [dx, dy] = [q[j + 3] - q[j], q[j + 4] - q[j + 1]];
  const squared = dx * dx + dy * dy;
  return (u) => {
    const x = p[i] + u * (p[i + 3] - p[i]) - q[j];
    const y = p[i + 1] + u * (p[i + 4] - p[i + 1]) - q[j + 1];
    const share = squared > 0 ? Math.max(0, Math.min(1, (x * dx + y * dy) / squared)) : 0;
    const own = p[i + 2] + u * (p[i + 5] - p[i + 2]);
    const other = q[j + 2] + share * (q[j + 5] - q[j + 2]);
    return { gap: Math.hypot(x - share * dx, y - share * dy) - (own + other) / 2 - gap, share };
  };
}

/** The shares of two legs at which they cross; ends count, legs that lie along each other do not. */
export function legCrossing(
  p: Float64Array,
  i: number,
  q: Float64Array,
  j: number,
): readonly [number, number] | undefined {
  const [ax, ay] = [p[i + 3] - p[i], p[i + 4] - p[i + 1]];
  const [bx, by] = [q[j + 3] - q[j], q[j + 4] - q[j + 1]];
  const area = ax * by - ay * bx;
  if (Math.abs(area) <= 1e-12 * (Math.hypot(ax, ay) * Math.hypot(bx, by) + 1e-300)) return undefined;
  const [x, y] = [q[j] - p[i], q[j + 1] - p[i + 1]];
  const s = (x * by - y * bx) / area;
  const t = (x * ay - y * ax) / area;
  return s >= -1e-9 && s <= 1 + 1e-9 && t >= -1e-9 && t <= 1 + 1e-9 ? [s, t] : undefined;
}

/** Where the middle of a line crosses itself, each crossing once: the earlier place first. */
export function ownCrossings(spine: Spine): { readonly a: number; readonly b: number }[] {
  const hulls = hullsOf(spine);
  const { line, along, places } = hulls.course;
  const found: { a: number; b: number }[] = [];
  const length = along[along.length - 1];
  eachNearPair(hulls, hulls, 0, (i, j) => {
    if (j <= i + 1) return;
    const cross = legCrossing(line, STRIDE * i, line, STRIDE * j);
    if (!cross) return;
    const way = mixed(along, j, cross[1]) - mixed(along, i, cross[0]);
    if (way < NEIGHBOUR || (spine.closed && length - way < NEIGHBOUR)) return;
    const exact = refinedCrossing(spine, mixed(places, i, cross[0]), spine, mixed(places, j, cross[1]));
    if (exact && !found.some(({ a, b }) => Math.abs(a - exact.a) < 1e-6 && Math.abs(b - exact.b) < 1e-6))
      found.push(exact);
  });
  return found.sort((x, y) => x.a - y.a);
}
