import { blackShares, type BlackShares, type Darks } from '@true-nib/core/audit';
import { scaling } from '@true-nib/core/math';
import { lumaOf } from '@true-nib/core/nib';
import type { Page } from '@true-nib/core/page';
import type { Board } from '../../board';
import type { SmallPicture } from '../../deliver';

/** Px that the small picture of a page is wide or high at most. */
export const SIDE = 320;

/** A page seen from afar: its inks, small, and how much of it is black. */
export interface Squinted {
  readonly inks: SmallPicture;
  readonly shares: BlackShares;
}

/** The inks of the page as they are now, on white, and its blacks; nothing before the page is loaded. */
export async function squinted({ picture }: Board, page: Page): Promise<Squinted | undefined> {
  const { width: across, height: down } = page.size;
  const scale = Math.min(1, SIDE / Math.max(across, down));
  const [width, height] = [across, down].map((side) => Math.max(1, Math.round(side * scale)));
  await picture.inks.wash.loaded();
  await picture.inks.beside.told;
  const bitmap = await picture.inks.beside.smallPicture({ map: scaling(scale), width, height });
  const context = new OffscreenCanvas(width, height).getContext('2d');
  if (!bitmap || !context) return undefined;
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const inks = { width, height, rgba: context.getImageData(0, 0, width, height).data };
  return { inks, shares: blackShares(page, darksOf(inks)) };
}

/** How dark a picture is as a whole, 0..1. */
export function darknessOf(picture: SmallPicture): number {
  const darks = darksOf(picture);
  let sum = 0;
  for (let y = 0; y < darks.height; y++) for (let x = 0; x < darks.width; x++) sum += darks.at(x, y);
  return sum / (darks.width * darks.height);
}

/** How dark each px is. */
const darksOf = ({ width, height, rgba }: SmallPicture): Darks => ({
  ...{ width, height },
  at(x, y) {
    const k = 4 * (y * width + x);
    return 1 - lumaOf([rgba[k], rgba[k + 1], rgba[k + 2]]) / 255;
  },
});
