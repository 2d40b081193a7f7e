import type { RailsShape, RaysShape, RipplesShape, FieldShape } from './guide';
import {
  flattenSpine,
  pointAt,
  segmentLengths,
  STRIDE,
  type Spine,
  type EllipsePath,
  type GuidePath,
  type LinePath,
} from '../curve';
import { distance, isInLoop, seededRandom, type Point } from '../math';
import { inked, type Stroke } from '../stroke';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import type { Nib } from '../nib';
import { echoThrough } from './echo';
import { fromMiddle } from './ellipse';
import { spineAlong, trackOf } from './path';

/** How a loop is filled with lines of a field. Lengths in page px. */
export interface RakeSettings {
  readonly nib: Nib;
  /** Between two lines; of rays, where they cross the loop on average. */
  readonly spacing: number;
  /** How far a line may stray from its place, 0..1 of the spacing. */
  readonly jitter: number;
  /** How much of its length a line may lack at its far end, 0..1. */
  readonly ragged: number;
  /** A loop that stays free. */
  readonly middle?: readonly Point[];
  /** The guide that the field belongs to: the lines remember it, so that they can be tethered. */
  readonly guideId?: EntityId;
}

const MOST_LINES = 10_000;
/** Lines shorter than this, page px, are not drawn. */
const LEAST = 2;

/**
 * Lines along a field inside a loop, evenly spaced, inked with a nib: speed lines from rails, focus lines from rays (drawn
 * from outside inwards), rings from ripples, echoes of a curve. The same seed rakes the same. Throws a PageError for a loop
 * that holds nothing, a spacing that is none, and for more than 10,000 lines.
 */
export function rake(field: FieldShape, loop: readonly Point[], settings: RakeSettings, seed: number): Stroke[] {
  const { spacing, jitter, ragged, middle, nib, guideId } = settings;
  if (loop.length < 3) throw new PageError('Draw a loop for the rake to fill.');
  if (!(spacing >= 0.5)) throw new PageError('The lines of a rake lie at least 0.5 px apart.');
  const random = seededRandom(seed);
  const strokes: Stroke[] = [];
  for (const path of pathsAcross(field, loop, spacing, () => (random() - 0.5) * jitter)) {
    for (const [from, to] of spansInside(path, loop, middle)) {
      const [begin, end] = field.kind === 'rays' ? farFirst(path, field, from, to) : [from, to];
      const tip = begin + (end - begin) * (1 - ragged * random());
      if (Math.abs(tip - begin) < LEAST) continue;
      const stroke = inked(spineAlong(path, begin, tip), nib, Math.floor(random() * 0xffffffff));
      strokes.push(guideId === undefined ? stroke : { ...stroke, guide: { id: guideId, path } });
      if (strokes.length > MOST_LINES)
        throw new PageError(`This would be more than ${MOST_LINES} lines. Make the spacing wider or the loop smaller.`);
    }
  }
  return strokes;
}

function farFirst(path: GuidePath, point: Point, from: number, to: number): readonly [number, number] {
  const { place } = trackOf(path);
  return distance(place(from), point) >= distance(place(to), point) ? [from, to] : [to, from];
}

/** The paths of a field that may cross a loop, one at each step. */
function* pathsAcross(
  field: FieldShape,
  loop: readonly Point[],
  spacing: number,
  stray: () => number,
): Generator<GuidePath> {
  switch (field.kind) {
    case 'rails':
      return yield* railsAcross(field, loop, spacing, stray);
    case 'rays':
      return yield* raysAcross(field, loop, spacing, stray);
    case 'ripples':
      return yield* ringsAcross(field, loop, spacing, stray);
    case 'echo':
      return yield* echoesAcross(field.course, loop, spacing, stray);
  }
}

