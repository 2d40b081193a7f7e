import type { Camera } from '../../guides';
import { clamp, type Box } from '../../math';
import { depthOf, placeAt } from '../solid';
import { picturedAt } from '../view';
import { pictured, picturedSlope, type Candidate, type Flat } from './candidate';

/** Where candidates cross or run into each other in the picture. */
export interface Met {
  /** One passes before the other, or both meet in space: the lines at which that may change what is seen of `line`. */
  cut(line: number, at: number): void;
  /** `line` runs along an earlier one, at the same depth, from one parameter to another. */
  covered(line: number, by: number, from: number, to: number): void;
}

/** Numbers of a chord: its line, both ends x, y, t. */
const CHORD = 7;
/** Depths that differ by less than this share are one. */
const SAME_DEPTH = 1e-6;
/** Page px within which two chords are one line. */
const SAME_LINE = 0.02;

/** Tells of all that candidates do to each other within a part of the picture, by a grid over it. */
export function meet(lines: readonly Candidate[], flats: readonly Flat[], camera: Camera, within: Box, met: Met): void {
  const chords = chordsOf(flats, within);
  const grid = new Grid(chords, within);
  for (let cell = 0; cell < grid.count; cell++) {
    const [from, to] = [grid.starts[cell], grid.starts[cell + 1]];
    for (let p = from; p < to; p++)
      for (let q = p + 1; q < to; q++) {
        const [a, b] = [grid.items[p], grid.items[q]];
        if (chords[CHORD * a] === chords[CHORD * b]) continue;
        pair(chords, Math.min(a, b), Math.max(a, b), cell, { lines, camera, grid, met });
      }
  }
}

function chordsOf(flats: readonly Flat[], { minX, minY, maxX, maxY }: Box): Float64Array {
  let room = 0;
  for (const { points } of flats) room += points.length / 3 - 1;
  const chords = new Float64Array(CHORD * room);
  let used = 0;
  flats.forEach(({ points: p }, line) => {
    for (let k = 0; k + 3 < p.length; k += 3) {
      const isOut =
        Math.max(p[k], p[k + 3]) < minX ||
        Math.min(p[k], p[k + 3]) > maxX ||
        Math.max(p[k + 1], p[k + 4]) < minY ||
        Math.min(p[k + 1], p[k + 4]) > maxY;
      if (isOut) continue;
      chords[used] = line;
      for (let j = 0; j < 6; j++) chords[used + 1 + j] = p[k + j];
      used += CHORD;
    }
  });
  return chords.subarray(0, used);
}

interface Among {
  readonly lines: readonly Candidate[];
  readonly camera: Camera;
  readonly grid: Grid;
  readonly met: Met;
}

function pair(chords: Float64Array, p: number, q: number, cell: number, among: Among): void {
  const { lines, grid } = among;
  const i = CHORD * p;
  const j = CHORD * q;
  const ax = chords[i + 1];
  const ay = chords[i + 2];
  const cx = chords[j + 1];
  const cy = chords[j + 2];
  const ux = chords[i + 4] - ax;
  const uy = chords[i + 5] - ay;
  const vx = chords[j + 4] - cx;
  const vy = chords[j + 5] - cy;
  const turn = ux * vy - uy * vx;
  const long = Math.sqrt(ux * ux + uy * uy);
  const other = Math.sqrt(vx * vx + vy * vy);
  if (long < 1e-9 || other < 1e-9) return;
  const first = chords[i];
  const second = chords[j];
  // Nearly along each other, by what the shorter one leaves the other's line.
  if (Math.abs(turn) < SAME_LINE * Math.max(long, other)) {
    const off = Math.abs((cx - ax) * uy - (cy - ay) * ux) / long;
    if (off < SAME_LINE) return along(chords, i, j, cell, among);
  }
  if (!lines[first].hides && !lines[second].hides) return;
  const s = ((cx - ax) * vy - (cy - ay) * vx) / turn;
  const r = ((cx - ax) * uy - (cy - ay) * ux) / turn;
  const slack = lines[first].course.kind === 'segment' && lines[second].course.kind === 'segment' ? 1e-9 : 0.02;
  if (!(s >= -slack && s <= 1 + slack && r >= -slack && r <= 1 + slack)) return;
  if (grid.cellAt(ax + s * ux, ay + s * uy) !== cell) return;
  crossing(
    lines,
    first,
    second,
    [
      pictured(lines[first].course, chords[i + 3], chords[i + 6], clamp(s, 0, 1)),
      pictured(lines[second].course, chords[j + 3], chords[j + 6], clamp(r, 0, 1)),
    ],
    among,
  );
}

/** Brings a crossing of chords onto the curves themselves, and says which line is cut by which. */
function crossing(
  lines: readonly Candidate[],
  first: number,
  second: number,
  [s, r]: readonly [number, number],
  { camera, met }: Among,
): void {
  const [a, b] = [lines[first], lines[second]];
  if (a.course.kind === 'arc' || b.course.kind === 'arc')
    for (let pass = 0; pass < 4; pass++) {
      const [p, q] = [picturedAt(camera, placeAt(a.course, s)), picturedAt(camera, placeAt(b.course, r))];
      const [u, v] = [picturedSlope(a.course, s, camera), picturedSlope(b.course, r, camera)];
      const turn = u[0] * v[1] - u[1] * v[0];
      if (Math.abs(turn) < 1e-12 * (Math.hypot(...u) * Math.hypot(...v))) break;
      const [x, y] = [q.x - p.x, q.y - p.y];
      s = clamp(s + (x * v[1] - y * v[0]) / turn, a.from, a.to);
      r = clamp(r + (x * u[1] - y * u[0]) / turn, b.from, b.to);
    }
  const za = depthOf(a.course, s);
  const zb = depthOf(b.course, r);
  const isOne = Math.abs(za - zb) <= SAME_DEPTH * Math.max(za, zb);
  if (isOne || (a.hides && za < zb)) met.cut(second, r);
  if (isOne || (b.hides && zb < za)) met.cut(first, s);
}

