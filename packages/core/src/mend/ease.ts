import {
  courseOf,
  directionAt,
  CubicFitter,
  flattenedCounts,
  flattenSpine,
  isSmooth,
  joinedSpines,
  lengthOf,
  makeSpine,
  nodeCount,
  partOf,
  endOf,
  SEGMENT,
  segmentCount,
  SpineFitter,
  startedAt,
  STRIDE,
  wideningAt,
  type Spine,
} from '../curve';
import { pointToLeg } from '../math';
import type { Stroke } from '../stroke';

/** Radians from which a turn between two long sides is a corner: 30°. */
const CORNER = Math.PI / 6;
/** Sides shorter than so many tolerances make no corner: they are the shiver that is eased away. */
const SIDE = 6;

/**
 * The same line with fewer nodes: no point of either strays more than `tolerance` page px from the other, nor its half
 * width. Corners stay where they are. The same object where nothing would be gained.
 */
export function ease(spine: Spine, tolerance: number): Spine {
  if (!(tolerance > 0)) throw new RangeError(`A tolerance is a length above 0; ${tolerance} came.`);
  const corners = cornersOf(spine, tolerance);
  // A ring starts at a corner, if it has one, so that all of it can be fitted.
  const start = spine.closed ? (corners[0] ?? 0) : 0;
  const turned = startedAt(spine, start);
  const marks = spine.closed
    ? corners.map((corner) => corner - start).filter((mark) => mark > 0)
    : corners.filter((mark) => mark > 0 && mark < endOf(spine));
  const stops = [0, ...marks, endOf(turned)];
  const isSeamless = spine.closed && corners.length === 0;
  const parts = stops.slice(1).map((to, k) => easedPart(partOf(turned, stops[k], to), tolerance, isSeamless));
  const eased: Spine = { ...joinedSpines(parts), closed: spine.closed };
  return nodeCount(eased) < nodeCount(spine) ? eased : spine;
}

/** Nodes at which a line turns sharply between sides that are long enough to be meant. */
function cornersOf(spine: Spine, tolerance: number): number[] {
  const { points, closed } = spine;
  const count = endOf(spine);
  const found: number[] = [];
  const chord = (segment: number) =>
    Math.hypot(
      points[(segment + 1) * SEGMENT] - points[segment * SEGMENT],
      points[(segment + 1) * SEGMENT + 1] - points[segment * SEGMENT + 1],
    );
  for (let node = closed ? 0 : 1; node < count; node++) {
    if (isSmooth(spine, node)) continue;
    const before = node > 0 ? node - 1 : count - 1;
    if (Math.min(chord(before), chord(node)) < SIDE * tolerance) continue;
    const [a, b] = [directionAt(spine, { segment: before, t: 1 }), directionAt(spine, { segment: node, t: 0 })];
    if (Math.acos(Math.max(-1, Math.min(1, a.x * b.x + a.y * b.y))) > CORNER) found.push(node);
  }
  return found;
}

function easedPart(part: Spine, tolerance: number, isSeamless: boolean): Spine {
  const track = densePoints(part, tolerance);
  let best = onOldNodes(part, track, tolerance);
  // A little closer than asked, since the fit is judged at points; closer still where that was not enough.
  for (const share of [0.97, 0.8, 0.6]) {
    const fitter = new SpineFitter(share * tolerance, track.points.length / STRIDE + 1);
    fitter.addAll(track.points);
    const fitted = exactEnds(fitter.finish(), part, isSeamless);
    if (fitted.points.length >= best.points.length) continue;
    if (strayBetween(fitted, track.points) <= tolerance) {
      best = fitted;
      break;
    }
  }
  return best;
}

/**
 * The same part on some of its own nodes: each cubic reaches as far as the tolerance allows, keeps the line's direction at
 * smooth nodes, and is free at corners. This is what rough coasts and straight sides are best told by.
 */
function onOldNodes(part: Spine, { points, nodes }: Track, tolerance: number): Spine {
  const count = segmentCount(part);
  if (count < 2) return part;
  const lengths = new Float64Array(points.length / STRIDE);
  for (let k = 1; k < lengths.length; k++)
    lengths[k] =
      lengths[k - 1] +
      Math.hypot(points[STRIDE * k] - points[STRIDE * k - 3], points[STRIDE * k + 1] - points[STRIDE * k - 2]);
  const tangentAt = (node: number, side: 'in' | 'out') => {
    const isEnd = node === 0 || node === count;
    if (!isEnd && !isSmooth(part, node)) return undefined;
    const ahead = directionAt(part, side === 'in' ? { segment: node - 1, t: 1 } : { segment: node, t: 0 });
    // An end has but one side; the other says 0.
    const [before, after] = [wideningAt(part, node, 'in'), wideningAt(part, node, 'out')];
    return { ...ahead, widening: isEnd ? before + after : (before + after) / 2 };
  };
  const fitter = new CubicFitter();
  const fit = (from: number, to: number) =>
    fitter.fit(
      { track: points, lengths, first: nodes[from], last: nodes[to] },
      { start: tangentAt(from, 'out'), end: tangentAt(to, 'in') },
      tolerance,
    );
  const kept: number[] = [...part.points.subarray(0, STRIDE)];
  for (let from = 0; from < count;) {
    // One cubic is there already; farther ones are tried at growing steps, then between the last two.
    let [good, handles] = [from + 1, [...part.points.subarray(from * SEGMENT + STRIDE, from * SEGMENT + SEGMENT)]];
    let [step, bad] = [1, count + 1];
    while (good + 1 < bad) {
      const tried = Math.min(count, bad > count ? good + step : Math.floor((good + bad) / 2));
      if (tried === good) break;
      const found = fit(from, tried);
      if (found.error <= 0.97 * tolerance) [good, handles, step] = [tried, [...found.handles], 2 * step];
      else bad = tried;
    }
    kept.push(...handles, ...part.points.subarray(good * SEGMENT, good * SEGMENT + STRIDE));
    from = good;
  }
  return makeSpine(Float64Array.from(kept));
}

