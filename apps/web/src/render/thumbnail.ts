import type { EntityId } from '@true-nib/core/kind';
import { scaling, type Matrix } from '@true-nib/core/math';
import { find, ofKind, type Page, type PictureEntity } from '@true-nib/core/page';
import type { InkSurface } from './inkSurface';
import type { Pictures } from './pictures';
import { drawPaper, drawRoughs, roughsUnder } from './roughSurface';
import { plainLook } from './stackLook';
import type { Extent } from './view';

/** Px that the picture of a page may be high: long strips are shown narrower. */
const MOST_HEIGHT = 1280;

/** A picture of a whole page, paper and roughs and inks, at most so many px wide; nothing when the browser cannot make one. */
export async function thumbnailOf(
  page: Page,
  inks: InkSurface,
  pictures: Pictures,
  width: number,
): Promise<Blob | undefined> {
  const canvas = document.createElement('canvas');
  const scale = Math.min(width / page.size.width, MOST_HEIGHT / page.size.height);
  const map = scaling(scale);
  const px = (side: number) => Math.max(1, Math.round(side * scale));
  Object.assign(canvas, { width: px(page.size.width), height: px(page.size.height) });
  const target = canvas.getContext('2d');
  if (!target) return undefined;
  await inks.wash.loaded();
  const small = await inks.beside.smallPicture({ map, width: canvas.width, height: canvas.height });
  drawPaper(target, page, map);
  const { under, over } = roughsUnder(page, plainLook);
  const levels = (picture: PictureEntity) => pictures.levels(picture);
  drawRoughs(target, under, levels, map);
  target.setTransform(1, 0, 0, 1, 0, 0);
  if (small) target.drawImage(small, 0, 0);
  small?.close();
  target.globalCompositeOperation = 'multiply';
  drawRoughs(target, over, levels, map);
  return new Promise((resolve) => canvas.toBlob((blob) => resolve(blob ?? undefined), 'image/webp', 0.85));
}

/** A picture of one layer alone, as large as fits; nothing when the browser cannot make one. */
export async function layerPictureOf(
  page: Page,
  inks: InkSurface,
  pictures: Pictures,
  layerId: EntityId,
  { width, height }: Extent,
): Promise<ImageBitmap | undefined> {
  const { size } = page;
  const scale = Math.min(width / size.width, height / size.height);
  const map: Matrix = [scale, 0, 0, scale, (width - size.width * scale) / 2, (height - size.height * scale) / 2];
  const medium = find(page, 'layer', layerId)?.medium;
  if (medium === 'wash') await inks.wash.loaded();
  if (medium !== 'rough') return inks.beside.layerPicture(layerId, { map, width, height });
  const canvas = new OffscreenCanvas(width, height);
  const target = canvas.getContext('2d');
  const layer = find(page, 'layer', layerId);
  const own = ofKind(page, 'picture').filter((picture) => picture.layerId === layerId);
  for (const picture of own) await pictures.whenReady(picture);
  // As it is, whatever fades it on the page: a thumbnail tells what lies on it.
  if (target && layer)
    drawRoughs(target, [{ layer, pictures: own, opacity: 1 }], (picture) => pictures.levels(picture), map);
  return canvas.transferToImageBitmap();
}
