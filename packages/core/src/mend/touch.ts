import {
  COURSE_TOLERANCE,
  hullsOf,
  nearestOnSpine,
  SEGMENT,
  spineBox,
  STRIDE,
  type NearestPlace,
  type Spine,
} from '../curve';
import { isInBox, type Point } from '../math';
import type { Stroke } from '../stroke';
import { touchedAt } from './meetings';

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
