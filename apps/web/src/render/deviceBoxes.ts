import { boxHolds, growBox, intersectBoxes, isEmptyBox, mapBox, type Box, type Matrix } from '@true-nib/core/math';
import { wholePx } from './liveInk';

/** Boxes that are told as they are, but for those inside others; more are laid together, so that no px is painted twice. */
const FEW = 4;
/** Device px of the squares by which many boxes are laid together. */
const SQUARE = 32;

/** Page boxes as whole device px within the canvas, which hold all of them; of many, no two overlap. */
export function deviceBoxes(boxes: readonly Box[], map: Matrix, canvas: Box): Box[] {
  const device = boxes
    .map((box) => intersectBoxes(wholePx(growBox(mapBox(map, box), 2)), canvas))
    .filter((box) => !isEmptyBox(box));
  if (device.length > FEW) return laidTogether(device, canvas);
  return device.filter(
    (box, k) => !device.some((other, j) => j !== k && boxHolds(other, box) && (!boxHolds(box, other) || j < k)),
  );
}

/** Boxes that lie in none of some others. */
export const outside = (boxes: readonly Box[], others: readonly Box[]): Box[] =>
  boxes.filter((box) => !others.some((other) => boxHolds(other, box)));

/** Squares side by side, by their first and last column, and the row from which on they are taken. */
interface Run {
  readonly first: number;
  readonly last: number;
  readonly row: number;
}

/** Boxes made of whole squares of the canvas that hold all of some, and do not overlap. */
function laidTogether(boxes: readonly Box[], canvas: Box): Box[] {
  const columns = Math.ceil((canvas.maxX - canvas.minX) / SQUARE);
  const rows = Math.ceil((canvas.maxY - canvas.minY) / SQUARE);
  const isTaken = new Uint8Array(columns * rows);
  const square = (value: number, least: number, most: number) =>
    Math.min(most - 1, Math.max(0, Math.floor((value - least) / SQUARE)));
  for (const { minX, minY, maxX, maxY } of boxes) {
    const [left, right] = [square(minX, canvas.minX, columns), square(maxX - 1, canvas.minX, columns)];
    const [top, bottom] = [square(minY, canvas.minY, rows), square(maxY - 1, canvas.minY, rows)];
    for (let row = top; row <= bottom; row++) isTaken.fill(1, row * columns + left, row * columns + right + 1);
  }
  const done: Box[] = [];
  /** The runs of the row above. */
  let open = new Map<string, Run>();
  const close = (runs: Iterable<Run>, end: number) => {
    for (const { first, last, row } of runs)
      done.push(
        intersectBoxes(canvas, {
          ...{ minX: canvas.minX + first * SQUARE, minY: canvas.minY + row * SQUARE },
          ...{ maxX: canvas.minX + (last + 1) * SQUARE, maxY: canvas.minY + end * SQUARE },
        }),
      );
  };
  for (let row = 0; row <= rows; row++) {
    const next: typeof open = new Map();
    for (let column = 0; row < rows && column < columns; column++) {
      if (!isTaken[row * columns + column]) continue;
      const first = column;
      while (column + 1 < columns && isTaken[row * columns + column + 1]) column++;
      const key = `${first} ${column}`;
      next.set(key, open.get(key) ?? { first, last: column, row });
      open.delete(key);
    }
    close(open.values(), row);
    open = next;
  }
  return done;
}
