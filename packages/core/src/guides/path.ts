import {
  cubicSlope,
  nearestOnCubic,
  pointAt,
  SEGMENT,
  segmentLengths,
  STRIDE,
  type Spine,
  type CurvePath,
  type EllipsePath,
  type GuidePath,
  type LinePath,
} from '../curve';
import { clamp, distance, type Point } from '../math';
import { ellipseSlope, nearestOnEllipse, onEllipse } from './ellipse';

/** A place of a path: page px, how far away it is, and its measure along the path. */
export interface PathPlace extends Point {
  readonly at: number;
  readonly distance: number;
}

/**
 * A path made ready to be ridden. Its measure rises along it, in about page px: the length of a line, the eccentric angle
 * times the larger half axis, the length of a curve cubic by cubic.
 */
export interface Track {
  /** After so much measure it comes round to where it was; 0 for a path with ends. */
  readonly period: number;
  readonly from: number;
  readonly to: number;
  place(at: number): Point;
  /** The direction in which the measure rises, a unit vector. */
  direction(at: number): Point;
  /** The measure nearest to `p`; near `near`, within `window`, where that is given. */
  nearest(p: Point, near?: number, window?: number): number;
  /** Measures between `from` and `to` where a cubic must end, rising. */
  breaks(from: number, to: number): number[];
  /** The x, y of the four control points of the cubic between two neighbouring measures. */
  cubic(from: number, to: number): Float64Array;
}

/** Tracks of curves, which take a while to make and are asked for again and again. */
const tracks = new WeakMap<CurvePath, Track>();

export function trackOf(path: GuidePath): Track {
  if (path.kind === 'line') return lineTrack(path);
  if (path.kind === 'ellipse') return ellipseTrack(path);
  const known = tracks.get(path);
  if (known) return known;
  const track = curveTrack(path);
  tracks.set(path, track);
  return track;
}

function lineTrack({ x, y, dx, dy, from = -Infinity, to = Infinity }: LinePath): Track {
  const place = (at: number): Point => ({ x: x + at * dx, y: y + at * dy });
  return {
    ...{ period: 0, from, to, place },
    direction: () => ({ x: dx, y: dy }),
    nearest: (p) => clamp((p.x - x) * dx + (p.y - y) * dy, from, to),
    breaks: () => [],
    cubic: (a, b) => {
      const points = new Float64Array(8);
      for (let k = 0; k < 4; k++) {
        const at = a + ((b - a) * k) / 3;
        points[2 * k] = x + at * dx;
        points[2 * k + 1] = y + at * dy;
      }
      return points;
    },
  };
}

/** Page px that the cubics of an arc may stray from it: well under the 0.05 px that riding promises. */
const ARC_TOLERANCE = 0.01;
/** How far four cubics stray from a circle, as a share of its radius; the sixth power of the angle tells of smaller arcs. */
const QUARTER_ERROR = 2.73e-4;

function ellipseTrack(ellipse: EllipsePath): Track {
  const unit = Math.max(ellipse.rx, ellipse.ry);
  const period = 2 * Math.PI * unit;
  const quarter = Math.PI / 2;
  const arc = Math.min(quarter, quarter * (ARC_TOLERANCE / (QUARTER_ERROR * unit)) ** (1 / 6));
  const step = quarter / Math.ceil(quarter / arc - 1e-9);
  return {
    ...{ period, from: -Infinity, to: Infinity },
    place: (at) => onEllipse(ellipse, at / unit),
    direction: (at) => unitVector(ellipseSlope(ellipse, at / unit)),
    nearest: (p, near) => unwrapped(nearestOnEllipse(ellipse, p) * unit, period, near),
    breaks: (from, to) => multiples(from / unit, to / unit, step).map((angle) => angle * unit),
    cubic: (from, to) => {
      const [a, b] = [from / unit, to / unit];
      const reach = (4 / 3) * Math.tan((b - a) / 4);
      const [p, q] = [onEllipse(ellipse, a), onEllipse(ellipse, b)];
      const [u, v] = [ellipseSlope(ellipse, a), ellipseSlope(ellipse, b)];
      return Float64Array.of(
        ...[p.x, p.y, p.x + reach * u.x, p.y + reach * u.y],
        ...[q.x - reach * v.x, q.y - reach * v.y, q.x, q.y],
      );
    },
  };
}

