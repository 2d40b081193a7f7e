import { laidAs, type DrawnEntity, type Thing } from '@true-nib/core/drawn';
import { ordersBetween } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Stroke, StrokeEntity } from '@true-nib/core/stroke';
import { newId } from '../session';
import { inPanel } from './begunIn';

/** On which layer things go, above which of what it has, and the panel that they were begun in. */
interface Place {
  readonly layerId: EntityId;
  readonly top: string | undefined;
  readonly panelId?: EntityId | undefined;
}

/** Things as new entities on top of a layer, in their order. */
export function asEntities(things: readonly Stroke[], place: Place): StrokeEntity[];
export function asEntities(things: readonly Thing[], place: Place): DrawnEntity[];
export function asEntities(things: readonly Thing[], { layerId, top, panelId }: Place) {
  const orders = ordersBetween(top, undefined, things.length);
  return things.map((thing, k) => laidAs(thing, { id: newId(), layerId, order: orders[k], ...inPanel(panelId) }));
}
