import { outlineOf } from '../ink';
import { boxesMeet, boxOfPoints, growBox, isInRing, segmentDistanceSquared, type Point } from '../math';
import { flattenSpine, spineBox } from '../curve';
import type { Stroke } from '../page';

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
