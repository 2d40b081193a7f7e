import type { NibEdge } from '../nib';
import type { StrokeGrain } from '../stroke';

const STRIDE = 3;
/** Bristles that a dry nib is made of. */
const BRISTLES = 11;
/** The share of a step that two points of a broken line keep between them. */
const NEAREST = 0.3;

/**
 * A line of discs (triples x, y, width) as a broken edge leaves it: still lines of discs. A rough edge wanders on either
 * side, a dry nib comes apart into bristles that lift off and come back. `along` is how far down its stroke the line starts,
 * page px: a part breaks as the whole does there.
 */
export function broken(line: Float64Array, edge: NibEdge, grain: StrokeGrain, along = 0): Float64Array[] {
  if (line.length < 2 * STRIDE || edge.amount === 0) return [line];
  const fine = stepped(line, edge.grain / 3, grain.offset + along);
  return edge.kind === 'rough' ? [roughened(fine, edge, grain.seed)] : bristles(fine, edge, grain.seed);
}

/** A finer line with, for each point, its length along the stroke and the normal there: x, y, width, along, nx, ny. */
interface FineLine {
  readonly points: Float64Array;
  readonly along: readonly number[];
  readonly normals: readonly number[];
}

/**
 * The line with further points at every whole `step` along its stroke, so that it breaks at the same places in any part;
 * none so near to a point of the line that a small step aside would turn it around.
 */
function stepped(line: Float64Array, step: number, start: number): FineLine {
  const points: number[] = [line[0], line[1], line[2]];
  const along: number[] = [start];
  const least = NEAREST * step;
  let here = start;
  let [nx, ny] = normalOf(line, 0);
  const normals: number[] = [nx, ny];
  for (let i = STRIDE; i < line.length; i += STRIDE) {
    const h = i - STRIDE;
    const leg = Math.hypot(line[i] - line[h], line[i + 1] - line[h + 1]);
    for (let mark = Math.ceil((here + least) / step) * step; mark < here + leg - least; mark += step) {
      const t = (mark - here) / leg;
      points.push(line[h] + (line[i] - line[h]) * t, line[h + 1] + (line[i + 1] - line[h + 1]) * t);
      points.push(line[h + 2] + (line[i + 2] - line[h + 2]) * t);
      along.push(mark);
      normals.push(nx, ny);
    }
    here += leg;
    points.push(line[i], line[i + 1], line[i + 2]);
    along.push(here);
    const [mx, my] = i + STRIDE < line.length ? normalOf(line, i) : [nx, ny];
    const length = Math.hypot(nx + mx, ny + my) || 1;
    normals.push((nx + mx) / length, (ny + my) / length);
    nx = mx;
    ny = my;
  }
  return { points: Float64Array.from(points), along, normals };
}

/** The unit normal of the leg that starts at triple `i`. */
function normalOf(line: Float64Array, i: number): [x: number, y: number] {
  const [dx, dy] = [line[i + 3] - line[i], line[i + 4] - line[i + 1]];
  const length = Math.hypot(dx, dy) || 1;
  return [-dy / length, dx / length];
}

/** Either edge gives way by its own noise: the disc there is smaller, and lies to the other side. */
function roughened({ points, along, normals }: FineLine, { amount, grain }: NibEdge, seed: number): Float64Array {
  const rough = points.slice();
  for (let k = 0, i = 0; i < points.length; k++, i += STRIDE) {
    const half = points[i + 2] / 2;
    const left = amount * half * fibrous(along[k] / grain, seed);
    const right = amount * half * fibrous(along[k] / grain, seed + 7);
    const shift = (left - right) / 2;
    rough[i] += normals[2 * k] * -shift;
    rough[i + 1] += normals[2 * k + 1] * -shift;
    rough[i + 2] -= left + right;
  }
  return rough;
}

/** Bristles side by side; each is off the paper where its noise is low, the outer ones more often. */
function bristles({ points, along, normals }: FineLine, { amount, grain }: NibEdge, seed: number): Float64Array[] {
  const lines: Float64Array[] = [];
  for (let b = 0; b < BRISTLES; b++) {
    const place = BRISTLES > 1 ? (2 * b) / (BRISTLES - 1) - 1 : 0;
    const lift = amount * (0.75 + 0.5 * Math.abs(place));
    let run: number[] = [];
    const end = () => {
      if (run.length > 0) lines.push(Float64Array.from(run));
      run = [];
    };
    for (let k = 0, i = 0; i < points.length; k++, i += STRIDE) {
      const width = points[i + 2];
      const touch = noise(along[k] / (grain * 6), seed + 2 * b + 2);
      const down = touch - lift * 0.8;
      if (down <= 0) {
        end();
        continue;
      }
      const wander = 0.5 * (fibrous(along[k] / grain, seed + 2 * b + 3) - 0.5);
      // Bristles overlap, so that a wet line is whole; one that lifts off runs out to a point.
      const thick = (width / BRISTLES) * (1.8 + wander) * Math.min(1, down * 7);
      const away = (place * (width - width / BRISTLES)) / 2;
      run.push(points[i] + normals[2 * k] * away, points[i + 1] + normals[2 * k + 1] * away, Math.min(width, thick));
    }
    end();
  }
  return lines;
}

/** Noise with a finer one on it, as paper tears a line. */
const fibrous = (at: number, seed: number): number => 0.7 * noise(at, seed) + 0.3 * noise(2.7 * at, seed + 3);

/** Smooth noise in 0..1 along a line, the same for the same seed: values on whole numbers, eased between. */
function noise(at: number, seed: number): number {
  const cell = Math.floor(at);
  const t = at - cell;
  const ease = t * t * (3 - 2 * t);
  return hash(cell, seed) * (1 - ease) + hash(cell + 1, seed) * ease;
}

/** A whole number and a seed to a number in 0..1 (the finaliser of MurmurHash3 by Austin Appleby, public domain). */
function hash(cell: number, seed: number): number {
  let mixed = Math.imul(cell | 0, 0x9e3779b1) ^ Math.imul(seed | 0, 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return ((mixed ^ (mixed >>> 16)) >>> 0) / 4294967296;
}
