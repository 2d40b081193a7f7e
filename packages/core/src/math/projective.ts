import type { Matrix } from './matrix';
import type { Point } from './point';

/**
 * A projective map of the plane, row by row: x' = (a·x + b·y + c)/w, y' = (d·x + e·y + f)/w with w = g·x + h·y + i.
 */
export type Matrix3x3 = readonly [number, number, number, number, number, number, number, number, number];

/** An affine map as a projective one. */
export const projectiveOf = ([a, b, c, d, e, f]: Matrix): Matrix3x3 => [a, c, e, b, d, f, 0, 0, 1];

export const isAffine = (map: Matrix3x3): boolean => map[6] === 0 && map[7] === 0;

/** An affine map in the order of Canvas2D. */
export const affineOf = (m: Matrix3x3): Matrix => [
  m[0] / m[8],
  m[3] / m[8],
  m[1] / m[8],
  m[4] / m[8],
  m[2] / m[8],
  m[5] / m[8],
];

/** How far before (positive) or behind the horizon of a map a point lies; 0 on the line that goes to infinity. */
export const depthAt = (m: Matrix3x3, x: number, y: number): number => m[6] * x + m[7] * y + m[8];

export function applyProjective(m: Matrix3x3, x: number, y: number): Point {
  const w = depthAt(m, x, y);
  return { x: (m[0] * x + m[1] * y + m[2]) / w, y: (m[3] * x + m[4] * y + m[5]) / w };
}

/** The map's derivative at a point: how small steps in x and y are mapped, in the order of Canvas2D's first four. */
export function slopeAt(m: Matrix3x3, x: number, y: number): readonly [xx: number, yx: number, xy: number, yy: number] {
  const w = depthAt(m, x, y);
  const p = applyProjective(m, x, y);
  return [(m[0] - m[6] * p.x) / w, (m[3] - m[6] * p.y) / w, (m[1] - m[7] * p.x) / w, (m[4] - m[7] * p.y) / w];
}

/** The map that does `first`, then `second`. */
export function afterwards(first: Matrix3x3, second: Matrix3x3): Matrix3x3 {
  const at = (row: number, column: number) =>
    second[3 * row] * first[column] + second[3 * row + 1] * first[3 + column] + second[3 * row + 2] * first[6 + column];
  return [at(0, 0), at(0, 1), at(0, 2), at(1, 0), at(1, 1), at(1, 2), at(2, 0), at(2, 1), at(2, 2)];
}

/** The map back, up to scale: the adjugate. Throws a RangeError for a map that flattens the plane. */
export function invertProjective(m: Matrix3x3): Matrix3x3 {
  const [a, b, c, d, e, f, g, h, i] = m;
  const inverse: Matrix3x3 = [
    ...[e * i - f * h, c * h - b * i, b * f - c * e],
    ...[f * g - d * i, a * i - c * g, c * d - a * f],
    ...[d * h - e * g, b * g - a * h, a * e - b * d],
  ] as const;
  const determinant = a * inverse[0] + b * inverse[3] + c * inverse[6];
  // Against what it is the sum of, so that it does not matter how large the entries are.
  const size =
    Math.abs(a) * (Math.abs(e * i) + Math.abs(f * h)) +
    Math.abs(b) * (Math.abs(f * g) + Math.abs(d * i)) +
    Math.abs(c) * (Math.abs(d * h) + Math.abs(e * g));
  if (!(Math.abs(determinant) > 1e-12 * size)) throw new RangeError('This map flattens the plane and has no way back.');
  return inverse;
}

/** How much the map enlarges lengths about a point: the geometric mean over directions. */
export function localScaleOf(matrix: Matrix3x3, x: number, y: number): number {
  const [xx, yx, xy, yy] = slopeAt(matrix, x, y);
  return Math.sqrt(Math.abs(xx * yy - xy * yx));
}

/** The same map, scaled so that a point lies one deep before its horizon. */
export function withDepth(m: Matrix3x3, { x, y }: Point): Matrix3x3 {
  const by = 1 / depthAt(m, x, y);
  return [m[0] * by, m[1] * by, m[2] * by, m[3] * by, m[4] * by, m[5] * by, m[6] * by, m[7] * by, m[8] * by];
}
