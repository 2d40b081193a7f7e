import { afterwards, invertProjective, type Matrix3x3, type Point } from '../math';
import { PageError } from '../gate';

export type Quad = readonly [Point, Point, Point, Point];

/** The map back, up to scale. Throws a PageError for a map that flattens the plane. */
export function inverseOf(map: Matrix3x3): Matrix3x3 {
  try {
    return invertProjective(map);
  } catch {
    throw new PageError('This would flatten the lines. Give them some width and height.');
  }
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
