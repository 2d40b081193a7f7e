import type { Box, Point } from '../math';
import type { ExactWidth } from './basins';
import type { Coverage } from './coverage';

/** Rings of ink near a box, x, y pairs in page px. */
export type RingsNear = (box: Box) => readonly Float64Array[];

const STEPS = 24;

/**
 * Measures openings by the outlines of the ink: the nearest place on one side, and on the other, the middle between them, and so
 * on until it stands (alternating projection).
 */
export function exactWidths({ x, y, scale }: Coverage, ringsNear: RingsNear): ExactWidth {
  return (middle, about) => {
    const reach = (about + 6) / scale;
    let at: Point = { x: x + middle.x / scale, y: y + middle.y / scale };
    const box = { minX: at.x - reach, minY: at.y - reach, maxX: at.x + reach, maxY: at.y + reach };
    const rings = ringsNear(box);
    let ends: readonly [Point, Point] | undefined;
    for (let step = 0; step < STEPS; step++) {
      const near = nearestOf(rings, at, box, undefined);
      const far = near && nearestOf(rings, at, box, near);
      if (!near || !far) return undefined;
      ends = [near, far];
      const next = { x: (near.x + far.x) / 2, y: (near.y + far.y) / 2 };
      const moved = Math.hypot(next.x - at.x, next.y - at.y);
      at = next;
      if (moved < 1e-3 / scale) break;
    }
    if (!ends) return undefined;
    const inRaster = (p: Point): Point => ({ x: (p.x - x) * scale, y: (p.y - y) * scale });
    return { middle: inRaster(at), ends: [inRaster(ends[0]), inRaster(ends[1])] };
  };
}

/** The nearest place on rings; `beyond` leaves out all that lies on the same side as it. */
function nearestOf(rings: readonly Float64Array[], at: Point, box: Box, beyond: Point | undefined): Point | undefined {
  let best: Point | undefined;
  let least = Infinity;
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
      if (Math.max(ax, bx) < box.minX || Math.min(ax, bx) > box.maxX) continue;
      if (Math.max(ay, by) < box.minY || Math.min(ay, by) > box.maxY) continue;
      const [dx, dy] = [bx - ax, by - ay];
      const length = dx * dx + dy * dy;
      const t = length === 0 ? 0 : Math.max(0, Math.min(1, ((at.x - ax) * dx + (at.y - ay) * dy) / length));
      const p = { x: ax + t * dx, y: ay + t * dy };
      const far = (p.x - at.x) ** 2 + (p.y - at.y) ** 2;
      if (far >= least) continue;
      // The other side lies the other way.
      if (beyond && (p.x - at.x) * (beyond.x - at.x) + (p.y - at.y) * (beyond.y - at.y) >= 0) continue;
      least = far;
      best = p;
    }
  return best;
}
