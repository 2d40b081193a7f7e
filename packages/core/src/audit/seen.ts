import type { EntityId } from '../kind';
import { nodeOf, type Page } from '../page';

/** Whether what lies on a layer is seen, as far as that layer and its groups go. */
export function seenOn(page: Page): (laid: { readonly layerId: EntityId }) => boolean {
  const known = new Map<EntityId, boolean>();
  return ({ layerId }) => {
    let is = known.get(layerId);
    if (is === undefined) known.set(layerId, (is = !(nodeOf(page, layerId)?.isHidden ?? false)));
    return is;
  };
}
