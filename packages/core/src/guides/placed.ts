import { chain, rotation, translation, type Matrix } from '../math';
import type { Spine } from '../curve';
import type { TemplatePlace } from './guide';

/** The map from a template's own px to where it lies. */
export const templateMap = ({ x, y, scaleX, scaleY, angle }: TemplatePlace): Matrix =>
  chain([scaleX, 0, 0, scaleY, 0, 0], rotation(angle), translation(x, y));

/** Half the width and height of rings about their middle, in their own px. */
export function halfSize(rings: readonly Spine[]): readonly [number, number] {
  let [w, h] = [1, 1];
  for (const { points } of rings)
    for (let i = 0; i < points.length; i += 3) {
      w = Math.max(w, Math.abs(points[i]));
      h = Math.max(h, Math.abs(points[i + 1]));
    }
  return [w, h];
}
