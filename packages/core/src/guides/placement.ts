import { apply, chain, invert, rotation, then, translation, type Matrix } from '../math';
import { mapSpine, type GuideShape } from '../page';
import { templateMap } from './edges';

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
    default:
      return { ...shape, ...apply(map, shape) };
  }
}
