import { apply, identity, type Matrix } from './matrix';
import type { Point } from './point';

/** An upright rectangle; empty when `minX > maxX`. The four names are those `rbush` reads. */
export interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

export const emptyBox: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };

export const isEmptyBox = (box: Box): boolean => box.minX > box.maxX || box.minY > box.maxY;

export const boxMiddle = ({ minX, minY, maxX, maxY }: Box): Point => ({ x: (minX + maxX) / 2, y: (minY + maxY) / 2 });

/** 0 for a box without width or height, and never less. */
export const boxArea = ({ minX, minY, maxX, maxY }: Box): number => Math.max(0, maxX - minX) * Math.max(0, maxY - minY);

export const box = (minX: number, minY: number, maxX: number, maxY: number): Box => ({ minX, minY, maxX, maxY });

export const growBox = (b: Box, by: number): Box => box(b.minX - by, b.minY - by, b.maxX + by, b.maxY + by);

export const uniteBoxes = (a: Box, b: Box): Box =>
  box(Math.min(a.minX, b.minX), Math.min(a.minY, b.minY), Math.max(a.maxX, b.maxX), Math.max(a.maxY, b.maxY));

export const intersectBoxes = (a: Box, b: Box): Box =>
  box(Math.max(a.minX, b.minX), Math.max(a.minY, b.minY), Math.min(a.maxX, b.maxX), Math.min(a.maxY, b.maxY));

export const boxesMeet = (a: Box, b: Box): boolean =>
  a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** Whether all of `b` lies in `a`. */
export const boxHolds = (a: Box, b: Box): boolean =>
  a.minX <= b.minX && a.minY <= b.minY && a.maxX >= b.maxX && a.maxY >= b.maxY;

/** Whether a point lies in a box, or beside it by no more than `margin`. */
export const isInBox = ({ minX, minY, maxX, maxY }: Box, { x, y }: Point, margin = 0): boolean =>
  x >= minX - margin && x <= maxX + margin && y >= minY - margin && y <= maxY + margin;

export function boxOfPoints(points: Iterable<Point>): Box {
  let { minX, minY, maxX, maxY } = emptyBox;
  for (const p of points) {
    if (p.x < minX) minX = p.x;
    if (p.x > maxX) maxX = p.x;
    if (p.y < minY) minY = p.y;
    if (p.y > maxY) maxY = p.y;
  }
  return { minX, minY, maxX, maxY };
}

/** The box around the places of a flat list: x and y, every `stride` numbers. */
export function boxOfFlat(list: ArrayLike<number>, stride: number): Box {
  let { minX, minY, maxX, maxY } = emptyBox;
  for (let i = 0; i < list.length; i += stride) {
    if (list[i] < minX) minX = list[i];
    if (list[i] > maxX) maxX = list[i];
    if (list[i + 1] < minY) minY = list[i + 1];
    if (list[i + 1] > maxY) maxY = list[i + 1];
  }
  return { minX, minY, maxX, maxY };
}

/** The box around discs in a flat list, x, y, width each, from `from` to before `to`, under a map that keeps lengths. */
export function boxOfDiscs(list: ArrayLike<number>, from: number, to: number, map: Matrix = identity): Box {
  const [a, b, c, d, e, f] = map;
  let { minX, minY, maxX, maxY } = emptyBox;
  for (let i = from; i < to; i += 3) {
    const half = list[i + 2] / 2;
    const x = a * list[i] + c * list[i + 1] + e;
    const y = b * list[i] + d * list[i + 1] + f;
    if (x - half < minX) minX = x - half;
    if (x + half > maxX) maxX = x + half;
    if (y - half < minY) minY = y - half;
    if (y + half > maxY) maxY = y + half;
  }
  return { minX, minY, maxX, maxY };
}

export const boxCorners = (b: Box): readonly [Point, Point, Point, Point] => [
  { x: b.minX, y: b.minY },
  { x: b.maxX, y: b.minY },
  { x: b.maxX, y: b.maxY },
  { x: b.minX, y: b.maxY },
];

/** The upright box around the mapped corners of `b`. */
export const mapBox = (map: Matrix, b: Box): Box =>
  isEmptyBox(b) ? b : boxOfPoints(boxCorners(b).map((corner) => apply(map, corner)));

/** The part of a segment that lies in a box; nothing where none does. */
export function clippedSegment(b: Box, from: Point, to: Point): readonly [Point, Point] | undefined {
  const stretch = stretchInBox(b, from.x, from.y, to.x, to.y);
  if (!stretch || !(stretch[0] < stretch[1])) return undefined;
  const at = (t: number): Point => ({ x: from.x + t * (to.x - from.x), y: from.y + t * (to.y - from.y) });
  return [at(stretch[0]), at(stretch[1])];
}

/** Whether any of a leg from (ax, ay) to (bx, by) lies in a box, its edges included. */
export const legMeetsBox = (b: Box, ax: number, ay: number, bx: number, by: number): boolean =>
  stretchInBox(b, ax, ay, bx, by) !== undefined;

/** The stretch of a leg, in shares of it, within all four edges of a box (Liang and Barsky 1984); nothing where none is. */
export function stretchInBox(
  b: Box,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): readonly [number, number] | undefined {
  let [low, high] = [0, 1];
  for (const [rise, room] of [
    [ax - bx, ax - b.minX],
    [bx - ax, b.maxX - ax],
    [ay - by, ay - b.minY],
    [by - ay, b.maxY - ay],
  ]) {
    if (rise === 0 && room < 0) return undefined;
    if (rise < 0) low = Math.max(low, room / rise);
    if (rise > 0) high = Math.min(high, room / rise);
  }
  return low <= high ? [low, high] : undefined;
}
