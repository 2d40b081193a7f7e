import { checkAngle, checkFarPlace, id, number, oneOf, optional, record } from '../../gate';
import { chain, clamp, projectiveOf, rotation, translation, type Matrix, type Point } from '../../math';
import { checkVanishingPoint } from '../checkParts';
import { edgePaths, isOnRuler, straightEdges } from '../edges';
import { FRAME_WAYS, GUIDE_LIMITS, type Aim, type StraightedgeShape } from '../guide';
import { nearestPath, project } from '../path';
import { aimedAt } from '../aim';
import { gripOf, movedBy, off, stepped } from './handling';
import type { ShapeRow } from './row';

/** Two edges, each with its ends. */
export const straightedge: ShapeRow<StraightedgeShape> = {
  bears: 'edge',
  check(fields) {
    const { length, width } = GUIDE_LIMITS;
    return {
      kind: 'straightedge',
      ...checkFarPlace(fields),
      angle: checkAngle(fields),
      length: number(fields.length, 'length', length.least, length.most),
      width: number(fields.width, 'width', width.least, width.most),
      ...optional(fields, 'aim', checkAim),
    };
  },
  frames: ({ aim }) => (aim?.frame === undefined ? [] : [aim.frame]),
  reframed: (shape, renamed) =>
    shape.aim?.frame === undefined ? shape : { ...shape, aim: { ...shape.aim, frame: renamed(shape.aim.frame) } },
  path: (shape, { at }) => nearestPath(edgePaths(shape), at),
  obeys: (path, shape) =>
    straightEdges(shape).some((edge) => path.kind === 'line' && project(edge, path).distance < 1e-3),
  isOn: (shape, at, reach) => isOnRuler(shape, at, reach / 2),
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape) => [
    gripOf('move', shape),
    gripOf('start', off(shape, shape.angle, -shape.length / 2)),
    gripOf('end', off(shape, shape.angle, shape.length / 2)),
  ],
  place(shape, { grip, to, isExact }) {
    if (grip.part !== 'start' && grip.part !== 'end') return undefined;
    // Turned by hand it aims at nothing any more, unless its point is kept.
    const { aim, ...free } = pulled(shape, grip.part, to, isExact);
    return aim ? aimedAt({ ...free, aim }, aim.point) : free;
  },
  move(shape, dx, dy) {
    const moved = movedBy(shape, dx, dy);
    return shape.aim ? aimedAt(moved, shape.aim.point) : moved;
  },
  courses(before, after) {
    // The edges move apart when the ruler gets wider.
    const widen: Matrix = [1, 0, 0, after.width / before.width, 0, 0];
    const home = chain(translation(-before.x, -before.y), rotation(-before.angle), widen);
    return { by: 'map', map: projectiveOf(chain(home, rotation(after.angle), translation(after.x, after.y))) };
  },
};

function checkAim(value: unknown): Aim {
  const fields = record(value, 'An aim');
  return {
    point: checkVanishingPoint(fields.point, 'point'),
    ...optional(fields, 'frame', id),
    ...optional(fields, 'way', (way) => oneOf(way, 'way', FRAME_WAYS)),
  };
}

/** A straightedge pulled by an end; the other end stays. */
function pulled(shape: StraightedgeShape, part: 'start' | 'end', to: Point, isExact: boolean): StraightedgeShape {
  const way = part === 'end' ? 1 : -1;
  const fixed = off(shape, shape.angle, (-way * shape.length) / 2);
  const raw = Math.atan2((to.y - fixed.y) * way, (to.x - fixed.x) * way);
  const angle = stepped(raw, isExact);
  const { least, most } = GUIDE_LIMITS.length;
  const along = Math.abs((to.x - fixed.x) * Math.cos(angle) + (to.y - fixed.y) * Math.sin(angle));
  const length = clamp(along, 10 * least, most);
  return { ...shape, ...off(fixed, angle, (way * length) / 2), angle, length };
}
