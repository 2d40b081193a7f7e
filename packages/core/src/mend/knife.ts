import simplify from 'simplify-js';
import { courseOf, directionAt, lengthOf, placeAlong, placeOf, pointAt, spineBox, startedAt, widestOf } from '../curve';
import { boxOfFlat, growBox, isInRing, reversedRing, ringArea, uniteBoxes, type Point } from '../math';
import type { Stroke, StrokeEnd } from '../stroke';
import { blotWithin, blotWithout, inkAt, LEAST_INK } from './blots';
import { pieceOf } from './cut';

export interface KnifeOptions {
  /** Takes what lies outside of the loop in place of what lies inside. */
  readonly outside?: boolean;
}

/** Page px along a line between places that are looked at. */
const STEP = 0.5;
/** Page px to which the edge of a cut is found. */
const FINE = 1e-3;
/** Corners of a loop nearer to the way without them, page px, are left out. */
const KEPT = 0.05;

/**
 * What a loop leaves of a line: nothing where it takes nothing, otherwise the pieces, perhaps none. Their ends lie exactly
 * on the loop, however it slants across the line; a loop that only shaves a side off a line leaves it in two pieces whose
 * ends meet there.
 */
export function cutByLoop<S extends Stroke>(
  stroke: S,
  loop: readonly Point[],
  { outside = false }: KnifeOptions = {},
): S[] | undefined {
  if (loop.length < 3) return undefined;
  const ring = ringOf(loop);
  if (ring.length < 6) return undefined;
  if (stroke.fills) return outside ? blotWithin(stroke, ring) : blotWithout(stroke, ring);
  const { spine } = stroke;
  if (lengthOf(courseOf(spine)) < FINE) return cutDot(stroke, ring, outside);
  const covers = coversAlong(stroke, ring, outside);
  if (covers.every((share) => share === 0)) return undefined;
  if (covers.every((share) => share === 1)) return [];
  const gone: StrokeEnd = { gone: outside ? aroundOf(ring, stroke) : ring };
  if (!spine.closed) return cutOpen(stroke, covers, ring, outside, gone);
  // A ring starts inside what goes, or where most of it is shaved off.
  const most = covers.indexOf(Math.max(...covers));
  const course = courseOf(spine);
  const start = placeAlong(course, (most * lengthOf(course)) / (covers.length - 1));
  const open: S = { ...stroke, spine: { ...startedAt(spine, start), closed: false }, ends: [gone, gone] };
  return cutOpen(open, coversAlong(open, ring, outside), ring, outside, gone);
}

/** What a loop leaves of a dot: it has no way to be cut across, so it is cut as the disc that it is. */
function cutDot<S extends Stroke>(stroke: S, ring: Float64Array, outside: boolean): S[] | undefined {
  const { within, without } = inkAt(stroke, ring);
  const [goes, stays] = outside ? [without, within] : [within, without];
  if (goes < LEAST_INK) return undefined;
  if (stays < LEAST_INK) return [];
  const gone: StrokeEnd = { gone: outside ? aroundOf(ring, stroke) : ring };
  const { origin } = stroke;
  return [{ ...stroke, ends: [gone, gone], ...(origin && { origin: { ...origin, left: 'cut' as const } }) }];
}

/** The share of the width that goes, at even steps along a line. */
function coversAlong(stroke: Stroke, ring: Float64Array, outside: boolean): number[] {
  const course = courseOf(stroke.spine);
  const steps = Math.max(2, Math.ceil(lengthOf(course) / STEP));
  return Array.from({ length: steps + 1 }, (_, k) =>
    coverAt(stroke, placeAlong(course, (k * lengthOf(course)) / steps), ring, outside),
  );
}

