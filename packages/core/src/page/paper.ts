import { draftChange, type Change } from './change';
import { find, type Page } from './page';

const PAPER_ID = 'paper';
/** The paper of a page on which no other was laid. */
export const WHITE_PAPER = '#ffffff';

/** The colour that the page lies on, `#rrggbb`; null for none. */
export function paperOf(page: Page): string | null {
  const paper = find(page, 'paper', PAPER_ID);
  return paper ? paper.color : WHITE_PAPER;
}

/** Lays other paper under the page; null for none. */
export function layPaper(page: Page, color: string | null): Change {
  const before = find(page, 'paper', PAPER_ID) ?? null;
  return draftChange('Paper', [{ before, after: { kind: 'paper', id: PAPER_ID, color } }]);
}
