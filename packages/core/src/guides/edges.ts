import type { Spine } from '../curve';
import { chain, rotation, translation, type Matrix, type Point } from '../math';
import {
  mapSpine,
  type GuidePath,
  type LinePath,
  type StraightedgeShape,
  type TemplatePlace,
  type TemplateShape,
} from '../page';

/** The two edges of a straightedge, each with its ends: one on either side of the middle. */
export function straightEdges({ x, y, angle, length, width }: StraightedgeShape): readonly [LinePath, LinePath] {
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  const edge = (side: number): LinePath => ({
    ...{ kind: 'line', x: x - (side * dy * width) / 2, y: y + (side * dx * width) / 2, dx, dy },
    ...{ from: -length / 2, to: length / 2 },
  });
  return [edge(1), edge(-1)];
}

/** The map from a template's own px to the page. */
export const templateMap = ({ x, y, scaleX, scaleY, angle }: TemplatePlace): Matrix =>
  chain([scaleX, 0, 0, scaleY, 0, 0], rotation(angle), translation(x, y));

/** The outlines of a template where they lie on the page. */
export const templateRings = ({ rings, place }: TemplateShape): Spine[] =>
  rings.map((ring) => mapSpine(ring, templateMap(place)));

/** The paths along a guide's edges; none for one that has no edges. */
export function edgePaths(
  shape: StraightedgeShape | { readonly kind: 'batten'; readonly course: Spine } | TemplateShape,
): GuidePath[] {
  if (shape.kind === 'straightedge') return [...straightEdges(shape)];
  if (shape.kind === 'batten') return [{ kind: 'curve', course: shape.course }];
  return templateRings(shape).map((course) => ({ kind: 'curve', course }));
}

/** Whether a point lies on a straightedge, between its edges and its ends; `slack` page px more on every side. */
export function isOnRuler({ x, y, angle, length, width }: StraightedgeShape, p: Point, slack = 0): boolean {
  const [dx, dy] = [p.x - x, p.y - y];
  const along = dx * Math.cos(angle) + dy * Math.sin(angle);
  const across = dy * Math.cos(angle) - dx * Math.sin(angle);
  return Math.abs(along) <= length / 2 + slack && Math.abs(across) <= width / 2 + slack;
}
