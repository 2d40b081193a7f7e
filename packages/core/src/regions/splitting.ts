/** Straight lines between whole numbers up to 2²⁵: four numbers each, and which source each is of. */
export interface Segments {
  readonly ends: Float64Array;
  readonly of: Int32Array;
}

/** Times that lines are split: what is rounded can cross anew, ever more rarely. */
const MOST_ROUNDS = 40;
/** How far from a line an end counts as on it: rounding takes a line no farther. */
const NEAR = 0.75;
/** Least side of a cell in which lines are compared, and how many mean lengths it is. */
const LEAST_SIDE = 64;
const LENGTHS = 1.5;

/** By line: the places at which it is cut, x and y in turn. */
type Cuts = Map<number, number[]>;

/**
 * Lines split where they meet, at whole numbers, until they meet at their ends alone; at first also where an end lies
 * within `weld` of a line.
 */
export function split(lines: Segments, weld: number): Segments {
  let all = lines;
  let isFresh = new Uint8Array(lines.of.length).fill(1);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const cuts = meetings(all, isFresh, round === 0 ? Math.max(NEAR, weld) : NEAR);
    if (cuts.size === 0) return all;
    [all, isFresh] = cutAt(all, cuts);
  }
  return all;
}

/** Lines while they are compared: how near an end must come to a line, and where lines are cut. */
interface Cutting {
  readonly ends: Float64Array;
  readonly near: number;
  readonly cuts: Cuts;
}

/** Where lines meet within one another; two that were compared before, and are as they were, are not compared again. */
function meetings(lines: Segments, isFresh: Uint8Array, near: number): Cuts {
  const cuts: Cuts = new Map();
  const cutting: Cutting = { ends: lines.ends, near, cuts };
  const { starts, members } = cellsOf(lines, near);
  for (let cell = 0; cell + 1 < starts.length; cell++)
    for (let i = starts[cell]; i < starts[cell + 1]; i++)
      for (let j = i + 1; j < starts[cell + 1]; j++)
        if (isFresh[members[i]] || isFresh[members[j]]) meet(cutting, members[i], members[j]);
  return cuts;
}

function meet(cutting: Cutting, one: number, other: number): void {
  const { ends, near, cuts } = cutting;
  const [i, j] = [4 * one, 4 * other];
  const px = ends[i];
  const py = ends[i + 1];
  const qx = ends[i + 2];
  const qy = ends[i + 3];
  const rx = ends[j];
  const ry = ends[j + 1];
  const sx = ends[j + 2];
  const sy = ends[j + 3];
  // In boxes that lie farther apart nothing meets.
  if (px > rx + near && px > sx + near && qx > rx + near && qx > sx + near) return;
  if (px < rx - near && px < sx - near && qx < rx - near && qx < sx - near) return;
  if (py > ry + near && py > sy + near && qy > ry + near && qy > sy + near) return;
  if (py < ry - near && py < sy - near && qy < ry - near && qy < sy - near) return;
  // An end that lies on the other line, or so near that rounding may take the line over it, becomes a part of that line.
  let found = 0;
  if (cutNear(cutting, one, rx, ry)) found++;
  if (cutNear(cutting, one, sx, sy)) found++;
  if (cutNear(cutting, other, px, py)) found++;
  if (cutNear(cutting, other, qx, qy)) found++;
  if (found > 0) return;
  const r = (qx - px) * (ry - py) - (qy - py) * (rx - px);
  const s = (qx - px) * (sy - py) - (qy - py) * (sx - px);
  const p = (sx - rx) * (py - ry) - (sy - ry) * (px - rx);
  const q = (sx - rx) * (qy - ry) - (sy - ry) * (qx - rx);
  if (r > 0 === s > 0 || p > 0 === q > 0 || r === 0 || s === 0 || p === 0 || q === 0) return;
  const share = p / (p - q);
  const x = Math.round(px + share * (qx - px));
  const y = Math.round(py + share * (qy - py));
  for (const line of [one, other]) if (!isEnd(ends, line, x, y)) addCut(line, x, y, cuts);
}

/** Cuts a line at a place that is none of its ends and hardly off it. */
function cutNear({ ends, near, cuts }: Cutting, line: number, x: number, y: number): boolean {
  const k = 4 * line;
  const dx = ends[k + 2] - ends[k];
  const dy = ends[k + 3] - ends[k + 1];
  const along = (x - ends[k]) * dx + (y - ends[k + 1]) * dy;
  const length = dx * dx + dy * dy;
  if (along <= 0 || along >= length) return false;
  const off = dx * (y - ends[k + 1]) - dy * (x - ends[k]);
  if (off * off > near * near * length) return false;
  addCut(line, x, y, cuts);
  return true;
}

