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
export function segmentDistanceSquared(a0: Point, a1: Point, b0: Point, b1: Point): number {
  if (segmentsCross(a0, a1, b0, b1)) return 0;
  return Math.min(
    pointSegmentSquared(a0, b0, b1),
    pointSegmentSquared(a1, b0, b1),
    pointSegmentSquared(b0, a0, a1),
    pointSegmentSquared(b1, a0, a1),
  );
}

function pointSegmentSquared(p: Point, a: Point, b: Point): number {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const lengthSquared = dx * dx + dy * dy;
  const along = lengthSquared === 0 ? 0 : ((p.x - a.x) * dx + (p.y - a.y) * dy) / lengthSquared;
  const t = clamp(along, 0, 1);
  const ex = p.x - a.x - t * dx;
  const ey = p.y - a.y - t * dy;
  return ex * ex + ey * ey;
}

function segmentsCross(a0: Point, a1: Point, b0: Point, b1: Point): boolean {
  const side = (p: Point, q: Point, r: Point) => (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
  return side(a0, a1, b0) * side(a0, a1, b1) < 0 && side(b0, b1, a0) * side(b0, b1, a1) < 0;
}
