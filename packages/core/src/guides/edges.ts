import { spineBox, type Spine, mapSpine, type GuidePath, type LinePath } from '../curve';
import { apply, emptyBox, invert, isInBox, uniteBoxes, type Box, type Point } from '../math';
import type { StraightedgeShape, TemplateShape, EdgeShape, PlaneShape } from './guide';
import { planeRings } from './perspective/plane';
import { templateMap } from './placed';

export { halfSize, templateMap } from './placed';

/** The two edges of a straightedge, each with its ends: one on either side of the middle. */
export function straightEdges({ x, y, angle, length, width }: StraightedgeShape): readonly [LinePath, LinePath] {
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  const edge = (side: number): LinePath => ({
    ...{ kind: 'line', x: x - (side * dy * width) / 2, y: y + (side * dx * width) / 2, dx, dy },
    ...{ from: -length / 2, to: length / 2 },
  });
  return [edge(1), edge(-1)];
}

/** The outlines of a template where they lie on the page. */
export const templateRings = ({ rings, place }: TemplateShape): Spine[] =>
  rings.map((ring) => mapSpine(ring, templateMap(place)));

/** The outlines of a template or of a plane shape, page px. */
export const outlines = (shape: TemplateShape | PlaneShape): readonly Spine[] =>
  shape.kind === 'plane' ? planeRings(shape) : templateRings(shape);

const paths = new WeakMap<EdgeShape, readonly GuidePath[]>();

/** The paths along a guide's edges; the same ones for the same shape. */
export function edgePaths(shape: EdgeShape): readonly GuidePath[] {
  const known = paths.get(shape);
  if (known) return known;
  const found = tracedEdges(shape);
  paths.set(shape, found);
  return found;
}

function tracedEdges(shape: EdgeShape): readonly GuidePath[] {
  if (shape.kind === 'straightedge') return straightEdges(shape);
  if (shape.kind === 'batten') return [{ kind: 'curve', course: shape.course }];
  return outlines(shape).map((course) => ({ kind: 'curve', course }));
}

/** Whether a point lies on a straightedge, between its edges and its ends; `slack` page px more on every side. */
export function isOnRuler({ x, y, angle, length, width }: StraightedgeShape, p: Point, slack = 0): boolean {
  const [dx, dy] = [p.x - x, p.y - y];
  const along = dx * Math.cos(angle) + dy * Math.sin(angle);
  const across = dy * Math.cos(angle) - dx * Math.sin(angle);
  return Math.abs(along) <= length / 2 + slack && Math.abs(across) <= width / 2 + slack;
}

/** Boxes around rings, which never change. */
const boxes = new WeakMap<readonly Spine[], Box>();

function boxOf(rings: readonly Spine[]): Box {
  const known = boxes.get(rings);
  if (known) return known;
  const box = rings.map(spineBox).reduce(uniteBoxes, emptyBox);
  boxes.set(rings, box);
  return box;
}

/** Whether a point may lie within `reach` page px of an edge: a quick look that passes some by, and misses none. */
export function isNearEdge(shape: EdgeShape, p: Point, reach: number): boolean {
  if (shape.kind === 'straightedge') return isOnRuler(shape, p, reach);
  if (shape.kind === 'batten') return isInBox(spineBox(shape.course), p, reach);
  if (shape.kind === 'plane')
    return edgePaths(shape).some((path) => path.kind === 'curve' && isInBox(spineBox(path.course), p, reach));
  const { place, rings } = shape;
  const own = apply(invert(templateMap(place)), p);
  return isInBox(boxOf(rings), own, reach / Math.min(Math.abs(place.scaleX), Math.abs(place.scaleY)));
}