function isEnd(ends: Float64Array, line: number, x: number, y: number): boolean {
  const k = 4 * line;
  return (x === ends[k] && y === ends[k + 1]) || (x === ends[k + 2] && y === ends[k + 3]);
}

function addCut(line: number, x: number, y: number, cuts: Cuts): void {
  const own = cuts.get(line);
  if (own) own.push(x, y);
  else cuts.set(line, [x, y]);
}

/** The pieces of lines that are cut, and the others; which of them are new. */
function cutAt({ ends, of }: Segments, cuts: Cuts): [Segments, Uint8Array<ArrayBuffer>] {
  const all: number[] = [];
  const sources: number[] = [];
  const fresh: number[] = [];
  for (let line = 0; line < of.length; line++) {
    const k = 4 * line;
    const [px, py, qx, qy] = [ends[k], ends[k + 1], ends[k + 2], ends[k + 3]];
    const own = cuts.get(line) ?? [];
    const places = Array.from({ length: own.length / 2 }, (_, c) => ({ x: own[2 * c], y: own[2 * c + 1] }));
    const along = ({ x, y }: { readonly x: number; readonly y: number }) => (x - px) * (qx - px) + (y - py) * (qy - py);
    places.sort((a, b) => along(a) - along(b));
    let [x, y] = [px, py];
    for (const to of [...places, { x: qx, y: qy }]) {
      if (to.x === x && to.y === y) continue;
      all.push(x, y, to.x, to.y);
      sources.push(of[line]);
      fresh.push(own.length > 0 ? 1 : 0);
      ({ x, y } = to);
    }
  }
  return [{ ends: Float64Array.from(all), of: Int32Array.from(sources) }, Uint8Array.from(fresh)];
}

interface Cells {
  /** By cell: where its lines begin among the members; one more at the end. */
  readonly starts: Int32Array;
  readonly members: Int32Array;
}

/** The lines by cells of a grid: every cell that a line goes through, or comes near to, has it. */
function cellsOf({ ends, of }: Segments, near: number): Cells {
  const count = of.length;
  let [minX, minY, maxX, maxY, length] = [Infinity, Infinity, -Infinity, -Infinity, 0];
  for (let k = 0; k < ends.length; k += 2) {
    if (ends[k] < minX) minX = ends[k];
    if (ends[k] > maxX) maxX = ends[k];
    if (ends[k + 1] < minY) minY = ends[k + 1];
    if (ends[k + 1] > maxY) maxY = ends[k + 1];
  }
  for (let k = 0; k < ends.length; k += 4)
    length += Math.abs(ends[k + 2] - ends[k]) + Math.abs(ends[k + 3] - ends[k + 1]);
  if (count === 0) return { starts: new Int32Array(1), members: new Int32Array(0) };
  const fair = Math.sqrt(((maxX - minX + 1) * (maxY - minY + 1)) / (4 * count + 16));
  const side = Math.max(LEAST_SIDE, (LENGTHS * length) / count, fair);
  const across = Math.floor((maxX - minX) / side) + 1;
  const down = Math.floor((maxY - minY) / side) + 1;
  const each = (visit: (cell: number, line: number) => void) => {
    for (let line = 0; line < count; line++) {
      const k = 4 * line;
      const [py, qy] = [ends[k + 1], ends[k + 3]];
      const [left, top, right, bottom] = py < qy ? [ends[k], py, ends[k + 2], qy] : [ends[k + 2], qy, ends[k], py];
      const slope = top === bottom ? 0 : (right - left) / (bottom - top);
      const last = Math.min(down - 1, Math.floor((bottom + near - minY) / side));
      for (let row = Math.max(0, Math.floor((top - near - minY) / side)); row <= last; row++) {
        // The part of the line that lies in this row, and what is near it.
        const above = minY + row * side - near;
        const below = above + side + 2 * near;
        const a = above > top ? left + (above - top) * slope : left;
        const b = below < bottom ? left + (below - top) * slope : right;
        const from = Math.floor(((a < b ? a : b) - near - minX) / side);
        const to = Math.floor(((a < b ? b : a) + near - minX) / side);
        for (let column = from < 0 ? 0 : from; column <= to && column < across; column++)
          visit(row * across + column, line);
      }
    }
  };
  const starts = new Int32Array(across * down + 1);
  each((cell) => starts[cell + 1]++);
  for (let cell = 0; cell < across * down; cell++) starts[cell + 1] += starts[cell];
  const members = new Int32Array(starts[across * down]);
  const filled = starts.slice();
  each((cell, line) => (members[filled[cell]++] = line));
  return { starts, members };
}
