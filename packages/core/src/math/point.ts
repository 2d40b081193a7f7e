/* eslint-disable max-params -- plain numbers for inner loops: a value made for each call would cost more than the sum itself */
/** A place or a step on the page, in page px (y down). */
export interface Point {
  readonly x: number;
  readonly y: number;
}

export const point = (x: number, y: number): Point => ({ x, y });

export const distance = (a: Point, b: Point): number => Math.hypot(b.x - a.x, b.y - a.y);

export const clamp = (value: number, low: number, high: number): number =>
  value < low ? low : value > high ? high : value;

/**
 * Squared distance between the segments `a0a1` and `b0b1`.
 * Segments that cross are 0 apart; otherwise the nearest pair includes an end (Ericson 2004, §5.1.9).
 */
export const segmentDistanceSquared = (a0: Point, a1: Point, b0: Point, b1: Point): number =>
  legsApart(a0.x, a0.y, a1.x, a1.y, b0.x, b0.y, b1.x, b1.y);

/** The same in plain numbers, for inner loops: segments from a to b and from c to d. */
export function legsApart(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  cx: number,
  cy: number,
  dx: number,
  dy: number,
): number {
  if (
    turn(ax, ay, bx, by, cx, cy) * turn(ax, ay, bx, by, dx, dy) < 0 &&
    turn(cx, cy, dx, dy, ax, ay) * turn(cx, cy, dx, dy, bx, by) < 0
  )
    return 0;
  return Math.min(
    pointToLeg(ax, ay, cx, cy, dx, dy),
    pointToLeg(bx, by, cx, cy, dx, dy),
    pointToLeg(cx, cy, ax, ay, bx, by),
    pointToLeg(dx, dy, ax, ay, bx, by),
  );
}

/** The foot of a place on the whole line through two others, which must not be one. */
export function footOnLine(a: Point, b: Point, p: Point): Point {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const share = ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy);
  return { x: a.x + share * dx, y: a.y + share * dy };
}

/** The share, 0 to 1, of the leg from a to b that is nearest to a place p; 0 where the leg has no length. */
export function nearestShare(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const lengthSquared = dx * dx + dy * dy;
  return lengthSquared > 0 ? clamp(((px - ax) * dx + (py - ay) * dy) / lengthSquared, 0, 1) : 0;
}

/** Squared distance of a place p from the leg from a to b. */
export function pointToLeg(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const t = nearestShare(px, py, ax, ay, bx, by);
  const ex = px - ax - t * (bx - ax);
  const ey = py - ay - t * (by - ay);
  return ex * ex + ey * ey;
}

/** Twice the area of a triangle: which way it turns. */
const turn = (px: number, py: number, qx: number, qy: number, rx: number, ry: number): number =>
  (qx - px) * (ry - py) - (qy - py) * (rx - px);
