import type { EntityId } from '@true-nib/core/kind';
import type { StackNode, StackPlace } from '@true-nib/core/page';

/**
 * Where rows of the stack go that are dropped between other rows (the highest first): on top of a group when they lie
 * directly under its row, else beside the row above them. `outwards` leaves the group at whose foot they would lie.
 */
export function dropPlace(
  rows: readonly StackNode[],
  parents: ReadonlyMap<EntityId, EntityId | undefined>,
  index: number,
  outwards: boolean,
): StackPlace {
  const over = rows[index - 1];
  const topOf = (parentId: EntityId | undefined, from: number) =>
    rows.slice(from).find(({ layer }) => parents.get(layer.id) === parentId)?.layer.id;
  if (!over) return { above: topOf(undefined, 0) };
  if (over.layer.medium === 'group' && !outwards)
    return { parentId: over.layer.id, above: topOf(over.layer.id, index) };
  const own = over.layer.medium === 'group' ? over.layer.id : parents.get(over.layer.id);
  const isFoot = own !== undefined && topOf(own, index) === undefined;
  const parentId =
    outwards && isFoot ? parents.get(own) : over.layer.medium === 'group' ? parents.get(over.layer.id) : own;
  return { parentId, above: topOf(parentId, index) };
}