/** Whole multiples of `step` strictly between two values. */
function multiples(from: number, to: number, step: number): number[] {
  const found: number[] = [];
  for (let k = Math.floor(from / step + 1e-9) + 1; k * step < to - 1e-9 * step; k++) found.push(k * step);
  return found;
}

/** The value that is `value` but for whole periods and lies nearest to `near`. */
function unwrapped(value: number, period: number, near: number | undefined): number {
  return near === undefined ? value : value + period * Math.round((near - value) / period);
}

export function unitVector({ x, y }: Point): Point {
  const length = Math.hypot(x, y) || 1;
  return { x: x / length, y: y / length };
}

/** Probes per cubic when the nearest place of a curve is looked for. */
const PROBES = 8;

function curveTrack({ course }: CurvePath): Track {
  const { points, closed } = course;
  const lengths = segmentLengths(course).map((length) => Math.max(length, 1e-9));
  const starts = [0];
  for (const length of lengths) starts.push(starts[starts.length - 1] + length);
  const whole = starts[lengths.length];
  const period = closed ? whole : 0;
  const wrap = (at: number) => (closed ? at - whole * Math.floor(at / whole) : clamp(at, 0, whole));
  const segmentAt = (at: number): number => {
    let [low, high] = [0, lengths.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle] <= at) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  const at = (measure: number) => {
    const own = wrap(measure);
    const segment = segmentAt(own);
    return { segment, t: clamp((own - starts[segment]) / lengths[segment], 0, 1) };
  };
  const nearestOn = (segment: number, p: Point): { measure: number; distance: number } => {
    const away = (t: number) => distance(pointAt(course, { segment, t }), p);
    let best = { t: 0, distance: Infinity };
    for (let k = 0; k <= PROBES; k++) {
      const found = away(k / PROBES);
      if (found < best.distance) best = { t: k / PROBES, distance: found };
    }
    const t = nearestOnCubic(points, segment * SEGMENT, p, best.t, 1 / PROBES);
    const found = away(t);
    if (found <= best.distance) best = { t, distance: found };
    return { measure: starts[segment] + best.t * lengths[segment], distance: best.distance };
  };
  return {
    ...{ period, from: closed ? -Infinity : 0, to: closed ? Infinity : whole },
    place: (measure) => pointAt(course, at(measure)),
    direction: (measure) => {
      const { segment, t } = at(measure);
      return directionOn(points, segment * SEGMENT, t);
    },
    nearest(p, near, window = Infinity) {
      let best = { measure: 0, distance: Infinity };
      for (const segment of segmentsNear(near, window)) {
        if (best.distance <= hullDistance(points, segment * SEGMENT, p)) continue;
        const found = nearestOn(segment, p);
        if (found.distance < best.distance) best = found;
      }
      return period > 0 ? unwrapped(best.measure, period, near) : best.measure;
    },
    breaks(from, to) {
      const found: number[] = [];
      const round = period > 0 ? Math.floor(from / period) : 0;
      for (let turn = round; turn === round || (period > 0 && turn * period < to); turn++)
        for (const start of starts) {
          const measure = start + turn * period;
          if (measure > from + 1e-9 && measure < to - 1e-9 && measure > (found.at(-1) ?? -Infinity) + 1e-9)
            found.push(measure);
        }
      return found;
    },
    cubic(from, to) {
      // The middle tells the cubic that both ends are on, also where one of them is its very end.
      const { segment } = at((from + to) / 2);
      const turns = period > 0 ? period * Math.floor((from + to) / 2 / period) : 0;
      const t = (measure: number) => clamp((measure - turns - starts[segment]) / lengths[segment], 0, 1);
      return subCubic(points, segment * SEGMENT, t(from), t(to));
    },
  };

  /** The cubics whose measures come within `window` of `near`. */
  function* segmentsNear(near: number | undefined, window: number): Generator<number> {
    if (near === undefined || (period > 0 && 2 * window >= whole)) {
      for (let k = 0; k < lengths.length; k++) yield k;
      return;
    }
    const first = segmentAt(wrap(near - window));
    const last = segmentAt(wrap(near + window));
    for (let k = first; ; k = (k + 1) % lengths.length) {
      yield k;
      if (k === last) return;
    }
  }
}

