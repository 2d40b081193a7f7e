import { flatRing } from '../area';
import type { EntityId } from '../kind';
import { boxOfFlat, windingOf } from '../math';
import { lumaOf } from '../nib';
import { byOrder, ofKind, type Page } from '../page';

/** A picture of a page that may be small: how dark each px is. */
export interface Darks {
  readonly width: number;
  readonly height: number;
  /** 0 for white, 1 for black. */
  at(x: number, y: number): number;
}

/** How dark the px of a picture on white are. */
export const darksOf = ({ width, height, rgba }: DarkPixels): Darks => ({
  ...{ width, height },
  at(x, y) {
    const k = 4 * (y * width + x);
    return 1 - lumaOf([rgba[k], rgba[k + 1], rgba[k + 2]]) / 255;
  },
});

/** A picture on white: red, green, blue and opacity, 0..255. */
export interface DarkPixels {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray;
}

/** How dark a picture is as a whole, 0..1. */
export function darkness(darks: Darks): number {
  let sum = 0;
  for (let y = 0; y < darks.height; y++) for (let x = 0; x < darks.width; x++) sum += darks.at(x, y);
  return sum / (darks.width * darks.height);
}

/** How much of a page, and of each of its panels, is black: 0..1. */
export interface BlackShares {
  readonly page: number;
  readonly panels: readonly { readonly id: EntityId; readonly share: number }[];
}

/** Page px that a panel's border may stray where px are counted in it. */
const LOOSE = 1;

/** The share of black of a page and its panels: greys count by how dark they are. */
export function blackShares(page: Page, darks: Darks): BlackShares {
  const scale = darks.width / page.size.width;
  const panels = ofKind(page, 'panel')
    .sort(byOrder)
    .map(({ id, ring }) => {
      const flat = flatRing(ring, LOOSE);
      const { minX, minY, maxX, maxY } = boxOfFlat(flat, 2);
      let [count, black] = [0, 0];
      for (let y = Math.max(0, Math.floor(minY * scale)); y < Math.min(darks.height, maxY * scale); y++)
        for (let x = Math.max(0, Math.floor(minX * scale)); x < Math.min(darks.width, maxX * scale); x++) {
          if (windingOf(flat, { x: (x + 0.5) / scale, y: (y + 0.5) / scale }) === 0) continue;
          count++;
          black += darks.at(x, y);
        }
      return { id, share: count > 0 ? black / count : 0 };
    });
  return { page: darkness(darks), panels };
}
