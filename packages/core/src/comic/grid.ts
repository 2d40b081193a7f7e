import type { Spine } from '../curve';
import { PageError } from '../gate';
import { box, type Box } from '../math';
import { mmToPx } from '../page';
import { MOST_PANELS } from '../panel';
import { ringThrough } from './sides';

/** mm that a panel is wide and high at least. */
const LEAST_MM = 2;

/** The least width of a panel at a ppi, page px. */
export const leastPanel = (ppi: number): number => mmToPx(LEAST_MM, ppi);

/** A row of panels: how much of the height it takes, and how much of its width each panel takes, all as shares of their sum. */
export interface GridRow {
  readonly height: number;
  readonly widths: readonly number[];
}

export interface PanelGrid {
  /** Page px. */
  readonly within: Box;
  readonly rows: readonly GridRow[];
  /** Page px between panels of a row, and between rows. */
  readonly across: number;
  readonly down: number;
}

/** Rows of equal height with panels of equal width. */
export const evenRows = (counts: readonly number[]): GridRow[] =>
  counts.map((count) => ({ height: 1, widths: Array.from({ length: count }, () => 1) }));

/**
 * Panels in rows with gutters between them, row by row from the left. Throws a PageError for a grid that does not fit: where a
 * panel would be narrower or lower than `least` page px, or where there would be too many.
 */
export function panelGrid({ within, rows, across, down }: PanelGrid, least: number): Spine[] {
  if (rows.length === 0 || rows.some(({ widths }) => widths.length === 0))
    throw new PageError('A grid needs a row with a panel at least.');
  const count = rows.reduce((sum, { widths }) => sum + widths.length, 0);
  if (count > MOST_PANELS) throw new PageError(`A page holds at most ${MOST_PANELS} panels; this would be ${count}.`);
  const heights = shared(
    within.maxY - within.minY,
    rows.map(({ height }) => height),
    down,
  );
  let top = within.minY;
  return rows.flatMap(({ widths }, row) => {
    let left = within.minX;
    const bottom = top + heights[row];
    const rings = shared(within.maxX - within.minX, widths, across).map((width) => {
      if (!(width >= least && heights[row] >= least))
        throw new PageError(
          'This grid does not fit: a panel would be under 2 mm. Take fewer panels or smaller gutters.',
        );
      const ring = boxRing(box(left, top, left + width, bottom));
      left += width + across;
      return ring;
    });
    top = bottom + down;
    return rings;
  });
}

/** A length in parts by their shares, with gaps between them. */
function shared(length: number, shares: readonly number[], gap: number): number[] {
  const sum = shares.reduce((all, share) => all + share, 0);
  const room = length - gap * (shares.length - 1);
  return shares.map((share) => (room * share) / sum);
}

/** The ring round a box. */
export const boxRing = ({ minX, minY, maxX, maxY }: Box): Spine =>
  ringThrough([
    { x: minX, y: minY },
    { x: maxX, y: minY },
    { x: maxX, y: maxY },
    { x: minX, y: maxY },
  ]);
