import { editedId, type Edit, type Page } from '@true-nib/core/page';

/** The page after edits that are known to fit: what a gesture previews, or what the session has already checked. */
export function applyEdits(page: Page, edits: readonly Edit[]): Page {
  return { ...page, entities: page.entities.edited(edits.map((edit) => [editedId(edit), edit.after])) };
}
