import { editedId, type Edit, type Page } from '@true-nib/core/page';

/** The page after edits that are known to fit: what a gesture previews, or what the session has already checked. */
export function applyEdits(page: Page, edits: readonly Edit[]): Page {
  const entities = edits.reduce(
    (map, edit) => (edit.after ? map.with(edit.after) : map.without(editedId(edit))),
    page.entities,
  );
  return { ...page, entities };
}
