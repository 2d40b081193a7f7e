import { editedId, type Edit, type Entity, type EntityId, type Page } from '@true-nib/core/page';

/** The page after edits that are known to fit: what a gesture previews, or what the session has already checked. */
export function applyEdits(page: Page, edits: readonly Edit[]): Page {
  const after = new Map<EntityId, Entity | null>(edits.map((edit) => [editedId(edit), edit.after]));
  return { ...page, entities: page.entities.edited(after) };
}
