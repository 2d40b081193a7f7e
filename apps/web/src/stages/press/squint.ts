import { blackShares, darksOf, type BlackShares } from '@true-nib/core/audit';
import { scaling } from '@true-nib/core/math';
import type { Page } from '@true-nib/core/page';
import type { Board } from '../../board';
import type { SmallPicture } from '../../deliver';
import { smallSize } from '../../render';

/** Px that the small picture of a page is wide or high at most. */
export const SIDE = 320;

/** A page seen from afar: its inks, small, and how much of it is black. */
export interface Squinted {
  readonly inks: SmallPicture;
  readonly shares: BlackShares;
}

/** The inks of the page as they are now, on white, and its blacks; nothing before the page is loaded. */
export async function squinted({ picture }: Board, page: Page): Promise<Squinted | undefined> {
  const { scale, width, height } = smallSize(page.size, SIDE);
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
