import { apply, clamp, scaleOf, type Matrix, type Point } from '../math';

/** A way over the page along which something changes: straight from one place to another, or outwards round the first. */
export interface Ramp {
  readonly shape: 'straight' | 'round';
  /** Page px; never the same place. */
  readonly from: Point;
  readonly to: Point;
}

/** How far along a ramp a place of the page lies, 0..1: what lies before its beginning is at 0, and beyond its end at 1. */
export function rampAt({ shape, from, to }: Ramp, x: number, y: number): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const square = dx * dx + dy * dy;
  const share =
    shape === 'round'
      ? Math.hypot(x - from.x, y - from.y) / Math.sqrt(square)
      : ((x - from.x) * dx + (y - from.y) * dy) / square;
  return clamp(share, 0, 1);
}

/** A ramp under an affine map of the page; what is round stays round. */
export function mapRamp<R extends Ramp>(ramp: R, map: Matrix): R {
  const from = apply(map, ramp.from);
  const to = apply(map, ramp.to);
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (ramp.shape === 'straight' || length === 0) return { ...ramp, from, to };
  const factor = (scaleOf(map) * Math.hypot(ramp.to.x - ramp.from.x, ramp.to.y - ramp.from.y)) / length;
  return { ...ramp, from, to: { x: from.x + (to.x - from.x) * factor, y: from.y + (to.y - from.y) * factor } };
}
