import { afterwards, applyProjective, depthAt, type Matrix3x3, type Point } from '../../math';
import type { EllipsePath } from '../../curve';

/**
 * The picture of a circle on a plane, an ellipse (Hartley & Zisserman 2004, §2.2.3: C′ = H⁻ᵀCH⁻¹); nothing where the circle
 * reaches the plane's horizon. `centre` and `radius` in the plane's own px, `map` from there to the page.
 */
export function projectCircle(map: Matrix3x3, centre: Point, radius: number): EllipsePath | undefined {
  const depth = depthAt(map, centre.x, centre.y);
  // The nearest place of the circle to the horizon must still lie before it.
  if (!(radius > 0) || !(depth - radius * Math.hypot(map[6], map[7]) > 0)) return undefined;
  // About the picture of the centre and scaled to the unit circle, so that no digits are lost far from the page's origin.
  const { x, y } = applyProjective(map, centre.x, centre.y);
  const unit: Matrix3x3 = [radius, 0, centre.x, 0, radius, centre.y, 0, 0, 1];
  const h = afterwards(afterwards(unit, map), [1, 0, -x, 0, 1, -y, 0, 0, 1]);
  // The dual conic C* = H·diag(1, 1, −1)·Hᵀ needs no inverse: the ellipse's centre and its covariance stand in it.
  const dual = (row: number, column: number) =>
    h[3 * row] * h[3 * column] + h[3 * row + 1] * h[3 * column + 1] - h[3 * row + 2] * h[3 * column + 2];
  const w = -dual(2, 2);
  const [cx, cy] = [-dual(0, 2) / w, -dual(1, 2) / w];
  const [xx, xy, yy] = [dual(0, 0) / w + cx * cx, dual(0, 1) / w + cx * cy, dual(1, 1) / w + cy * cy];
  const [half, spread] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
  return {
    ...{ kind: 'ellipse', x: x + cx, y: y + cy },
    ...{ rx: Math.sqrt(half + spread), ry: Math.sqrt(Math.max(0, half - spread)) },
    angle: 0.5 * Math.atan2(2 * xy, xx - yy),
  };
}

/** The picture of an ellipse under a projective map of the page; nothing where it reaches the map's horizon. */
export function projectEllipse({ x, y, rx, ry, angle }: EllipsePath, map: Matrix3x3): EllipsePath | undefined {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const own: Matrix3x3 = [rx * c, -ry * s, x, rx * s, ry * c, y, 0, 0, 1];
  return projectCircle(afterwards(own, map), { x: 0, y: 0 }, 1);
}
