import type { Matrix } from '../math';

/** Hears the px `from..to` of a row, `to` left out. */
export type TellSpan = (row: number, from: number, to: number) => void;

/** Room that is kept from one shape to the next. */
export interface ScanRoom {
  /** Where each row's crossings begin. */
  starts: Int32Array;
  at: Float64Array;
  way: Int8Array;
}

export const scanRoom = (height: number): ScanRoom => ({
  starts: new Int32Array(height + 2),
  at: new Float64Array(1024),
  way: new Int8Array(1024),
});

/**
 * Tells of all px whose middle lies within closed rings of x, y pairs under a map, row by row, by either rule of filling. `height`: rows
 * there are.
 */
export function scanRings(
  rings: readonly Float64Array[],
  rule: 'nonzero' | 'evenodd',
  { map, height, room }: { readonly map: Matrix; readonly height: number; readonly room: ScanRoom },
  tell: TellSpan,
): void {
  const [, b, , d, , f] = map;
  let [top, bottom] = [Infinity, -Infinity];
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      const y = b * ring[i] + d * ring[i + 1] + f;
      if (y < top) top = y;
      if (y > bottom) bottom = y;
    }
  // Rows whose middle lies between.
  const first = Math.max(0, Math.ceil(top - 0.5));
  const last = Math.min(height - 1, Math.ceil(bottom - 0.5) - 1);
  if (first > last) return;
  const legs = legsOf(rings, map, first, last);
  const { starts } = room;
  starts.fill(0, 0, last - first + 3);
  // Rows are counted two on, so that the sums below stand where each row is to be written.
  for (let i = 0; i < legs.length; i += LEG)
    for (let row = legs[i]; row <= legs[i + 1]; row++) starts[row - first + 2]++;
  for (let k = 1; k <= last - first + 2; k++) starts[k] += starts[k - 1];
  const count = starts[last - first + 2];
  if (room.at.length < count) {
    room.at = new Float64Array(2 * count);
    room.way = new Int8Array(2 * count);
  }
  const { at, way } = room;
  for (let i = 0; i < legs.length; i += LEG)
    for (let row = legs[i]; row <= legs[i + 1]; row++) {
      const k = starts[row - first + 1]++;
      at[k] = legs[i + 2] + (row + 0.5 - legs[i + 3]) * legs[i + 4];
      way[k] = legs[i + 5];
    }
  for (let row = first; row <= last; row++) {
    const [from, to] = [starts[row - first], starts[row - first + 1]];
    sortCrossings(room, from, to);
    tellRow(room, { row, from, to, rule }, tell);
  }
}

/** Numbers of a leg: the rows that it crosses, a place on it, px sideways for each row, and whether it goes down or up. */
const LEG = 6;

/** The legs of rings under a map that cross the middle of any of the rows `first..last`. */
function legsOf(rings: readonly Float64Array[], [a, b, c, d, e, f]: Matrix, first: number, last: number): number[] {
  const legs: number[] = [];
  for (const ring of rings) {
    const end = ring.length - 2;
    let x = a * ring[end] + c * ring[end + 1] + e;
    let y = b * ring[end] + d * ring[end + 1] + f;
    for (let i = 0; i < ring.length; i += 2) {
      const u = a * ring[i] + c * ring[i + 1] + e;
      const v = b * ring[i] + d * ring[i + 1] + f;
      const from = Math.max(first, Math.ceil(Math.min(y, v) - 0.5));
      const to = Math.min(last, Math.ceil(Math.max(y, v) - 0.5) - 1);
      if (from <= to) legs.push(from, to, x, y, (u - x) / (v - y), v > y ? 1 : -1);
      x = u;
      y = v;
    }
  }
  return legs;
}

/** Sorts the crossings of a row by where they are: mostly few. */
function sortCrossings({ at, way }: ScanRoom, from: number, to: number): void {
  for (let k = from + 1; k < to; k++) {
    const [x, turn] = [at[k], way[k]];
    let j = k - 1;
    for (; j >= from && at[j] > x; j--) {
      at[j + 1] = at[j];
      way[j + 1] = way[j];
    }
    at[j + 1] = x;
    way[j + 1] = turn;
  }
}

interface Crossed {
  readonly row: number;
  readonly from: number;
  readonly to: number;
  readonly rule: 'nonzero' | 'evenodd';
}

/** Tells of what lies between the crossings of a row. */
function tellRow({ at, way }: ScanRoom, { row, from, to, rule }: Crossed, tell: TellSpan): void {
  let winding = 0;
  for (let k = from; k < to - 1; k++) {
    winding += rule === 'evenodd' ? 1 : way[k];
    if (rule === 'evenodd' ? (winding & 1) === 0 : winding === 0) continue;
    const left = Math.ceil(at[k] - 0.5);
    const right = Math.ceil(at[k + 1] - 0.5);
    if (left < right) tell(row, left, right);
  }
}
