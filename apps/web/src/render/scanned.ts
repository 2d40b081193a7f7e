import type { PictureEntity } from '@true-nib/core/page';
import { evenLight, straighten, type Picture } from '@true-nib/core/trace';
import { readInBlocks } from './ground';

/** A picture as far as its pixels go. */
export type SeenPicture = Pick<PictureEntity, 'width' | 'height' | 'scan'>;

/** What tells how a picture is seen apart from how it was taken; nothing where that is the same. */
export const scanName = ({ width, height, scan }: SeenPicture): string =>
  scan ? JSON.stringify([width, height, scan]) : '';

/** The pixels of a decoded picture, at its own size or at `share` of it. */
export function pixelsOf(bitmap: ImageBitmap, share = 1): Picture {
  const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * share)));
  return readInBlocks({ minX: 0, minY: 0, maxX: width, maxY: height }, (context, { minX, minY }) => {
    context.imageSmoothingQuality = 'high';
    context.drawImage(bitmap, -minX, -minY, width, height);
  });
}

/** Px of which a sheet is made flat and even at most: an A4 at 600 ppi. What has more is made of fewer. */
const MOST_PX = 36e6;

/** The pixels of a decoded picture as its scan has it: its sheet flat, its light even, without the colours that go. */
export function scannedPixels(bitmap: ImageBitmap, { width, height, scan }: SeenPicture): Picture {
  if (!scan) return pixelsOf(bitmap);
  const taken = pixelsOf(bitmap, Math.min(1, Math.sqrt(MOST_PX / (bitmap.width * bitmap.height))));
  // Px may be fewer than those that were taken.
  const by = taken.width / scan.taken.width;
  const [across, down] = [width, height].map((side) => Math.max(1, Math.round(side * by)));
  const at = (k: 0 | 1 | 2 | 3) => {
    const corner = scan.corners?.[k] ?? { x: 0, y: 0 };
    return { x: corner.x * by, y: corner.y * by };
  };
  const flat = scan.corners ? straighten(taken, [at(0), at(1), at(2), at(3)], { width: across, height: down }) : taken;
  return scan.evened || scan.drop.length > 0 ? evenLight(flat, scan) : flat;
}

/** A decoded picture as its scan has it; the one that was given is let go of. */
export async function scannedBitmap(bitmap: ImageBitmap, picture: SeenPicture): Promise<ImageBitmap> {
  if (!picture.scan) return bitmap;
  const { width, height, data } = scannedPixels(bitmap, picture);
  bitmap.close();
  return createImageBitmap(new ImageData(new Uint8ClampedArray(data.buffer as ArrayBuffer), width, height));
}

/** Decodes a picture, turned as its EXIF says, and makes of it what its scan says. */
export async function decodedAs(source: Blob | ImageBitmap, picture: SeenPicture): Promise<ImageBitmap> {
  const bitmap = source instanceof Blob ? await createImageBitmap(source, { imageOrientation: 'from-image' }) : source;
  return scannedBitmap(bitmap, picture);
}