function* railsAcross(
  field: RailsShape,
  loop: readonly Point[],
  spacing: number,
  stray: () => number,
): Generator<GuidePath> {
  const [dx, dy] = [Math.cos(field.angle), Math.sin(field.angle)];
  const across = loop.map((p) => (p.x - field.x) * -dy + (p.y - field.y) * dx);
  for (const value of steps(Math.min(...across), Math.max(...across), spacing)) {
    const at = value + stray() * spacing;
    yield { kind: 'line', x: field.x - dy * at, y: field.y + dx * at, dx, dy };
  }
}

function* raysAcross(
  field: RaysShape,
  loop: readonly Point[],
  spacing: number,
  stray: () => number,
): Generator<GuidePath> {
  const reach = loop.reduce((sum, p) => sum + distance(p, field), 0) / loop.length;
  const count = Math.max(1, Math.round((2 * Math.PI * reach) / spacing));
  if (count > 100 * MOST_LINES)
    throw new PageError('The point of these rays lies too far off for so narrow a spacing.');
  const step = (2 * Math.PI) / count;
  const [first, last] = anglesOf(loop, field);
  for (let k = Math.ceil(first / step); k * step < Math.min(last, first + 2 * Math.PI - step / 2); k++) {
    const angle = (k + stray()) * step;
    yield { kind: 'line', x: field.x, y: field.y, dx: Math.cos(angle), dy: Math.sin(angle), from: 0 };
  }
}

function* ringsAcross(
  field: RipplesShape,
  loop: readonly Point[],
  spacing: number,
  stray: () => number,
): Generator<GuidePath> {
  const { x, y, ratio, angle } = field;
  const unit: EllipsePath = { kind: 'ellipse', x, y, rx: 1, ry: ratio, angle };
  const radii = loop.map((p) => {
    const own = fromMiddle(unit, p);
    return Math.hypot(own.x, own.y / ratio);
  });
  for (const value of steps(0, Math.max(...radii), spacing)) {
    const rx = value + stray() * spacing;
    if (rx > 0.5) yield { kind: 'ellipse', x, y, rx, ry: rx * ratio, angle };
  }
}

/** Whole multiples of a step within a range. */
function* steps(low: number, high: number, step: number): Generator<number> {
  if ((high - low) / step > 10 * MOST_LINES)
    throw new PageError(`This would be more than ${MOST_LINES} lines. Make the spacing wider or the loop smaller.`);
  for (let k = Math.ceil(low / step); k * step <= high; k++) yield k * step;
}

/** The directions, radians, in which a loop lies from a point: all of them where it goes round it. */
function anglesOf(loop: readonly Point[], from: Point): readonly [number, number] {
  if (isInLoop(loop, from)) return [-Math.PI, Math.PI];
  let angle = Math.atan2(loop[0].y - from.y, loop[0].x - from.x);
  let [least, most] = [angle, angle];
  for (const p of loop) {
    const next = Math.atan2(p.y - from.y, p.x - from.x);
    angle += next - angle - 2 * Math.PI * Math.round((next - angle) / (2 * Math.PI));
    [least, most] = [Math.min(least, angle), Math.max(most, angle)];
  }
  return [least, most];
}

function* echoesAcross(
  course: Spine,
  loop: readonly Point[],
  spacing: number,
  stray: () => number,
): Generator<GuidePath> {
  const lengths = segmentLengths(course);
  const segment = Math.floor(lengths.length / 2);
  const track = trackOf({ kind: 'curve', course });
  const middle = lengths.slice(0, segment).reduce((sum, length) => sum + length, 0) + lengths[segment] / 2;
  const [on, way] = [pointAt(course, { segment, t: 0.5 }), track.direction(middle)];
  const reach = Math.max(...loop.map((p) => distance(p, on)));
  for (const value of steps(-reach, reach, spacing)) {
    const at = value + stray() * spacing;
    const echo = echoThrough(course, { x: on.x - at * way.y, y: on.y + at * way.x });
    if (echo) yield { kind: 'curve', course: echo };
  }
}

