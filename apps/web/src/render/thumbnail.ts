import { scaling } from '@true-nib/core/math';
import type { Page } from '@true-nib/core/page';
import type { InkSurface } from './inkSurface';
import type { Pictures } from './pictures';
import { drawPaper, drawRoughs, splitRoughs } from './roughSurface';

/** A picture of a whole page, paper and roughs and inks, so many px wide; nothing when the browser cannot make one. */
export async function thumbnailOf(
  page: Page,
  inks: InkSurface,
  pictures: Pictures,
  width: number,
): Promise<Blob | undefined> {
  const canvas = document.createElement('canvas');
  const map = scaling(width / page.size.width);
  Object.assign(canvas, { width, height: Math.round((page.size.height * width) / page.size.width) });
  const target = canvas.getContext('2d');
  if (!target) return undefined;
  await inks.wash.loaded();
  const small = await inks.beside.smallPicture({ map, width: canvas.width, height: canvas.height });
  drawPaper(target, page, map);
  const { under, over } = splitRoughs(page);
  drawRoughs(target, under, pictures, map);
  target.setTransform(1, 0, 0, 1, 0, 0);
  if (small) target.drawImage(small, 0, 0);
  small?.close();
  target.globalCompositeOperation = 'multiply';
  drawRoughs(target, over, pictures, map);
  return new Promise((resolve) => canvas.toBlob((blob) => resolve(blob ?? undefined), 'image/webp', 0.85));
}
