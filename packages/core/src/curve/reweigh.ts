import { segmentLengths } from './length';
import { SEGMENT, STRIDE, type Spine } from './spine';

/** Shares of a cubic nearer to its ends than this make no node of their own. */
const NEAR_END = 0.02;

/**
 * The same course with its widths times `factor`, which goes by the length along the course and the whole length, page px.
 * `marks` are the lengths, rising, where the factor bends: nodes are added there, so that cubics can follow it.
 */
export function reweighed(
  spine: Spine,
  marks: readonly number[],
  factor: (along: number, length: number) => number,
): Spine {
  const lengths = segmentLengths(spine);
  const length = lengths.reduce((sum, own) => sum + own, 0);
  if (length === 0) return spine;
  const { points, ways } = cutAtLengths(spine, lengths, marks);
  let along = 0;
  let before = factor(0, length);
  points[2] *= before;
  for (let i = 0, k = 0; i + SEGMENT < points.length; i += SEGMENT, k++) {
    const start = along;
    along = k + 1 < ways.length ? along + ways[k] : length;
    const after = factor(along, length);
    // The factor itself is made a cubic through four of its values; widths change little along so short a piece.
    const third = factor(start + (along - start) / 3, length);
    const twoThirds = factor(start + (2 * (along - start)) / 3, length);
    const [first, second] = innerValues(before, third, twoThirds, after);
    points[i + 5] *= first;
    points[i + 8] *= second;
    points[i + 11] *= after;
    before = after;
  }
  return { points, closed: spine.closed };
}

/** The inner values of the cubic that goes through four values at even steps, none below 0. */
const innerValues = (before: number, third: number, twoThirds: number, after: number): readonly [number, number] => [
  Math.max(0, (18 * third - 9 * twoThirds - 5 * before + 2 * after) / 6),
  Math.max(0, (18 * twoThirds - 9 * third - 5 * after + 2 * before) / 6),
];

/**
 * A copy of the course with further nodes at lengths along it, and the length of each of its cubics. Marks nearer to the
 * ends of what is left of a cubic than a share of it are left out.
 */
export function cutAtLengths(
  { points: old }: Spine,
  lengths: readonly number[],
  marks: readonly number[],
  nearEnd = NEAR_END,
): { readonly points: Float64Array; readonly ways: readonly number[] } {
  const points = new Float64Array(old.length + marks.length * SEGMENT);
  const ways: number[] = [];
  points.set(old.subarray(0, STRIDE));
  let end = STRIDE;
  let next = 0;
  let start = 0;
  lengths.forEach((own, segment) => {
    const rest = old.slice(segment * SEGMENT, (segment + 1) * SEGMENT + STRIDE);
    let done = 0;
    for (; next < marks.length && marks[next] < start + own; next++) {
      // Along a segment of a fitted spine the parameter runs nearly evenly.
      const share = own > 0 ? (marks[next] - start) / own : 0;
      const t = (share - done) / (1 - done);
      if (t < nearEnd || t > 1 - nearEnd) continue;
      cutOff(rest, t, points, end);
      end += SEGMENT;
      ways.push((share - done) * own);
      done = share;
    }
    points.set(rest.subarray(STRIDE), end);
    end += SEGMENT;
    ways.push((1 - done) * own);
    start += own;
  });
  return { points: points.slice(0, end), ways };
}

/** Writes the first part of a cubic, up to `t`, without its first point to `target`, and leaves the rest (de Casteljau 1959). */
function cutOff(cubic: Float64Array, t: number, target: Float64Array, at: number): void {
  for (let axis = 0; axis < STRIDE; axis++) {
    const [a, b, c, d] = [cubic[axis], cubic[axis + 3], cubic[axis + 6], cubic[axis + 9]];
    const ab = a + (b - a) * t;
    const bc = b + (c - b) * t;
    const cd = c + (d - c) * t;
    const abc = ab + (bc - ab) * t;
    const bcd = bc + (cd - bc) * t;
    const middle = abc + (bcd - abc) * t;
    target[at + axis] = ab;
    target[at + axis + 3] = abc;
    target[at + axis + 6] = middle;
    cubic[axis] = middle;
    cubic[axis + 3] = bcd;
    cubic[axis + 6] = cd;
  }
}