/** Two chords on one line: the later one is covered where both are equally deep. */
function along(chords: Float64Array, i: number, j: number, cell: number, { lines, grid, met }: Among): void {
  const [ax, ay] = [chords[i + 1], chords[i + 2]];
  const [ux, uy] = [chords[i + 4] - ax, chords[i + 5] - ay];
  const square = ux * ux + uy * uy;
  const share = (x: number, y: number) => ((x - ax) * ux + (y - ay) * uy) / square;
  const [c, d] = [share(chords[j + 1], chords[j + 2]), share(chords[j + 4], chords[j + 5])];
  const [low, high] = [Math.max(0, Math.min(c, d)), Math.min(1, Math.max(c, d))];
  if (!((high - low) * Math.sqrt(square) > SAME_LINE)) return;
  const middle = (low + high) / 2;
  if (grid.cellAt(ax + middle * ux, ay + middle * uy) !== cell) return;
  const [first, second] = [lines[chords[i]], lines[chords[j]]];
  const onFirst = (at: number) => pictured(first.course, chords[i + 3], chords[i + 6], at);
  const onSecond = (at: number) => pictured(second.course, chords[j + 3], chords[j + 6], (at - c) / (d - c));
  const za = depthOf(first.course, onFirst(middle));
  const zb = depthOf(second.course, onSecond(middle));
  for (const at of [low, high]) {
    if (first.hides || Math.abs(za - zb) < SAME_DEPTH * za) met.cut(chords[j], onSecond(at));
    if (second.hides || Math.abs(za - zb) < SAME_DEPTH * za) met.cut(chords[i], onFirst(at));
  }
  if (Math.abs(za - zb) > SAME_DEPTH * za) return;
  const [from, to] = [onSecond(low), onSecond(high)];
  met.covered(chords[j], chords[i], Math.min(from, to), Math.max(from, to));
}

/** Which chords pass through which cells of a grid: two passes, one that counts and one that writes. */
class Grid {
  readonly starts: Uint32Array;
  readonly items: Uint32Array;
  readonly count: number;
  private readonly columns: number;
  private readonly rows: number;
  private readonly cell: number;

  constructor(
    chords: Float64Array,
    private readonly within: Box,
  ) {
    const [width, height] = [within.maxX - within.minX, within.maxY - within.minY];
    this.cell = Math.max(1e-6, Math.max(width, height) / CELLS);
    this.columns = Math.max(1, Math.ceil(width / this.cell));
    this.rows = Math.max(1, Math.ceil(height / this.cell));
    this.count = this.columns * this.rows;
    const counts = new Uint32Array(this.count + 1);
    this.walk(chords, (cell) => counts[cell + 1]++);
    for (let k = 0; k < this.count; k++) counts[k + 1] += counts[k];
    this.starts = counts;
    this.items = new Uint32Array(counts[this.count]);
    const next = counts.slice(0, this.count);
    this.walk(chords, (cell, chord) => {
      this.items[next[cell]++] = chord;
    });
  }

  /** The cell of a place; one just beside the picture counts as at its edge. */
  cellAt(x: number, y: number): number {
    return this.row(y) * this.columns + this.column(x);
  }

  private column(x: number): number {
    return clamp(Math.floor((x - this.within.minX) / this.cell), 0, this.columns - 1);
  }

  private row(y: number): number {
    return clamp(Math.floor((y - this.within.minY) / this.cell), 0, this.rows - 1);
  }

  /** Calls back for each cell that a chord passes through: row by row, from where it enters a row to where it leaves it. */
  private walk(chords: Float64Array, visit: (cell: number, chord: number) => void): void {
    for (let chord = 0, i = 0; i < chords.length; chord++, i += CHORD) {
      const [x0, y0, x1, y1] = [chords[i + 1], chords[i + 2], chords[i + 4], chords[i + 5]];
      const [low, high] = [this.row(Math.min(y0, y1)), this.row(Math.max(y0, y1))];
      const slope = y1 === y0 ? 0 : (x1 - x0) / (y1 - y0);
      for (let row = low; row <= high; row++) {
        let [a, b] = [x0, x1];
        if (low !== high) {
          const top = this.within.minY + row * this.cell;
          const at = (y: number) => x0 + (clamp(y, Math.min(y0, y1), Math.max(y0, y1)) - y0) * slope;
          // The first and last row take what lies beside the picture too.
          [a, b] = [at(row === 0 ? -Infinity : top), at(row === this.rows - 1 ? Infinity : top + this.cell)];
        }
        // A little more, so that no crossing on a border is missed.
        const slack = 1e-6 * this.cell;
        const [left, right] = [this.column(Math.min(a, b) - slack), this.column(Math.max(a, b) + slack)];
        for (let column = left; column <= right; column++) visit(row * this.columns + column, chord);
      }
    }
  }
}

/** Cells along the longer side of the picture. */
const CELLS = 256;