function cutOpen<S extends Stroke>(
  stroke: S,
  covers: readonly number[],
  ring: Float64Array,
  outside: boolean,
  gone: StrokeEnd,
): S[] {
  const course = courseOf(stroke.spine);
  const length = lengthOf(course);
  const steps = covers.length - 1;
  const cover = (along: number): number => coverAt(stroke, placeAlong(course, along), ring, outside);
  const at = (k: number) => (k * length) / steps;
  const pieces: S[] = [];
  for (let k = 0; k <= steps; k++) {
    if (covers[k] === 1) continue;
    const first = k;
    while (k < steps && covers[k + 1] < 1) k++;
    const from = first === 0 ? 0 : edge(cover, at(first), at(first - 1));
    const to = k === steps ? length : edge(cover, at(k), at(k + 1));
    const begin = first === 0 && covers[0] === 0 ? stroke.ends[0] : gone;
    const end = k === steps && covers[steps] === 0 ? stroke.ends[1] : gone;
    // Where a side is shaved off in between: cut where most of it is gone.
    const marks = [from, ...shaved(covers, first, k).map(at), to];
    for (let m = 0; m + 1 < marks.length; m++) {
      if (marks[m + 1] - marks[m] < FINE) continue;
      const [start, stop] = [placeAlong(course, marks[m]), placeAlong(course, marks[m + 1])];
      const isLast = m + 2 === marks.length;
      pieces.push(pieceOf(stroke, { at: start, end: m === 0 ? begin : gone }, { at: stop, end: isLast ? end : gone }));
    }
  }
  return pieces;
}

/** Numbers of the deepest places of runs that are touched in between, away from both sides of a stretch. */
function shaved(covers: readonly number[], first: number, last: number): number[] {
  let [low, high] = [first, last];
  while (low <= last && covers[low] > 0) low++;
  while (high >= first && covers[high] > 0) high--;
  const deepest: number[] = [];
  for (let k = low; k <= high; k++) {
    if (covers[k] === 0) continue;
    let best = k;
    while (k < high && covers[k + 1] > 0) {
      k++;
      if (covers[k] > covers[best]) best = k;
    }
    deepest.push(best);
  }
  return deepest;
}

/** Where all of the line's width goes, between a place where some stays and one where none does. */
function edge(cover: (along: number) => number, stays: number, goes: number): number {
  while (Math.abs(goes - stays) > FINE) {
    const middle = (stays + goes) / 2;
    if (cover(middle) < 1) stays = middle;
    else goes = middle;
  }
  return goes;
}

/** Places across a line's width that are looked at. */
const ACROSS = [-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1];

/** The share of the line's width at a place that goes. */
function coverAt({ spine }: Stroke, at: number, ring: Float64Array, outside: boolean): number {
  const place = placeOf(spine, at);
  const { x, y, width } = pointAt(spine, place);
  const { x: dx, y: dy } = directionAt(spine, place);
  const half = width / 2;
  const inside = ACROSS.filter((share) =>
    isInRing(ring, { x: x - dy * half * share, y: y + dx * half * share }),
  ).length;
  return (outside ? ACROSS.length - inside : inside) / ACROSS.length;
}

/** A loop as a ring, without corners that do not tell. */
const ringOf = (loop: readonly Point[]): Float64Array =>
  Float64Array.from(simplify([...loop], KEPT, true).flatMap(({ x, y }) => [x, y]));

/**
 * All around a ring that a line may ink, as one ring: a frame round both with a slit to the ring, which is gone round the
 * other way.
 */
function aroundOf(ring: Float64Array, { spine }: Stroke): Float64Array {
  const { minX, minY, maxX, maxY } = growBox(
    uniteBoxes(spineBox(spine), boxOfFlat(ring, 2)),
    12 * widestOf(spine) + 20,
  );
  const back = ringArea(ring) > 0 ? reversedRing(ring) : ring;
  const corners = [minX, minY, maxX, minY, maxX, maxY, minX, maxY, minX, minY];
  return Float64Array.from([...corners, ...back, back[0], back[1], minX, minY]);
}