function hullDistance(q: Float64Array, i: number, p: Point): number {
  const beyond = (a: number, b: number, c: number, d: number, at: number) =>
    Math.max(Math.min(a, b, c, d) - at, at - Math.max(a, b, c, d), 0);
  return Math.hypot(
    beyond(q[i], q[i + 3], q[i + 6], q[i + 9], p.x),
    beyond(q[i + 1], q[i + 4], q[i + 7], q[i + 10], p.y),
  );
}

/** The direction of a cubic; where a handle lies on its node, of what is near by. */
function directionOn(q: Float64Array, i: number, t: number): Point {
  for (const near of [t, Math.min(1, t + 1e-3), Math.max(0, t - 1e-3)]) {
    const x = cubicSlope(q[i], q[i + 3], q[i + 6], q[i + 9], near);
    const y = cubicSlope(q[i + 1], q[i + 4], q[i + 7], q[i + 10], near);
    if (Math.hypot(x, y) > 1e-9) return unitVector({ x, y });
  }
  return unitVector({ x: q[i + 9] - q[i], y: q[i + 10] - q[i + 1] });
}

/** Control points x, y of the part of a cubic between two parameters, by its polar form (blossom; Ramshaw 1989). */
function subCubic(q: ArrayLike<number>, i: number, from: number, to: number): Float64Array {
  const out = new Float64Array(8);
  for (let axis = 0; axis < 2; axis++) {
    const at = (k: number) => q[i + k * STRIDE + axis];
    const polar = (r: number, s: number, t: number) => {
      const step = (a: number, b: number, u: number) => a + (b - a) * u;
      const [a, b, c] = [step(at(0), at(1), r), step(at(1), at(2), r), step(at(2), at(3), r)];
      return step(step(a, b, s), step(b, c, s), t);
    };
    out[axis] = polar(from, from, from);
    out[2 + axis] = polar(from, from, to);
    out[4 + axis] = polar(from, to, to);
    out[6 + axis] = polar(to, to, to);
  }
  return out;
}

/** The place of a path that is nearest to `p`. */
export function project(path: GuidePath, p: Point): PathPlace {
  const track = trackOf(path);
  const at = track.nearest(p);
  const place = track.place(at);
  return { x: place.x, y: place.y, at, distance: distance(place, p) };
}

/** The part of a path between two measures (see `project`), as a course of width 1; it runs backwards where `to` is less. */
export function spineAlong(path: GuidePath, from: number, to: number): Spine {
  const track = trackOf(path);
  const ends = [Math.min(from, to), Math.max(from, to)];
  const marks = [ends[0], ...track.breaks(ends[0], ends[1]), ends[1]];
  const triples: number[] = [];
  marks.slice(1).forEach((end, k) => {
    const cubic = track.cubic(marks[k], end);
    for (let n = k === 0 ? 0 : 1; n < 4; n++) triples.push(cubic[2 * n], cubic[2 * n + 1], 1);
  });
  if (to >= from) return { points: Float64Array.from(triples), closed: false };
  const points = new Float64Array(triples.length);
  for (let i = 0; i < triples.length; i += STRIDE)
    points.set(triples.slice(i, i + STRIDE), triples.length - STRIDE - i);
  return { points, closed: false };
}

/** The one of some paths that comes nearest to a point. */
export function nearestPath(paths: readonly GuidePath[], point: Point): GuidePath | undefined {
  const away = paths.map((path) => ({ path, away: project(path, point).distance }));
  return away.sort((a, b) => a.away - b.away)[0]?.path;
}
