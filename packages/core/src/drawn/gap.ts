import { BOUNDS, HULL, hullsOf, STRIDE } from '../curve';
import { outlineOf } from '../ink';
import { boxesMeet, boxOfPoints, growBox, isInRing, legsApart, type Point } from '../math';
import type { Stroke } from '../stroke';

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
