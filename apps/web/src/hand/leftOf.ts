import type { EntityId } from '@true-nib/core/kind';
import type { Edit, Page } from '@true-nib/core/page';
import { isDrawn } from '@true-nib/core/drawn';
import type { LeftOf } from '../render';

/**
 * The edits by which things of a page become what is left of them. The first of its kind keeps the id; what is of another kind is a
 * new thing. Whatever is no longer on the page is let be.
 */
export function leftEdits(page: Page, all: readonly LeftOf[], newId: () => EntityId): Edit[] {
  return all.flatMap(({ id, left }): Edit[] => {
    const before = page.entities.get(id);
    if (!isDrawn(before)) return [];
    const same = left.find(({ kind }) => kind === before.kind);
    const others = left.filter((one) => one !== same);
    return [
      { before, after: same ?? null },
      ...others.map((one): Edit => ({ before: null, after: { ...one, id: newId() } })),
    ];
  });
}
