import { isDrawn, type DrawnEntity } from '../drawn';
import type { EntityId } from '../kind';
import type { Edit, Page } from '../page';

/**
 * What is left of something when some of it is taken off: all by its own id, for whoever takes it up to give them theirs.
 */
export interface LeftOf {
  readonly id: EntityId;
  readonly left: readonly DrawnEntity[];
}

/**
 * The edits by which things of a page become what is left of them. The first of its kind keeps the id; what is of another
 * kind is a new thing. Whatever is no longer on the page is let be.
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
