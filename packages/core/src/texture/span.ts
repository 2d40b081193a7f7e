import {
  courseOf,
  cutAtLengths,
  lengthOf,
  placeAlong,
  placeOf,
  pointAt,
  reversedSpine,
  segmentCount,
  segmentLengths,
  splitSpine,
  STRIDE,
  type Spine,
  type SpinePlace,
  type WeightedPoint,
} from '../curve';
import { PageError } from '../gate';
import { distance, type Point } from '../math';
import type { Nib } from '../nib';
import type { Stroke } from '../stroke';
import { APART, powerIn } from './row';

/** How the room between lines is filled. Lengths in page px. */
export interface SpanSettings {
  readonly nib: Nib;
  /** Rows between two lines; or how far apart they lie on average. */
  readonly rows: { readonly count: number } | { readonly spacing: number };
  /** Rows gather towards the first line below 0, and towards the second above, −1..1; even at 0. */
  readonly gather?: number;
}

/** Rows that one span may have between two lines. */
const MOST = 5_000;
/** Shares of the length within which nodes of two lines are taken for like ones. */
const SAME = 0.02;

/**
 * Rows between lines that were drawn, from each to the next: their courses and weights go over from one line into the other. A
 * point among them is where rows from the line beside it run to. Throws a PageError for fewer than two lines, for two points
 * beside each other, for rows that are none, and for more than 5,000.
 */
export function spanRows(lines: readonly (Spine | Point)[], settings: SpanSettings): Stroke[] {
  if (lines.length < 2) throw new PageError('Choose two lines: the rows come between them.');
  return lines.slice(1).flatMap((b, k) => {
    const a = lines[k];
    if (isLine(a)) return isLine(b) ? between(a, b, settings) : toPoint(a, b, settings);
    if (isLine(b)) return toPoint(b, a, settings);
    throw new PageError('Rows run between lines, or from a line to a point.');
  });
}

const isLine = (one: Spine | Point): one is Spine => 'points' in one;

/** The two sides of one line, parted where it lies farthest from its ends; both run away from those. */
export function sidesOfLine(spine: Spine): readonly [Spine, Spine] {
  const [from, to] = endsOf(spine);
  let farthest: SpinePlace & { away: number } = { segment: 0, t: 0.5, away: -1 };
  for (let segment = 0; segment < segmentCount(spine); segment++)
    for (const t of [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875]) {
      const p = pointAt(spine, { segment, t });
      const away = distance(p, from) + distance(p, to);
      if (away > farthest.away) farthest = { segment, t, away };
    }
  const [first, second] = splitSpine(spine, farthest);
  return [first, reversedSpine(second)];
}

const endsOf = ({ points }: Spine): readonly [Point, Point] => [
  { x: points[0], y: points[1] },
  { x: points[points.length - STRIDE], y: points[points.length - STRIDE + 1] },
];

function between(first: Spine, second: Spine, { nib, rows, gather = 0 }: SpanSettings): Stroke[] {
  const [a, b] = alike(first, second);
  const count = countOf(rows, () => gapBetween(a, b));
  return Array.from({ length: count }, (_, k) => {
    const share = gathered((k + 1) / (count + 1), gather);
    return rowOf(
      a.map((value, i) => value + (b[i] - value) * share),
      nib,
      k,
    );
  });
}

/** Nodes and handles of two lines that run the same way and have as many cubics, so that each node has its like. */
function alike(a: Spine, second: Spine): readonly [Float64Array, Float64Array] {
  const [a0, a1] = endsOf(a);
  const [b0, b1] = endsOf(second);
  const isTurned = distance(a0, b1) + distance(a1, b0) < distance(a0, b0) + distance(a1, b1);
  const b = isTurned ? reversedSpine(second) : second;
  const [own, other] = [knots(a), knots(b)];
  const [forA, forB]: [number[], number[]] = [[], []];
  for (let i = 0, j = 0; i < own.length || j < other.length;) {
    const [x, y] = [own[i] ?? Infinity, other[j] ?? Infinity];
    if (Math.abs(x - y) < SAME) {
      i++;
      j++;
    } else if (x < y) forB.push(own[i++]);
    else forA.push(other[j++]);
  }
  return [withNodes(a, forA), withNodes(b, forB)];
}

/** The shares of its length at which a line has its inner nodes. */
function knots(spine: Spine): number[] {
  const lengths = segmentLengths(spine);
  const whole = lengths.reduce((sum, own) => sum + own, 0);
  let along = 0;
  return lengths.slice(0, -1).map((own) => (along += own) / whole);
}

function withNodes(spine: Spine, shares: readonly number[]): Float64Array {
  const lengths = segmentLengths(spine);
  const whole = lengths.reduce((sum, own) => sum + own, 0);
  return cutAtLengths(
    spine,
    lengths,
    shares.map((share) => share * whole),
    0,
  ).points;
}

/** How far two lines lie apart on average, node by node. */
function gapBetween(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += STRIDE) sum += Math.hypot(b[i] - a[i], b[i + 1] - a[i + 1]);
  return (sum * STRIDE) / a.length;
}

/** Straight rows from places along a line to a point: they stop where they would touch, every second one first. */
function toPoint(line: Spine, point: Point, { nib, rows, gather = 0 }: SpanSettings): Stroke[] {
  const course = courseOf(line);
  const whole = lengthOf(course);
  const count = countOf(rows, () => whole);
  const places = Array.from({ length: count + 2 }, (_, k): WeightedPoint =>
    pointAt(line, placeOf(line, placeAlong(course, gathered(k / (count + 1), gather) * whole))),
  );
  return places.slice(1, -1).flatMap((at, k): Stroke[] => {
    if (!(distance(at, point) > 1e-6)) return [];
    const beside = Math.min(distance(at, places[k]), distance(at, places[k + 2]));
    const stop = Math.min(0.95, (APART * nib.size) / (beside * powerIn(k + 1)));
    const way = [1, (2 + stop) / 3, (1 + 2 * stop) / 3, stop];
    const triples = way.flatMap((share) => [
      point.x + (at.x - point.x) * share,
      point.y + (at.y - point.y) * share,
      at.width,
    ]);
    return [rowOf(Float64Array.from(triples), nib, k)];
  });
}

function countOf(rows: SpanSettings['rows'], gap: () => number): number {
  const count = 'count' in rows ? Math.round(rows.count) : Math.round(gap() / rows.spacing) - 1;
  if (!(count >= 1)) throw new PageError('There is no room for a row between these lines. Take a smaller spacing.');
  if (count > MOST)
    throw new PageError(
      `This would be ${count.toLocaleString('en-GB')} rows, and at most ${MOST.toLocaleString('en-GB')} are laid at once.`,
    );
  return count;
}

/** An even share 0..1 drawn towards 0 where `gather` is below 0, and towards 1 above. */
const gathered = (share: number, gather: number): number =>
  gather < 0 ? share ** (1 - 2 * gather) : 1 - (1 - share) ** (1 + 2 * gather);

function rowOf(points: Float64Array, nib: Nib, k: number): Stroke {
  const stroke: Stroke = { spine: { points, closed: false }, nib, ends: ['round', 'round'] };
  return nib.edge ? { ...stroke, grain: { seed: k, offset: 0 } } : stroke;
}
