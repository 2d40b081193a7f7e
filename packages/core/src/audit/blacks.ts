import { flatRing } from '../area';
import type { EntityId } from '../kind';
import { boxOfFlat, windingOf } from '../math';
import { byOrder, ofKind, type Page } from '../page';

/** A page in black and white: whether a px is ink. */
export interface Bits {
  readonly width: number;
  readonly height: number;
  at(x: number, y: number): boolean;
}

/** How much of a page, and of each of its panels, is black: 0..1. */
export interface BlackShares {
  readonly page: number;
  readonly panels: readonly { readonly id: EntityId; readonly share: number }[];
}

/** Page px that a panel's border may stray where px are counted in it. */
const LOOSE = 1;

/** The share of black of a page and its panels, counted on a picture of it that may be small. */
export function blackShares(page: Page, bits: Bits): BlackShares {
  const scale = bits.width / page.size.width;
  let all = 0;
  for (let y = 0; y < bits.height; y++) for (let x = 0; x < bits.width; x++) if (bits.at(x, y)) all++;
  const panels = ofKind(page, 'panel')
    .sort(byOrder)
    .map(({ id, ring }) => {
      const flat = flatRing(ring, LOOSE);
      const { minX, minY, maxX, maxY } = boxOfFlat(flat, 2);
      let [count, black] = [0, 0];
      for (let y = Math.max(0, Math.floor(minY * scale)); y < Math.min(bits.height, maxY * scale); y++)
        for (let x = Math.max(0, Math.floor(minX * scale)); x < Math.min(bits.width, maxX * scale); x++) {
          if (windingOf(flat, { x: (x + 0.5) / scale, y: (y + 0.5) / scale }) === 0) continue;
          count++;
          if (bits.at(x, y)) black++;
        }
      return { id, share: count > 0 ? black / count : 0 };
    });
  return { page: all / (bits.width * bits.height), panels };
}
