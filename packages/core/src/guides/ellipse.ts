import type { Point } from '../math';
import type { EllipsePath } from '../curve';

/** The place of an ellipse at an eccentric angle, radians. */
export function onEllipse({ x, y, rx, ry, angle }: EllipsePath, at: number): Point {
  const [u, v] = [rx * Math.cos(at), ry * Math.sin(at)];
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return { x: x + u * c - v * s, y: y + u * s + v * c };
}

/** How the place of an ellipse moves with its eccentric angle, page px per radian. */
export function ellipseSlope({ rx, ry, angle }: EllipsePath, at: number): Point {
  const [u, v] = [-rx * Math.sin(at), ry * Math.cos(at)];
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return { x: u * c - v * s, y: u * s + v * c };
}

/** A point seen from the middle of an ellipse, along its half axes. */
export function fromMiddle({ x, y, angle }: EllipsePath, p: Point): Point {
  const [dx, dy] = [p.x - x, p.y - y];
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return { x: dx * c + dy * s, y: dy * c - dx * s };
}

/**
 * The eccentric angle, −π..π, of the place of an ellipse that is nearest to `p`: the root of the distance's slope, kept in a
 * bracket and found by Newton's steps (Eberly 2013, "Distance from a Point to an Ellipse", §2.2, for the bracket in the first
 * quadrant).
 */
export function nearestOnEllipse(ellipse: EllipsePath, p: Point): number {
  const q = fromMiddle(ellipse, p);
  const { rx, ry } = ellipse;
  const [u, v] = [Math.abs(q.x), Math.abs(q.y)];
  const at = inQuadrant(rx, ry, u, v);
  const [c, s] = [Math.cos(at), Math.sin(at)];
  return Math.atan2(q.y < 0 ? -s : s, q.x < 0 ? -c : c);
}

/** In the first quadrant: the angle in 0..π/2 where rx·ry-weighted normal meets (u, v). */
function inQuadrant(rx: number, ry: number, u: number, v: number): number {
  // d/dt of half the squared distance: (ry² − rx²) sin t cos t + u rx sin t − v ry cos t.
  const bend = ry * ry - rx * rx;
  const slope = (t: number) => bend * Math.sin(t) * Math.cos(t) + u * rx * Math.sin(t) - v * ry * Math.cos(t);
  // On the long axis, near the middle, the foot leaves the axis; on the short one it stays.
  if (v === 0 && bend < 0 && u * rx < -bend) return Math.acos(Math.min(1, (u * rx) / -bend));
  if (v === 0 && bend <= 0) return 0;
  if (u === 0 && bend > 0 && v * ry < bend) return Math.asin(Math.min(1, (v * ry) / bend));
  if (u === 0 && bend >= 0) return Math.PI / 2;
  let [low, high] = [0, Math.PI / 2];
  let t = Math.atan2(v * rx, u * ry);
  for (let step = 0; step < 60; step++) {
    const here = slope(t);
    if (here === 0) return t;
    if (here < 0) low = t;
    else high = t;
    const steep = bend * Math.cos(2 * t) + u * rx * Math.cos(t) + v * ry * Math.sin(t);
    const next = steep > 0 ? t - here / steep : NaN;
    const kept = next > low && next < high ? next : (low + high) / 2;
    if (Math.abs(kept - t) < 1e-15 || high - low < 1e-15) return kept;
    t = kept;
  }
  return t;
}
