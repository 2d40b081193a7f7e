import type { Spine } from '../curve';
import { boxMiddle, type Box } from '../math';
import { asPanelRing } from '../panel';
import type { Entity } from '../page';
import { ellipseSpine, rectSpine } from '../shapes';
import { boxRing } from './grid';

/** The closed courses among things of a page, and the outer ones of areas: whatever gets the shape of what is selected. */
export const closedCourses = (entities: Iterable<Entity>): Spine[] =>
  [...entities].flatMap((entity) => {
    if (entity.kind === 'area') return entity.rings.slice(0, 1);
    return entity.kind === 'stroke' && entity.spine.closed ? [entity.spine] : [];
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
