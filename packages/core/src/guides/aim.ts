import { distance } from '../math';
import { straightEdges } from './edges';
import type { StraightedgeShape, VanishingPoint } from './guide';
import { project } from './path';
import { wayTo } from './perspective/frame';

/**
 * A straightedge turned about its middle so that its nearer edge goes through a point, or along it where the point lies
 * infinitely far. As it is where the point lies under it.
 */
export function aimedAt(shape: StraightedgeShape, point: VanishingPoint): StraightedgeShape {
  const [x, y, w] = point;
  const way = wayTo(point, shape, shape.width / 2);
  if (!way) return shape;
  const raw = Math.atan2(way.y, way.x);
  // The way it points already, not its back to front.
  const isBack = Math.cos(raw - shape.angle) < 0;
  const turn = isBack ? Math.PI : 0;
  if (w === 0) return { ...shape, angle: raw + turn };
  const at = { x, y };
  const [first, second] = straightEdges(shape).map((edge) => project({ ...edge, from: -1e12, to: 1e12 }, at).distance);
  const lean = Math.asin(shape.width / 2 / distance(shape, at)) * (first <= second ? -1 : 1);
  return { ...shape, angle: raw + (isBack ? -lean : lean) + turn };
}
