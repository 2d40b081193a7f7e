import { SEGMENT, STRIDE, type Spine } from './spine';

/**
 * The spine as a polyline of triples x, y, width that strays at most `tolerance` page px from it, widths included.
 * Every cubic is cut evenly; the count comes from its second differences (Wang 1984; Sederberg's notes, 2012, §10.6).
 */
export function flattenSpine(spine: Spine, tolerance: number): Float64Array {
  const p = spine.points;
  const counts = flattenedCounts(spine, tolerance);
  const total = counts.reduce((sum, count) => sum + count, 1);
  const line = new Float64Array(total * STRIDE);
  line.set(p.subarray(0, STRIDE));
  let end = STRIDE;
  counts.forEach((count, segment) => {
    end = writeCubic(p, segment * SEGMENT, count, line, end);
  });
  return line;
}

/** Flattens one cubic that starts at `offset`, leaving out its first point. Appends plain numbers to `line`. */
export function flattenCubic(p: ArrayLike<number>, offset: number, tolerance: number, line: number[]): void {
  writeCubic(p, offset, pieces(p, offset, tolerance), line, line.length);
}

function pieces(p: ArrayLike<number>, i: number, tolerance: number): number {
  let bend = 0;
  for (let k = i; k <= i + 3; k += 3) {
    const x = p[k] - 2 * p[k + 3] + p[k + 6];
    const y = p[k + 1] - 2 * p[k + 4] + p[k + 7];
    const width = (p[k + 2] - 2 * p[k + 5] + p[k + 8]) / 2;
    bend = Math.max(bend, Math.sqrt(x * x + y * y) + Math.abs(width));
  }
  return Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / tolerance)));
}

function writeCubic(
  p: ArrayLike<number>,
  i: number,
  count: number,
  line: { [k: number]: number },
  end: number,
): number {
  for (let k = 1; k <= count; k++) {
    const t = k / count;
    const s = 1 - t;
    const a = s * s * s;
    const b = 3 * s * s * t;
    const c = 3 * s * t * t;
    const d = t * t * t;
    line[end] = a * p[i] + b * p[i + 3] + c * p[i + 6] + d * p[i + 9];
    line[end + 1] = a * p[i + 1] + b * p[i + 4] + c * p[i + 7] + d * p[i + 10];
    line[end + 2] = Math.max(0, a * p[i + 2] + b * p[i + 5] + c * p[i + 8] + d * p[i + 11]);
    end += STRIDE;
  }
  return end;
}

/** Into how many pieces `flattenSpine` cuts each cubic. */
export function flattenedCounts({ points }: Spine, tolerance: number): number[] {
  const counts: number[] = [];
  for (let i = 0; i + SEGMENT < points.length; i += SEGMENT) counts.push(pieces(points, i, tolerance));
  return counts;
}
