import { distance, type Point } from '../math';
import { CubicFitter, type Direction } from './cubicFit';
import { flattenSpine } from './flatten';
import { nearestOnSpine } from './nearest';
import { splitSpine } from './split';
import { makeSpine, pointAt, SEGMENT, segmentCount, STRIDE, type Spine, type SpinePlace } from './spine';

/** The handle before a node, towards the start of the line, or the one behind it. */
export type Side = 'in' | 'out';

/** Handles that turn less than this at a node, radians, make it smooth. */
const SMOOTH = 0.05;
/** Page px within which a handle lies on its node. */
const RETRACTED = 1e-6;
/** The share of the way to the next node at which a handle lies when nothing else is known. */
const THIRD = 1 / 3;
/** Points that the shape around a node is kept by when the node goes. */
const KEPT_POINTS = 32;
/** Places at which one cubic for two is held against them. */
const STRAY_PROBES = 24;

/** Nodes of a spine: those of a closed one count its first and last as one. */
export const nodeCount = (spine: Spine): number => segmentCount(spine) + (spine.closed ? 0 : 1);

/** Where a node lies, and its width. */
export function nodeAt({ points }: Spine, node: number): Point & { readonly width: number } {
  const i = node * SEGMENT;
  return { x: points[i], y: points[i + 1], width: points[i + 2] };
}

/** Where a node's handle lies; nothing at the free end of an open line. */
export function handleAt(spine: Spine, node: number, side: Side): Point | undefined {
  const i = handleOffset(spine, node, side);
  return i === undefined ? undefined : { x: spine.points[i], y: spine.points[i + 1] };
}

function handleOffset(spine: Spine, node: number, side: Side): number | undefined {
  const last = segmentCount(spine);
  if (side === 'out') return node < last ? node * SEGMENT + STRIDE : undefined;
  if (node > 0) return node * SEGMENT - STRIDE;
  return spine.closed ? last * SEGMENT - STRIDE : undefined;
}

/** Whether the line goes through a node without a corner; ends of open lines count as corners. */
export function isSmooth(spine: Spine, node: number): boolean {
  const [before, after] = [handleAt(spine, node, 'in'), handleAt(spine, node, 'out')];
  if (!before || !after) return false;
  const [from, to] = [wayOut(spine, node, 'in'), wayOut(spine, node, 'out')];
  const turn = Math.atan2(to.y, to.x) - Math.atan2(-from.y, -from.x) + 3 * Math.PI;
  return Math.abs((turn % (2 * Math.PI)) - Math.PI) < SMOOTH;
}

/** Where a line goes from a node on one side: to its handle, or, where that lies on the node, to what is next on the cubic. */
function wayOut({ points, closed }: Spine, node: number, side: Side): Point {
  const i = closed && node === 0 && side === 'in' ? points.length - STRIDE : node * SEGMENT;
  const sign = side === 'out' ? STRIDE : -STRIDE;
  let way = { x: 0, y: 0 };
  for (let k = 1; k <= 3; k++) {
    way = { x: points[i + k * sign] - points[i], y: points[i + k * sign + 1] - points[i + 1] };
    if (Math.hypot(way.x, way.y) > RETRACTED) break;
  }
  return way;
}

/** The same line with one node more, at a place on it: neither course nor weight changes. */
export function insertNode(spine: Spine, place: SpinePlace): Spine {
  const [head, tail] = splitSpine(spine, place);
  return makeSpine(Float64Array.of(...head.points, ...tail.points.subarray(STRIDE)), spine.closed);
}

/**
 * The line without a node, its shape kept as well as one cubic can; an end of an open line goes with the way to it.
 * Throws a RangeError where too few nodes would be left.
 */
export function removeNode(spine: Spine, node: number): Spine {
  const { points, closed } = spine;
  const segments = segmentCount(spine);
  if (segments < 2) throw new RangeError('A line needs two nodes at least.');
  if (!closed && node === 0) return makeSpine(points.slice(SEGMENT));
  if (!closed && node === segments) return makeSpine(points.slice(0, -SEGMENT));
  if (node === 0) return removeNode(turned(spine, 1), segments - 1);
  const from = (node - 1) * SEGMENT;
  const around = points.slice(from, from + 2 * SEGMENT + STRIDE);
  const two = makeSpine(around);
  const [joined] = [rejoined(around), oneCubic(two)].sort((a, b) => strayOf(a, two) - strayOf(b, two));
  return makeSpine(
    Float64Array.of(...points.subarray(0, from), ...joined, ...points.subarray(from + 2 * SEGMENT + STRIDE)),
    closed,
  );
}

