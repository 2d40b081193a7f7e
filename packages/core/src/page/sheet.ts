import { growBox, type Box } from '../math';
import { PageError } from '../gate';
import { draftChange, type Change } from './change';
import type { SheetEntity } from './kinds/sheet';
import { find, type Page } from './page';
import { mmToPx } from './units';

const SHEET_ID = 'sheet';
/** mm from the edge of a page to its panels, where nothing else was said. */
const MARGIN_MM = 10;

/** How a page is cut and read. */
export const sheetOf = (page: Page): SheetEntity =>
  find(page, 'sheet', SHEET_ID) ?? {
    ...{ kind: 'sheet', id: SHEET_ID, reads: 'left to right', bleed: 0 },
    margin: Math.min(mmToPx(MARGIN_MM, page.size.ppi), page.size.width / 8, page.size.height / 8),
  };

const wholeBox = ({ size }: Page): Box => ({ minX: 0, minY: 0, maxX: size.width, maxY: size.height });

/** Where a page is cut, page px. */
export const trimBox = (page: Page): Box => growBox(wholeBox(page), -sheetOf(page).bleed);

/** What panels and lettering keep within, page px. */
export const marginBox = (page: Page): Box => growBox(trimBox(page), -sheetOf(page).margin);

/** Cuts or reads a page otherwise. Throws a PageError where nothing would be left within its margins. */
export function laySheet(page: Page, change: Partial<Pick<SheetEntity, 'reads' | 'bleed' | 'margin'>>): Change {
  const after = { ...sheetOf(page), ...change };
  const { width, height } = page.size;
  if (2 * (after.bleed + after.margin) >= Math.min(width, height))
    throw new PageError('Bleed and margins would leave nothing of the page.');
  return draftChange('Trim and margins', [{ before: find(page, 'sheet', SHEET_ID) ?? null, after }]);
}
