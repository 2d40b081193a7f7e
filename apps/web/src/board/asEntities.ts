import { laidAs, type DrawnEntity, type Thing } from '@true-nib/core/drawn';
import { ordersBetween } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Stroke, StrokeEntity } from '@true-nib/core/stroke';
import { newId } from '../session';

/** Things as new entities on top of a layer, in their order. */
export function asEntities(things: readonly Stroke[], layerId: EntityId, top: string | undefined): StrokeEntity[];
export function asEntities(things: readonly Thing[], layerId: EntityId, top: string | undefined): DrawnEntity[];
export function asEntities(things: readonly Thing[], layerId: EntityId, top: string | undefined) {
  const orders = ordersBetween(top, undefined, things.length);
  return things.map((thing, k) => laidAs(thing, { id: newId(), layerId, order: orders[k] }));
}
