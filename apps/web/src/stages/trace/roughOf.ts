import { byOrder, find, ofKind, type Page, type PictureEntity } from '@true-nib/core/page';

/** The rough that is worked on: the one last chosen, or the highest there is. */
export function roughOf(page: Page, roughId: string | undefined): PictureEntity | undefined {
  const chosen = roughId === undefined ? undefined : find(page, 'picture', roughId);
  return chosen ?? ofKind(page, 'picture').sort(byOrder).at(-1);
}
