import { segmentCount, STRIDE, type Spine } from '../curve';
import { boxMiddle, boxOfFlat, distance, type Box } from '../math';
import { bridge, endPoint } from '../mend';
import { asPanelRing } from '../panel';
import type { Entity } from '../page';
import { ellipseSpine, rectSpine } from '../shapes';
import type { Stroke } from '../stroke';
import { boxRing } from './grid';

/** The share of its size by which the ends of a line may lie apart for it to go round something. */
const APART = 0.1;

/** The course of a line that goes round something: closed, or drawn by hand back to about where it began. */
function roundCourse(stroke: Stroke): Spine | undefined {
  const { spine } = stroke;
  if (spine.closed) return spine;
  const ends = [
    { stroke, end: 1 },
    { stroke, end: 0 },
  ] as const;
  const { minX, minY, maxX, maxY } = boxOfFlat(spine.points, STRIDE);
  const gap = distance(endPoint(ends[0]), endPoint(ends[1]));
  return segmentCount(spine) < 2 || gap > APART * Math.hypot(maxX - minX, maxY - minY)
    ? undefined
    : bridge(...ends).spine;
}

/** The closed courses among things of a page, and the outer ones of areas: whatever gets the shape of what is selected. */
export const closedCourses = (entities: Iterable<Entity>): Spine[] =>
  [...entities].flatMap((entity) => {
    if (entity.kind === 'area') return entity.rings.slice(0, 1);
    return entity.kind === 'stroke' ? (roundCourse(entity) ?? []) : [];
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
