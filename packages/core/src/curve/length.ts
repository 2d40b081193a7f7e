import { cubicSlope, SEGMENT, type Spine } from './spine';

// Gauss–Legendre abscissae and weights for 8 points on −1..1 (Abramowitz & Stegun 1964, table 25.4).
const ABSCISSAE = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const WEIGHTS = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

/** The length of each cubic in page px, by one rule of eight points: to some 1e-4 of itself for what a hand draws. */
export function segmentLengths({ points }: Spine): number[] {
  const lengths: number[] = [];
  for (let i = 0; i + SEGMENT < points.length; i += SEGMENT) lengths.push(gauss(points, i, 0, 1));
  return lengths;
}

/** The length of the course in page px, to about 1e-6 of itself. */
export function spineLength(spine: Spine): number {
  let length = 0;
  for (let i = 0; i + SEGMENT < spine.points.length; i += SEGMENT)
    length += refined(spine.points, i, { from: 0, to: 1, length: gauss(spine.points, i, 0, 1) });
  return length;
}

/** A part of a cubic from one parameter to another, and its length by one rule of eight points. */
interface Part {
  readonly from: number;
  readonly to: number;
  readonly length: number;
}

function refined(p: Float64Array, i: number, { from, to, length }: Part, depth = 0): number {
  const middle = (from + to) / 2;
  const first = { from, to: middle, length: gauss(p, i, from, middle) };
  const second = { from: middle, to, length: gauss(p, i, middle, to) };
  const both = first.length + second.length;
  if (depth >= 8 || Math.abs(both - length) <= 1e-7 * (length + 1e-9)) return both;
  return refined(p, i, first, depth + 1) + refined(p, i, second, depth + 1);
}

function gauss(p: Float64Array, i: number, from: number, to: number): number {
  const half = (to - from) / 2;
  const middle = (to + from) / 2;
  let sum = 0;
  for (let k = 0; k < 4; k++)
    sum += WEIGHTS[k] * (speed(p, i, middle - half * ABSCISSAE[k]) + speed(p, i, middle + half * ABSCISSAE[k]));
  return sum * half;
}

const speed = (p: Float64Array, i: number, t: number): number =>
  Math.hypot(cubicSlope(p[i], p[i + 3], p[i + 6], p[i + 9], t), cubicSlope(p[i + 1], p[i + 4], p[i + 7], p[i + 10], t));
