import ClipperLib from 'clipper-lib';
import { boxOfFlat, emptyBox, uniteBoxes, type Box } from './box';
import type { Point } from './point';

/** Parts of a page px that corners are counted in while polygons are cut. */
const GRID = 1024;

const toGrid = (ring: ArrayLike<number>) =>
  Array.from({ length: ring.length / 2 }, (_, k) => ({
    X: Math.round(ring[2 * k] * GRID),
    Y: Math.round(ring[2 * k + 1] * GRID),
  }));

const fromGrid = (path: readonly { readonly X: number; readonly Y: number }[]): Float64Array =>
  Float64Array.from(path.flatMap(({ X, Y }) => [X / GRID, Y / GRID]));

/**
 * What is left of filled rings (x, y pairs, non-zero rule) where other rings are taken away, to within 1/1024 page px
 * (Vatti 1992, by `clipper-lib`). Outer rings all wind one way and holes the other, so they can be filled together by the
 * non-zero rule; `isReversed` picks which way.
 */
export function withoutRings(
  rings: readonly ArrayLike<number>[],
  gone: readonly ArrayLike<number>[],
  isReversed = false,
): Float64Array[] {
  return combined(rings, gone, ClipperLib.ClipType.ctDifference, isReversed);
}

/** What filled rings have in common with others; as `withoutRings`. */
export function withinRings(
  rings: readonly ArrayLike<number>[],
  kept: readonly ArrayLike<number>[],
  isReversed = false,
): Float64Array[] {
  return combined(rings, kept, ClipperLib.ClipType.ctIntersection, isReversed);
}

/** Rings that are filled by the even-odd rule as rings that the non-zero rule fills alike. */
export const oddRings = (rings: readonly ArrayLike<number>[]): Float64Array[] =>
  combined(rings, [], ClipperLib.ClipType.ctUnion, false, ClipperLib.PolyFillType.pftEvenOdd);

/**
 * Filled rings (non-zero rule, as `withoutRings` winds them) grown by so many page px on all sides, below 0 made smaller. Corners
 * are rounded, or kept sharp up to four times as far out (`clipper-lib`).
 */
export function grownRings(
  rings: readonly ArrayLike<number>[],
  by: number,
  corners: 'round' | 'sharp' = 'round',
): Float64Array[] {
  const offset = new ClipperLib.ClipperOffset(4, GRID / 50);
  const { jtRound, jtMiter } = ClipperLib.JoinType;
  for (const ring of rings)
    offset.AddPath(toGrid(ring), corners === 'round' ? jtRound : jtMiter, ClipperLib.EndType.etClosedPolygon);
  const found: { X: number; Y: number }[][] = [];
  offset.Execute(found, by * GRID);
  return found.map(fromGrid);
}

function combined(
  rings: readonly ArrayLike<number>[],
  others: readonly ArrayLike<number>[],
  operation: number,
  isReversed: boolean,
  rule = ClipperLib.PolyFillType.pftNonZero,
): Float64Array[] {
  const clipper = new ClipperLib.Clipper();
  clipper.AddPaths(rings.map(toGrid), ClipperLib.PolyType.ptSubject, true);
  clipper.AddPaths(others.map(toGrid), ClipperLib.PolyType.ptClip, true);
  const found: { X: number; Y: number }[][] = [];
  clipper.Execute(operation, found, rule, rule);
  const left = found.map(fromGrid);
  return isReversed ? left.map(reversedRing) : left;
}

/** The points of a ring of x, y. */
export const ringPoints = (ring: ArrayLike<number>): Point[] =>
  Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[2 * k], y: ring[2 * k + 1] }));

/** The same ring, gone round the other way. */
export function reversedRing(ring: Float64Array): Float64Array {
  const back = new Float64Array(ring.length);
  for (let i = 0; i < ring.length; i += 2) back.set(ring.subarray(i, i + 2), ring.length - 2 - i);
  return back;
}

