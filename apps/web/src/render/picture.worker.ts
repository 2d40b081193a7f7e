import type { Tint } from '@true-nib/core/page';
import { boxCorners } from '@true-nib/core/math';
import { homographyBetween, warpPixels, type Quad } from '@true-nib/core/select';
import { expose, transfer } from 'comlink';
import { pyramidOf, type PyramidLevel } from './picturePieces';

/** Larger pictures are made smaller before they are laid on a plane. */
const MOST_SIDE = 3_000;

const service = {
  /**
   * Decodes a picture, turned as its EXIF says, into tinted sizes. SVGs come decoded already, since workers cannot.
   */
  async pyramid(source: Blob | ImageBitmap, tint: Tint): Promise<PyramidLevel[]> {
    const bitmap =
      source instanceof Blob ? await createImageBitmap(source, { imageOrientation: 'from-image' }) : source;
    const levels = await pyramidOf(bitmap, tint);
    bitmap.close();
    return transfer(
      levels,
      levels.flatMap(({ pieces }) => pieces.map((piece) => piece.bitmap)),
    );
  },

  /**
   * A picture as it looks between four corners of the page, clockwise from its upper left one: a PNG, in the page's px, of
   * the whole box around them.
   */
  async laid(source: Blob, corners: Quad): Promise<Blob> {
    const bitmap = await createImageBitmap(source, { imageOrientation: 'from-image' });
    const share = Math.min(1, MOST_SIDE / Math.max(bitmap.width, bitmap.height));
    const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * share)));
    const ground = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    ground?.drawImage(bitmap, 0, 0, width, height);
    bitmap.close();
    const data = ground?.getImageData(0, 0, width, height).data ?? new Uint8ClampedArray(4 * width * height);
    const rect = boxCorners({ minX: 0, minY: 0, maxX: width, maxY: height });
    const seen = warpPixels({ x: 0, y: 0, width, height, data }, homographyBetween(rect, corners));
    const canvas = new OffscreenCanvas(seen.width, seen.height);
    const pixels = new ImageData(Uint8ClampedArray.from(seen.data), seen.width, seen.height);
    canvas.getContext('2d')?.putImageData(pixels, 0, 0);
    return canvas.convertToBlob({ type: 'image/png' });
  },
};

export type PictureService = typeof service;

expose(service);
