import type { Tint } from '@true-nib/core/page';
import { expose, transfer } from 'comlink';
import { pyramidOf, type PyramidLevel } from './picturePieces';

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
};

export type PictureService = typeof service;

expose(service);
