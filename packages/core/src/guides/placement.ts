import { apply, chain, distance, invert, rotation, then, translation, type Matrix } from '../math';
import { mapSpine } from '../curve';
import type { GuideShape, StraightedgeShape, VanishingPoint } from './guide';
import { straightEdges } from './edges';
import { project } from './path';
import { wayTo } from './perspective/frame';
import { shiftedFrame } from './perspective/move';
import { shiftedPlane } from './perspective/plane';
import { templateMap } from './placed';

/** The map that carries what lies on a guide along with it, where one map does. */
export function placementMap(before: GuideShape, after: GuideShape): Matrix {
  if (before.kind === 'ripples' && after.kind === 'ripples')
    return chain(
      translation(-before.x, -before.y),
      rotation(-before.angle),
      [1, 0, 0, after.ratio / before.ratio, 0, 0],
      rotation(after.angle),
      translation(after.x, after.y),
    );
  if (before.kind === 'straightedge' && after.kind === 'straightedge') {
    // The edges move apart when the ruler gets wider.
    const widen: Matrix = [1, 0, 0, after.width / before.width, 0, 0];
    return chain(
      translation(-before.x, -before.y),
      rotation(-before.angle),
      widen,
      rotation(after.angle),
      translation(after.x, after.y),
    );
  }
  if (before.kind === 'template' && after.kind === 'template')
    return then(invert(templateMap(before.place)), templateMap(after.place));
  return [1, 0, 0, 1, 0, 0];
}

/** A shape moved by page px. */
export function shiftedShape(shape: GuideShape, dx: number, dy: number): GuideShape {
  const map = translation(dx, dy);
  switch (shape.kind) {
    case 'batten':
    case 'echo':
      return { ...shape, course: mapSpine(shape.course, map) };
    case 'template':
      return { ...shape, place: { ...shape.place, ...apply(map, shape.place) } };
    case 'straightedge': {
      const moved = { ...shape, ...apply(map, shape) };
      return shape.aim ? aimedAt(moved, shape.aim.point) : moved;
    }
    case 'frame':
      return shiftedFrame(shape, dx, dy);
    case 'plane':
      return shiftedPlane(shape, dx, dy);
    default:
      return { ...shape, ...apply(map, shape) };
  }
}

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
