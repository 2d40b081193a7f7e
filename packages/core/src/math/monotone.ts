/** A point of a curve that is bent by hand: both coordinates 0..1. */
export type CurvePoint = readonly [x: number, y: number];

/**
 * The value at `x` of the smooth curve through points of rising x: a cubic Hermite spline that rises and falls only where
 * its points do (Fritsch & Carlson, "Monotone Piecewise Cubic Interpolation", 1980, in the form of their three-point
 * slopes). Level beyond the first and the last point. Throws a RangeError for no points.
 */
export function monotoneAt(points: readonly CurvePoint[], x: number): number {
  const last = points.length - 1;
  if (last < 0) throw new RangeError('A curve needs at least one point.');
  if (x <= points[0][0]) return points[0][1];
  if (x >= points[last][0]) return points[last][1];
  let k = 0;
  while (points[k + 1][0] < x) k++;
  const [x0, y0] = points[k];
  const [x1, y1] = points[k + 1];
  const run = x1 - x0;
  const t = (x - x0) / run;
  const s = 1 - t;
  const [m0, m1] = [slopeAt(points, k), slopeAt(points, k + 1)];
  return s * s * (1 + 2 * t) * y0 + s * s * t * run * m0 + t * t * (3 - 2 * t) * y1 - t * t * s * run * m1;
}

const secant = ([x0, y0]: CurvePoint, [x1, y1]: CurvePoint): number => (y1 - y0) / (x1 - x0);

/** The slope at a point: a weighted harmonic mean of the secants beside it, level at a peak. */
function slopeAt(points: readonly CurvePoint[], k: number): number {
  const last = points.length - 1;
  if (k === 0) return secant(points[0], points[1]);
  if (k === last) return secant(points[last - 1], points[last]);
  const before = secant(points[k - 1], points[k]);
  const after = secant(points[k], points[k + 1]);
  if (before * after <= 0) return 0;
  const [left, right] = [points[k][0] - points[k - 1][0], points[k + 1][0] - points[k][0]];
  const [near, far] = [left + 2 * right, 2 * left + right];
  return (near + far) / (near / before + far / after);
}
