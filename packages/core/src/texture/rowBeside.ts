import { directionAt, nearestOnSpine, type GuidePath, type Spine } from '../curve';
import { echoThrough } from '../guides';
import type { Point } from '../math';

/** Page px that two rows lie apart at least. */
const LEAST = 0.5;

/** The way of a row beside a line, and how far from it, page px. */
export interface RowBeside {
  readonly path: GuidePath;
  readonly away: number;
}

/**
 * The parallel of a line that passes nearest to a place, within `reach` page px of it; at a whole number of spacings from it where
 * a spacing is given. Nothing on the line itself, and farther off.
 */
export function rowBeside(line: Spine, at: Point, reach: number, spacing?: number): RowBeside | undefined {
  const nearest = nearestOnSpine(line, at);
  if (nearest.distance > reach) return undefined;
  const way = directionAt(line, nearest);
  const across = (at.x - nearest.x) * -way.y + (at.y - nearest.y) * way.x;
  const side = across < 0 ? -1 : 1;
  const free = Math.abs(across);
  const away = spacing === undefined ? free : spacing * Math.max(1, Math.round(free / spacing));
  if (away < LEAST) return undefined;
  const course = echoThrough(line, { x: nearest.x - side * away * way.y, y: nearest.y + side * away * way.x });
  return course && { path: { kind: 'curve', course }, away };
}