/** Twice the signed area of a ring of x, y pairs is above 0 where it turns from x towards y. */
export function ringArea(ring: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
    sum += ring[j] * ring[i + 1] - ring[i] * ring[j + 1];
  return sum / 2;
}

/** What rings fill together, where they neither overlap nor wind both ways but for holes: px². */
export const areaOfRings = (rings: readonly ArrayLike<number>[]): number =>
  Math.abs(rings.reduce((sum, ring) => sum + ringArea(ring), 0));

/** The box round all of some rings. */
export const boxOfRings = (rings: readonly ArrayLike<number>[]): Box =>
  rings.reduce<Box>((all, ring) => uniteBoxes(all, boxOfFlat(ring, 2)), emptyBox);

/** Whether a point lies in a ring of x, y pairs, by the non-zero rule. */
export const isInRing = (ring: ArrayLike<number>, at: Point): boolean => windingOf(ring, at) !== 0;

/** How often a ring of x, y pairs goes round a point, below 0 where it turns from y towards x (Sunday 2001). */
export function windingOf(ring: ArrayLike<number>, { x, y }: Point): number {
  let winding = 0;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
    const side = (bx - ax) * (y - ay) - (x - ax) * (by - ay);
    if (ay <= y && by > y && side > 0) winding++;
    if (ay > y && by <= y && side < 0) winding--;
  }
  return winding;
}

/** Whether a point lies in a loop, by how often a ray from it crosses (even-odd). */
export function isInLoop(loop: readonly Point[], { x, y }: Point): boolean {
  let inside = false;
  for (let i = 0, j = loop.length - 1; i < loop.length; j = i++) {
    const [a, b] = [loop[i], loop[j]];
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  }
  return inside;
}

/**
 * What of a ring lies in a box (Sutherland and Hodgman 1974). Where it leaves the box it runs along its sides, to and fro: filled by
 * the non-zero rule that adds nothing.
 */
export function ringInBox(ring: Float64Array, { minX, minY, maxX, maxY }: Box): Float64Array {
  let left = ring;
  for (const [axis, side, sign] of [
    [0, minX, 1],
    [0, maxX, -1],
    [1, minY, 1],
    [1, maxY, -1],
  ]) {
    const kept: number[] = [];
    for (let i = 0, last = left.length - 2; i < left.length; last = i, i += 2) {
      const [a, b] = [sign * (left[last + axis] - side), sign * (left[i + axis] - side)];
      if (a >= 0 !== b >= 0) {
        const t = a / (a - b);
        kept.push(left[last] + t * (left[i] - left[last]), left[last + 1] + t * (left[i + 1] - left[last + 1]));
      }
      if (b >= 0) kept.push(left[i], left[i + 1]);
    }
    left = Float64Array.from(kept);
  }
  return left;
}

/** The convex hull of the places of a flat list, x and y every `stride` numbers, as a ring of x, y pairs (Andrew 1979). */
export function hullOf(list: ArrayLike<number>, stride: number): Float64Array {
  const order = Array.from({ length: list.length / stride }, (_, k) => k * stride).sort(
    (a, b) => list[a] - list[b] || list[a + 1] - list[b + 1],
  );
  const half = (places: readonly number[]): number[] => {
    const hull: number[] = [];
    for (const c of places) {
      while (hull.length > 1) {
        const [a, b] = [hull[hull.length - 2], hull[hull.length - 1]];
        const turn =
          (list[b] - list[a]) * (list[c + 1] - list[a + 1]) - (list[b + 1] - list[a + 1]) * (list[c] - list[a]);
        if (turn > 0) break;
        hull.pop();
      }
      hull.push(c);
    }
    return hull;
  };
  const below = half(order);
  const above = half(order.reverse());
  return Float64Array.from([...below.slice(0, -1), ...above].flatMap((i) => [list[i], list[i + 1]]));
}
