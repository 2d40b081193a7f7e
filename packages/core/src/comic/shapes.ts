import { makeSpine, segmentCount, STRIDE, type Spine } from '../curve';
import { boxMiddle, boxOfFlat, type Box } from '../math';
import { asPanelRing } from '../panel';
import type { Entity } from '../page';
import { ellipseSpine, rectSpine } from '../shapes';
import { boxRing } from './grid';

/** The share of its size by which the ends of a line may lie apart for it to go round something. */
const APART = 0.1;

/** A course that goes round something: closed, or drawn by hand back to about where it began. */
function roundCourse(spine: Spine): Spine | undefined {
  if (spine.closed) return spine;
  const { points } = spine;
  const last = points.length - STRIDE;
  const [first, end] = [Array.from(points.subarray(0, STRIDE)), Array.from(points.subarray(last))];
  const { minX, minY, maxX, maxY } = boxOfFlat(points, STRIDE);
  const gap = Math.hypot(end[0] - first[0], end[1] - first[1]);
  if (segmentCount(spine) < 2 || gap > APART * Math.hypot(maxX - minX, maxY - minY)) return undefined;
  const between = (share: number) => first.map((value, k) => end[k] + (value - end[k]) * share);
  return makeSpine(Float64Array.of(...points, ...between(1 / 3), ...between(2 / 3), ...first), true);
}

/** The closed courses among things of a page, and the outer ones of areas: whatever gets the shape of what is selected. */
export const closedCourses = (entities: Iterable<Entity>): Spine[] =>
  [...entities].flatMap((entity) => {
    if (entity.kind === 'area') return entity.rings.slice(0, 1);
    return entity.kind === 'stroke' ? (roundCourse(entity.spine) ?? []) : [];
  });

export type PanelShape = 'box' | 'rounded' | 'oval';

/** The share of its shorter side by which a rounded box is rounded. */
const ROUNDED = 0.12;

/** A ring that fills a box. */
export function shapedRing(shape: PanelShape, box: Box): Spine {
  const { minX, minY, maxX, maxY } = box;
  switch (shape) {
    case 'box':
      return boxRing(box);
    case 'rounded': {
      const radius = ROUNDED * Math.min(maxX - minX, maxY - minY);
      return asPanelRing(rectSpine({ x: minX, y: minY }, { x: maxX, y: maxY }, radius));
    }
    case 'oval':
      return asPanelRing(ellipseSpine({ centre: boxMiddle(box), rx: (maxX - minX) / 2, ry: (maxY - minY) / 2 }));
  }
}