/** A closed line that starts `nodes` later. */
function turned({ points }: Spine, nodes: number): Spine {
  const at = nodes * SEGMENT;
  return makeSpine(Float64Array.of(...points.subarray(at), ...points.subarray(STRIDE, at + STRIDE)), true);
}

/** The cubic that two are the halves of, if they are: their inner handles tell where it was split (de Casteljau). */
function rejoined(p: Float64Array): Float64Array {
  const [before, after] = [6, 12].map((i) => Math.hypot(p[i] - p[9], p[i + 1] - p[10]));
  const t = before + after > 0 ? Math.min(0.99, Math.max(0.01, before / (before + after))) : 0.5;
  const handle = (end: number, inner: number, share: number) =>
    [0, 1, 2].map((axis) => p[end + axis] + (p[inner + axis] - p[end + axis]) / share);
  return Float64Array.of(...p.subarray(0, 3), ...handle(0, 3, t), ...handle(18, 15, 1 - t), ...p.subarray(18, 21));
}

/** How far a cubic stays from a course, page px. */
function strayOf(cubic: Float64Array, course: Spine): number {
  const spine = makeSpine(cubic);
  let worst = 0;
  for (let k = 0; k <= STRAY_PROBES; k++) {
    const place = { segment: k % 2, t: k / STRAY_PROBES };
    worst = Math.max(worst, nearestOnSpine(spine, pointAt(course, place)).distance);
  }
  return worst;
}

/** One cubic for two, leaving and arriving as they did. */
function oneCubic(two: Spine): Float64Array {
  const p = two.points;
  const fine = flattenSpine(two, 0.01);
  const step = Math.max(1, Math.floor(fine.length / STRIDE / KEPT_POINTS));
  const kept: number[] = [];
  for (let k = 0; k < fine.length / STRIDE - 1; k += step) kept.push(...fine.subarray(k * STRIDE, (k + 1) * STRIDE));
  kept.push(...fine.subarray(-STRIDE));
  const track = Float64Array.from(kept);
  const count = track.length / STRIDE;
  const lengths = new Float64Array(count);
  for (let k = 1; k < count; k++)
    lengths[k] =
      lengths[k - 1] +
      Math.hypot(track[STRIDE * k] - track[STRIDE * k - 3], track[STRIDE * k + 1] - track[STRIDE * k - 2]);
  const start = direction(two, 0, 'out');
  const end = direction(two, 2, 'in');
  const { handles } = new CubicFitter().fit({ track, lengths, first: 0, last: count - 1 }, { start, end }, 1e-6);
  return Float64Array.of(...p.subarray(0, STRIDE), ...handles, ...p.subarray(-STRIDE));
}

/** The way that a line goes and widens on a side of a node; nothing where its handle lies on it. */
function direction(spine: Spine, node: number, side: Side): Direction | undefined {
  const handle = handleAt(spine, node, side);
  if (!handle) return undefined;
  const { x, y } = nodeAt(spine, node);
  const [dx, dy] = side === 'in' ? [x - handle.x, y - handle.y] : [handle.x - x, handle.y - y];
  const length = Math.hypot(dx, dy);
  return length > 1e-9 ? { x: dx / length, y: dy / length, widening: wideningAt(spine, node, side) } : undefined;
}

/** By how much a line widens in a px along it on a side of a node; 0 where its handle lies on the node, or there is none. */
export function wideningAt(spine: Spine, node: number, side: Side): number {
  const i = handleOffset(spine, node, side);
  if (i === undefined) return 0;
  const { x, y, width } = nodeAt(spine, node);
  const { points } = spine;
  const reach = Math.hypot(points[i] - x, points[i + 1] - y);
  return reach > 0 ? ((side === 'in' ? -1 : 1) * (points[i + 2] - width)) / reach : 0;
}

/** The line with a node moved by a step, page px, and its handles with it. */
export function moveNode(spine: Spine, node: number, { x, y }: Point): Spine {
  const points = spine.points.slice();
  for (const i of tripleOffsets(spine, node)) {
    points[i] += x;
    points[i + 1] += y;
  }
  return { ...spine, points };
}

/** Offsets of a node's own triple, of its other one where a closed line starts, and of its handles. */
function tripleOffsets(spine: Spine, node: number): number[] {
  const handles = (['in', 'out'] as const).flatMap((side) => handleOffset(spine, node, side) ?? []);
  const twin = spine.closed && node === 0 ? [segmentCount(spine) * SEGMENT] : [];
  return [node * SEGMENT, ...twin, ...handles];
}

