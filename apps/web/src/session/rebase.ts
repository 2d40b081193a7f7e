import { applyChange, type Change, type Edit, type Page } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';

// Putting one's own changes on top of what others did meanwhile.

/** A page after those of some changes that fit it, and those that do not. */
export function laidOn(page: Page, changes: readonly Change[]) {
  const [fitting, lost]: [Change[], Change[]] = [[], []];
  for (const change of changes) {
    try {
      page = applyChange(page, change);
      fitting.push(change);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      lost.push(change);
    }
  }
  return { page, fitting, lost };
}

/** What changes are called, each name once and how often. */
export function labelsOf(changes: readonly Change[]): string {
  const counts = new Map<string, number>();
  for (const { label } of changes) counts.set(label, (counts.get(label) ?? 0) + 1);
  return [...counts].map(([label, count]) => (count === 1 ? `"${label}"` : `"${label}" (${count})`)).join(', ');
}

/** What turns one page into another, entity by entity. */
export function differences(before: Page, after: Page): Edit[] {
  const edits: Edit[] = [];
  for (const entity of before.entities) {
    const now = after.entities.get(entity.id) ?? null;
    if (now !== entity) edits.push({ before: entity, after: now });
  }
  for (const entity of after.entities) if (!before.entities.get(entity.id)) edits.push({ before: null, after: entity });
  return edits;
}
