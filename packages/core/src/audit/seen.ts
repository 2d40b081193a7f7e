import { shownUnder, type DrawnEntity } from '../drawn';
import type { EntityId } from '../kind';
import { nodeOf, type Page } from '../page';

/** What things are seen as: as the style of their layer shows them; nothing where that, or a group of it, is hidden. */
export function seenOn(page: Page): (entity: DrawnEntity) => DrawnEntity | undefined {
  const nodes = new Map<EntityId, ReturnType<typeof nodeOf>>();
  return (entity) => {
    const { layerId } = entity;
    if (!nodes.has(layerId)) nodes.set(layerId, nodeOf(page, layerId));
    const node = nodes.get(layerId);
    return node?.isHidden ? undefined : shownUnder(entity, node?.layer.style);
  };
}