/** Points along a line, triples, and the numbers of those that are its nodes. */
interface Track {
  readonly points: Float64Array;
  readonly nodes: readonly number[];
}

/** Points of a course so close together that no cubic through them can stray in between. */
function densePoints(spine: Spine, tolerance: number): Track {
  const line = flattenSpine(spine, tolerance / 10);
  const nodes = [0];
  let [leg, next] = [0, 0];
  const counts = flattenedCounts(spine, tolerance / 10);
  const apart = Math.max(2 * tolerance, lengthOf(courseOf(spine)) / 20_000);
  const points: number[] = [line[0], line[1], line[2]];
  for (let i = STRIDE; i < line.length; i += STRIDE) {
    const length = Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]);
    const pieces = Math.max(1, Math.ceil(length / apart));
    for (let k = 1; k <= pieces; k++)
      for (let axis = 0; axis < STRIDE; axis++)
        points.push(line[i - STRIDE + axis] + (k / pieces) * (line[i + axis] - line[i - STRIDE + axis]));
    if (++leg < counts[next]) continue;
    nodes.push(points.length / STRIDE - 1);
    [leg, next] = [0, next + 1];
  }
  return { points: Float64Array.from(points), nodes };
}

/** A fitted line on the very ends of the old one; a ring without corners goes smoothly through its seam. */
function exactEnds({ points }: Spine, { points: old }: Spine, isSeamless: boolean): Spine {
  const exact = points.slice();
  exact.set(old.subarray(0, STRIDE));
  exact.set(old.subarray(old.length - STRIDE), exact.length - STRIDE);
  if (isSeamless) {
    const [first, last] = [STRIDE, exact.length - 2 * STRIDE];
    const [x, y] = [exact[0], exact[1]];
    const [ax, ay, bx, by] = [exact[first] - x, exact[first + 1] - y, x - exact[last], y - exact[last + 1]];
    const [a, b] = [Math.hypot(ax, ay) || 1, Math.hypot(bx, by) || 1];
    const [ux, uy] = [ax / a + bx / b, ay / a + by / b];
    const unit = Math.hypot(ux, uy) || 1;
    exact[first] = x + (ux / unit) * a;
    exact[first + 1] = y + (uy / unit) * a;
    exact[last] = x - (ux / unit) * b;
    exact[last + 1] = y - (uy / unit) * b;
    const width = exact[2];
    const widening = ((exact[first + 2] - width) / a + (width - exact[last + 2]) / b) / 2;
    exact[first + 2] = Math.max(0, width + a * widening);
    exact[last + 2] = Math.max(0, width - b * widening);
  }
  return makeSpine(exact);
}

/** The greatest distance of points from a line and of the line from the way through them, page px (Hausdorff). */
export function strayBetween(spine: Spine, track: Float64Array): number {
  const line = flattenSpine(spine, 0.02);
  return Math.max(oneWay(track, line), oneWay(line, track));
}

/** How far points of one way lie from another way, looked for near where the last one was found, which is fair for fits. */
function oneWay(points: Float64Array, line: Float64Array): number {
  let worst = 0;
  let from = 0;
  for (let i = 0; i < points.length; i += STRIDE) {
    let best = Infinity;
    let bestLeg = from;
    // Onwards from the last leg, until legs only get farther.
    for (let k = from, worse = 0; k + STRIDE < line.length && worse < 400; k += STRIDE) {
      const gap = offLeg(points[i], points[i + 1], line, k);
      if (gap < best) [best, bestLeg, worse] = [gap, k, 0];
      else worse++;
    }
    worst = Math.max(worst, best === Infinity ? 0 : best);
    from = Math.max(0, bestLeg - STRIDE);
  }
  return worst;
}

const offLeg = (x: number, y: number, line: Float64Array, k: number): number =>
  Math.sqrt(pointToLeg(x, y, line[k], line[k + 1], line[k + 3], line[k + 4]));

/** Lines shorter than a length, page px: specks that a hand left behind. */
export const specksOf = <S extends Stroke>(strokes: Iterable<S>, length: number): S[] =>
  [...strokes].filter(({ spine }) => lengthOf(courseOf(spine)) < length);
