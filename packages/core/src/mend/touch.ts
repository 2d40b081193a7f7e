import { outlineOf } from '../ink';
import { boxesMeet, boxOfPoints, growBox, isInRing, segmentDistanceSquared, type Point } from '../math';
import { COURSE_TOLERANCE, flattenSpine, nearestOnSpine, spineBox, type NearestPlace } from '../curve';
import type { Stroke } from '../page';
import { hullsOf, touchedAt } from './meetings';

/**
 * How far the way `from`–`to` passes from the ink of a stroke, page px; 0 or less when it touches it.
 * Answers Infinity at once for strokes whose ink lies farther than `reach`.
 */
export function gapToStroke(stroke: Stroke, from: Point, to: Point, reach: number): number {
  if (!boxesMeet(spineBox(stroke.spine), growBox(boxOfPoints([from, to]), reach))) return Infinity;
  const line = flattenSpine(stroke.spine, 0.25);
  if (stroke.fills && outlineOf(stroke).rings.some((ring) => isInRing(ring, from))) return 0;
  let least = Infinity;
  for (let i = 0; i + 3 < line.length; i += 3) {
    const a = { x: line[i], y: line[i + 1] };
    const b = { x: line[i + 3], y: line[i + 4] };
    const half = Math.max(line[i + 2], line[i + 5]) / 2;
    least = Math.min(least, Math.sqrt(segmentDistanceSquared(a, b, from, to)) - half);
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

const gapTo = ({ distance, width }: NearestPlace): number => Math.max(0, distance - width / 2);
