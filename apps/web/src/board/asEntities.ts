import { ordersBetween } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Stroke, StrokeEntity } from '@true-nib/core/stroke';
import { newId } from '../session';

/** Strokes as new entities on top of a layer. */
export function asEntities(strokes: readonly Stroke[], layerId: EntityId, top: string | undefined): StrokeEntity[] {
  const orders = ordersBetween(top, undefined, strokes.length);
  return strokes.map((stroke, k) => ({ kind: 'stroke', id: newId(), layerId, order: orders[k], ...stroke }));
}
