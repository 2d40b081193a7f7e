import { id, number, oneOf } from '../../gate';
import type { EntityBase, Kind } from '../../kind';

/** Which way a page is read. */
export const READINGS = ['left to right', 'right to left'] as const;
export type Reading = (typeof READINGS)[number];

/** How a page is cut and read. There is at most one; `sheetOf` says what holds where there is none. */
export interface SheetEntity extends EntityBase {
  readonly kind: 'sheet';
  readonly reads: Reading;
  /** How much of the page is cut off along each edge, page px. */
  readonly bleed: number;
  /** How far from the cut panels and lettering begin, page px. */
  readonly margin: number;
}

const MOST = 20_000;

/** What a sheet is. */
export const sheetKind: Kind<SheetEntity> = {
  isMany: false,
  check: (fields) => ({
    kind: 'sheet',
    id: id(fields.id, 'id'),
    reads: oneOf(fields.reads, 'reads', READINGS),
    bleed: number(fields.bleed, 'bleed', 0, MOST),
    margin: number(fields.margin, 'margin', 0, MOST),
  }),
  refs: () => ({}),
  remap: (sheet, copyId) => ({ ...sheet, id: copyId }),
};
