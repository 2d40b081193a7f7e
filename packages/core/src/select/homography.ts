import type { Matrix, Point } from '../math';
import { PageError } from '../page';

/**
 * A projective map of the plane, row by row: x' = (a·x + b·y + c)/w, y' = (d·x + e·y + f)/w with w = g·x + h·y + i.
 */
export type Matrix3x3 = readonly [number, number, number, number, number, number, number, number, number];

export type Quad = readonly [Point, Point, Point, Point];

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

/** The map back, up to scale: the adjugate. Throws a PageError for a map that flattens the plane. */
export function inverseOf(m: Matrix3x3): Matrix3x3 {
  const [a, b, c, d, e, f, g, h, i] = m;
  const inverse: Matrix3x3 = [
    ...[e * i - f * h, c * h - b * i, b * f - c * e],
    ...[f * g - d * i, a * i - c * g, c * d - a * f],
    ...[d * h - e * g, b * g - a * h, a * e - b * d],
  ] as const;
  const determinant = a * inverse[0] + b * inverse[3] + c * inverse[6];
  if (!(Math.abs(determinant) > 1e-12))
    throw new PageError('This would flatten the lines. Give them some width and height.');
  return inverse;
}

/**
 * The projective map that takes the corners of one quadrilateral to those of another, by way of the unit square (Heckbert,
 * "Fundamentals of texture mapping and image warping", 1989, §2.2.2). Throws a PageError when either is folded or flat.
 */
export function homographyBetween(from: Quad, to: Quad): Matrix3x3 {
  checkQuad(from);
  checkQuad(to);
  const map = afterwards(inverseOf(squareTo(from)), squareTo(to));
  const scale = 1 / map[8];
  const scaled = map.map((value) => value * scale);
  const [a, b, c, d, e, f, g, h, i] = scaled;
  return [a, b, c, d, e, f, g, h, i];
}

function squareTo([p0, p1, p2, p3]: Quad): Matrix3x3 {
  const sx = p0.x - p1.x + p2.x - p3.x;
  const sy = p0.y - p1.y + p2.y - p3.y;
  const dx1 = p1.x - p2.x;
  const dy1 = p1.y - p2.y;
  const dx2 = p3.x - p2.x;
  const dy2 = p3.y - p2.y;
  const bend = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / bend;
  const h = (dx1 * sy - sx * dy1) / bend;
  return [
    ...[p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x, p0.x],
    ...[p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y, p0.y],
    ...[g, h, 1],
  ] as const;
}

/** The smallest corner that is no fold, as twice an area in px². */
const LEAST_CORNER = 1e-6;

/** All corners must turn the same way: a quadrilateral that folds over itself or has no area is no picture of a plane. */
function checkQuad(quad: Quad): void {
  const turns = quad.map((p, k) => {
    const q = quad[(k + 1) % 4];
    const r = quad[(k + 2) % 4];
    return (q.x - p.x) * (r.y - q.y) - (q.y - p.y) * (r.x - q.x);
  });
  if (!turns.every(Number.isFinite)) throw new PageError('A corner lies nowhere. Put all four on the page.');
  if (turns.some((turn) => Math.abs(turn) < LEAST_CORNER))
    throw new PageError('Three corners lie in one line. Pull them apart.');
  if (turns.some((turn) => Math.sign(turn) !== Math.sign(turns[0])))
    throw new PageError('The corners fold over each other. Pull them apart.');
}