/** The parts of a path inside a loop and outside another, as pairs of measures. */
function spansInside(
  path: GuidePath,
  loop: readonly Point[],
  middle: readonly Point[] | undefined,
): (readonly [number, number])[] {
  const track = trackOf(path);
  const marks: number[] = [];
  addCrossings(path, loop, marks);
  if (middle) addCrossings(path, middle, marks);
  if (path.kind === 'line') marks.push(...[path.from, path.to].filter((end) => end !== undefined));
  else if (track.period > 0 && marks.length === 0) marks.push(0);
  else if (track.period === 0) marks.push(track.from, track.to);
  marks.sort((a, b) => a - b);
  if (track.period > 0 && marks.length > 0) marks.push(marks[0] + track.period);
  const isFree = (at: number) => {
    const p = track.place(at);
    return isInLoop(loop, p) && !(middle && isInLoop(middle, p));
  };
  return marks
    .slice(1)
    .flatMap((to, k) => (to - marks[k] > 1e-6 && isFree((to + marks[k]) / 2) ? [[marks[k], to] as const] : []));
}

/** Adds to `marks` the measures at which a path crosses a loop. */
function addCrossings(path: GuidePath, loop: readonly Point[], marks: number[]): void {
  if (path.kind === 'curve') return addCurveCrossings(path.course, loop, marks);
  for (let k = 0, last = loop[loop.length - 1]; k < loop.length; last = loop[k++]) {
    if (path.kind === 'line') addLineCrossing(path, last, loop[k], marks);
    else addEllipseCrossings(path, last, loop[k], marks);
  }
}

function addLineCrossing(
  { x, y, dx, dy, from = -Infinity, to = Infinity }: LinePath,
  a: Point,
  b: Point,
  marks: number[],
): void {
  const u = (a.x - x) * dy - (a.y - y) * dx;
  const v = (b.x - x) * dy - (b.y - y) * dx;
  if (u < 0 === v < 0) return;
  const t = u / (u - v);
  const at = (a.x + (b.x - a.x) * t - x) * dx + (a.y + (b.y - a.y) * t - y) * dy;
  if (at > from && at < to) marks.push(at);
}

/** Where a leg crosses an ellipse: the ellipse is a circle of radius 1 when its half axes are the units. */
function addEllipseCrossings(ellipse: EllipsePath, a: Point, b: Point, marks: number[]): void {
  const { rx, ry } = ellipse;
  const [p, q] = [fromMiddle(ellipse, a), fromMiddle(ellipse, b)];
  const [px, py, vx, vy] = [p.x / rx, p.y / ry, (q.x - p.x) / rx, (q.y - p.y) / ry];
  const [aa, bb, cc] = [vx * vx + vy * vy, px * vx + py * vy, px * px + py * py - 1];
  const root = bb * bb - aa * cc;
  if (root <= 0 || aa === 0) return;
  for (const sign of [-1, 1]) {
    const t = (-bb + sign * Math.sqrt(root)) / aa;
    if (t >= 0 && t < 1) marks.push(Math.atan2(py + t * vy, px + t * vx) * Math.max(rx, ry));
  }
}

function addCurveCrossings(course: Spine, loop: readonly Point[], marks: number[]): void {
  const flat = flattenSpine(course, 0.1);
  const track = trackOf({ kind: 'curve', course });
  for (let i = STRIDE; i < flat.length; i += STRIDE) {
    const [x, y] = [flat[i - 3], flat[i - 2]];
    const length = Math.hypot(flat[i] - x, flat[i + 1] - y);
    if (length === 0) continue;
    const leg: LinePath = {
      kind: 'line',
      x,
      y,
      dx: (flat[i] - x) / length,
      dy: (flat[i + 1] - y) / length,
      from: 0,
      to: length,
    };
    const own: number[] = [];
    addCrossings(leg, loop, own);
    for (const at of own) marks.push(track.nearest({ x: x + at * leg.dx, y: y + at * leg.dy }));
  }
}
