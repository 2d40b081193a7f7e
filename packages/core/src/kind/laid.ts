import { id, optional, type Fields } from '../gate';
import type { EntityId, LaidBase, Refs } from './kind';

/** Who something on a layer is, and where it lies. Throws a PageError that names the field, what it needs and what came. */
export const checkLaid = (fields: Fields): LaidBase => ({
  id: id(fields.id, 'id'),
  layerId: id(fields.layerId, 'layerId'),
  order: id(fields.order, 'order'),
  ...optional(fields, 'panelId', id),
});

/** Where something on a layer lies, without what it is. */
export const laidOf = ({ id, layerId, order, panelId }: LaidBase): LaidBase => ({
  ...{ id, layerId, order },
  ...(panelId !== undefined && { panelId }),
});

/** Something where another thing lies: under its id, on its layer, in its panel. */
export function laidWhere<E extends LaidBase>(entity: E, where: LaidBase): E {
  const { panelId: _own, ...rest } = entity;
  // Only where it lies is another.
  return { ...rest, ...laidOf(where) } as E;
}

/** What anything on a layer refers to: it cannot be without its layer, and knows the panel that it was begun in. */
export const laidRefs = ({ layerId, panelId }: LaidBase): Refs & { readonly needs: readonly EntityId[] } => ({
  needs: [layerId],
  ...(panelId !== undefined && { knows: [panelId] }),
});

/** A copy under another id, with what `laidRefs` says called as it is in the copy. */
export const laidCopy = <E extends LaidBase>(entity: E, copyId: EntityId, renamed: (id: EntityId) => EntityId): E => ({
  ...entity,
  id: copyId,
  layerId: renamed(entity.layerId),
  ...(entity.panelId !== undefined && { panelId: renamed(entity.panelId) }),
});
