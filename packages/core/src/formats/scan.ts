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
  const [a, b, c, d, e, f] = map;
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
  const { starts } = room;
  starts.fill(0, 0, last - first + 3);
  const eachLeg = (leg: (from: number, to: number, x: number, y: number, slope: number, way: number) => void) => {
    for (const ring of rings) {
      const end = ring.length - 2;
      let x = a * ring[end] + c * ring[end + 1] + e;
      let y = b * ring[end] + d * ring[end + 1] + f;
      for (let i = 0; i < ring.length; i += 2) {
        const u = a * ring[i] + c * ring[i + 1] + e;
        const v = b * ring[i] + d * ring[i + 1] + f;
        const [upper, lower] = y < v ? [y, v] : [v, y];
        const from = Math.max(first, Math.ceil(upper - 0.5));
        const to = Math.min(last, Math.ceil(lower - 0.5) - 1);
        if (from <= to) leg(from, to, x, y, (u - x) / (v - y), v > y ? 1 : -1);
        x = u;
        y = v;
      }
    }
  };
  // Rows are counted two on, so that the sums below stand where each row is to be written.
  eachLeg((from, to) => {
    for (let row = from; row <= to; row++) starts[row - first + 2]++;
  });
  for (let k = 1; k <= last - first + 2; k++) starts[k] += starts[k - 1];
  const count = starts[last - first + 2];
  if (room.at.length < count) {
    room.at = new Float64Array(2 * count);
    room.way = new Int8Array(2 * count);
  }
  const { at, way } = room;
  eachLeg((from, to, x, y, slope, turn) => {
    for (let row = from; row <= to; row++) {
      const k = starts[row - first + 1]++;
      at[k] = x + (row + 0.5 - y) * slope;
      way[k] = turn;
    }
  });
  for (let row = first; row <= last; row++)
    tellRow(row, starts[row - first], starts[row - first + 1], { at, way }, rule, tell);
}

/** Sorts the crossings of a row, and tells of what lies between them. */
function tellRow(
  row: number,
  from: number,
  to: number,
  { at, way }: Pick<ScanRoom, 'at' | 'way'>,
  rule: 'nonzero' | 'evenodd',
  tell: TellSpan,
): void {
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
  let winding = 0;
  for (let k = from; k < to - 1; k++) {
    winding += rule === 'evenodd' ? 1 : way[k];
    if (rule === 'evenodd' ? (winding & 1) === 0 : winding === 0) continue;
    const left = Math.ceil(at[k] - 0.5);
    const right = Math.ceil(at[k + 1] - 0.5);
    if (left < right) tell(row, left, right);
  }
}
