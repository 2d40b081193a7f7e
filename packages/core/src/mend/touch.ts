import { outlineOf } from '../ink';
import { boxesMeet, boxOfPoints, growBox, isInBox, isInRing, legsApart, type Point } from '../math';
import { COURSE_TOLERANCE, nearestOnSpine, SEGMENT, spineBox, STRIDE, type NearestPlace, type Spine } from '../curve';
import type { Stroke } from '../page';
import { BOUNDS, HULL, hullsOf } from './hulls';
import { touchedAt } from './meetings';

/**
 * How far the way `from`–`to` passes from the ink of a stroke, page px; 0 or less when it touches it.
 * Answers Infinity at once for strokes whose ink lies farther than `reach`.
 */
export function gapToStroke(stroke: Stroke, from: Point, to: Point, reach: number): number {
  const way = boxOfPoints([from, to]);
  const { box, bounds, course } = hullsOf(stroke.spine);
  if (!boxesMeet(box, growBox(way, reach))) return Infinity;
  if (stroke.fills && outlineOf(stroke).rings.some((ring) => isInRing(ring, from))) return 0;
  const { line } = course;
  let least = Infinity;
  for (let h = 0, first = 0; h < bounds.length; h += BOUNDS, first += HULL * STRIDE) {
    const asideX = Math.max(0, bounds[h] - way.maxX, way.minX - bounds[h + 2]);
    const asideY = Math.max(0, bounds[h + 1] - way.maxY, way.minY - bounds[h + 3]);
    // All ink of these legs is farther off than some that is known.
    if (asideX * asideX + asideY * asideY > Math.max(0, least) ** 2) continue;
    const last = Math.min(line.length - STRIDE, first + HULL * STRIDE);
    for (let i = first; i < last; i += STRIDE) {
      const away = legsApart(line[i], line[i + 1], line[i + 3], line[i + 4], from.x, from.y, to.x, to.y);
      least = Math.min(least, Math.sqrt(away) - Math.max(line[i + 2], line[i + 5]) / 2);
    }
  }
  return least;
}

/** Page px by which a course may stray from its spine, and more. */
const ROUGHLY = 2 * COURSE_TOLERANCE;

/** A line with the place of it that is nearest to a point. */
export interface LineNear<L> extends NearestPlace {
  readonly line: L;
}

/**
 * Lines whose ink lies within `reach` page px of a point, the nearest ink first. What is handed in may be more than strokes:
 * `strokeOf` says which stroke of it is looked at.
 */
export function linesWithin<L>(
  lines: Iterable<L>,
  strokeOf: (line: L) => Stroke,
  at: Point,
  reach: number,
): LineNear<L>[] {
  const found: LineNear<L>[] = [];
  for (const line of lines) {
    const { spine } = strokeOf(line);
    // Most are told by their courses, which are known, to be too far off.
    if (touchedAt(hullsOf(spine), at, reach + ROUGHLY) === undefined) continue;
    const near = { line, ...nearestOnSpine(spine, at) };
    if (gapTo(near) <= reach) found.push(near);
  }
  return found.sort((a, b) => gapTo(a) - gapTo(b));
}

/** The one of `linesWithin` that comes first: most lines are told by their control points to be farther off than one that is known. */
export function nearestLine<L>(
  lines: Iterable<L>,
  strokeOf: (line: L) => Stroke,
  at: Point,
  reach: number,
): LineNear<L> | undefined {
  let nearest: LineNear<L> | undefined;
  let least = reach;
  for (const line of lines) {
    const { spine } = strokeOf(line);
    if (!comesWithin(spine, at, least + ROUGHLY)) continue;
    if (touchedAt(hullsOf(spine), at, least + ROUGHLY) === undefined) continue;
    const near = { line, ...nearestOnSpine(spine, at) };
    const gap = gapTo(near);
    if (nearest ? gap >= least : gap > reach) continue;
    nearest = near;
    least = gap;
  }
  return nearest;
}

/** Whether ink of a spine may lie within `reach` of a point, as the boxes of some cubics each tell. */
function comesWithin({ points }: Spine, at: Point, reach: number): boolean {
  for (let i = 0; i + SEGMENT < points.length; i += CUBICS * SEGMENT) {
    const piece = { points: points.subarray(i, i + CUBICS * SEGMENT + STRIDE), closed: false };
    if (isInBox(spineBox(piece), at, reach)) return true;
  }
  return false;
}

/** Cubics that share a box. */
const CUBICS = 4;

const gapTo = ({ distance, width }: NearestPlace): number => Math.max(0, distance - width / 2);