/** The line with a handle moved to a place. At a smooth node the other handle turns with it, unless it is `broken` off. */
export function moveHandle(spine: Spine, node: number, side: Side, to: Point, broken = false): Spine {
  const i = handleOffset(spine, node, side);
  if (i === undefined) throw new RangeError(`Node ${node} has no handle on that side.`);
  const points = spine.points.slice();
  points[i] = to.x;
  points[i + 1] = to.y;
  const other = handleOffset(spine, node, side === 'in' ? 'out' : 'in');
  if (!broken && other !== undefined && isSmooth(spine, node)) {
    const at = nodeAt(spine, node);
    const reach = Math.hypot(points[other] - at.x, points[other + 1] - at.y);
    const away = distance(at, to);
    if (away > 1e-9) {
      points[other] = at.x - ((to.x - at.x) / away) * reach;
      points[other + 1] = at.y - ((to.y - at.y) / away) * reach;
    }
  }
  return { ...spine, points };
}

/** The line with a node made smooth: its handles lie along the chord of its neighbours, as long as they were, if they were. */
export function smoothNode(spine: Spine, node: number): Spine {
  const [a, b] = [handleOffset(spine, node, 'in'), handleOffset(spine, node, 'out')];
  if (a === undefined || b === undefined) return spine;
  const at = nodeAt(spine, node);
  const { before, after } = neighbours(spine, node);
  const chord = distance(before, after) || 1;
  const [ux, uy] = [(after.x - before.x) / chord, (after.y - before.y) / chord];
  const points = spine.points.slice();
  const reach = (i: number, neighbour: Point) =>
    Math.hypot(points[i] - at.x, points[i + 1] - at.y) || distance(at, neighbour) * THIRD;
  const [back, ahead] = [reach(a, before), reach(b, after)];
  points[a] = at.x - ux * back;
  points[a + 1] = at.y - uy * back;
  points[b] = at.x + ux * ahead;
  points[b + 1] = at.y + uy * ahead;
  return { ...spine, points };
}

/** The line with a node made a corner: its handles point at its neighbours. */
export function cornerNode(spine: Spine, node: number): Spine {
  const at = nodeAt(spine, node);
  const { before, after } = neighbours(spine, node);
  const points = spine.points.slice();
  for (const [side, neighbour] of [['in', before] as const, ['out', after] as const]) {
    const i = handleOffset(spine, node, side);
    if (i === undefined) continue;
    points[i] = at.x + (neighbour.x - at.x) * THIRD;
    points[i + 1] = at.y + (neighbour.y - at.y) * THIRD;
  }
  return { ...spine, points };
}

function neighbours(spine: Spine, node: number): { readonly before: Point; readonly after: Point } {
  const last = segmentCount(spine);
  const before = node > 0 ? node - 1 : spine.closed ? last - 1 : 0;
  return { before: nodeAt(spine, before), after: nodeAt(spine, Math.min(last, node + 1)) };
}

/** The line with another width at a node, page px; the weight flows into it as it did. */
export function setNodeWidth(spine: Spine, node: number, width: number): Spine {
  const points = spine.points.slice();
  const change = Math.max(0, width) - nodeAt(spine, node).width;
  for (const i of tripleOffsets(spine, node)) points[i + 2] = Math.max(0, points[i + 2] + change);
  return { ...spine, points };
}

/** The line with the cubic `segment` bent so that its place `t` lies at `to`; its nodes stay. */
export function bendSegment(spine: Spine, { segment, t }: SpinePlace, to: Point): Spine {
  const points = spine.points.slice();
  const i = segment * SEGMENT;
  const at = Math.min(0.95, Math.max(0.05, t));
  const s = 1 - at;
  // Both handles share the step by their say at the place, in the least-squares sense.
  const [first, second] = [3 * s * s * at, 3 * s * at * at];
  const weight = first * first + second * second;
  for (const axis of [0, 1]) {
    const value =
      s * s * s * points[i + axis] +
      first * points[i + 3 + axis] +
      second * points[i + 6 + axis] +
      at * at * at * points[i + 9 + axis];
    const step = (axis === 0 ? to.x : to.y) - value;
    points[i + 3 + axis] += (step * first) / weight;
    points[i + 6 + axis] += (step * second) / weight;
  }
  return { ...spine, points };
}
