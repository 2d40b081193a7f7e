import type { Corners, Tint } from '@true-nib/core/page';
import { boxCorners, type Point } from '@true-nib/core/math';
import { homographyBetween, warpPixels, type Quad } from '@true-nib/core/select';
import { sheetCorners } from '@true-nib/core/trace';
import { expose, transfer } from 'comlink';
import { ground, shareThatFits } from './ground';
import { pyramidOf, type PyramidLevel } from './picturePieces';
import { decodedAs, pixelsOf, type SeenPicture } from './scanned';

/** Larger pictures are made smaller before they are laid on a plane. */
const MOST_SIDE = 3_000;
/** Px of the long side in which a sheet of paper is looked for. */
const SHEET_SIDE = 3_200;

const service = {
  /**
   * Decodes a picture, turned as its EXIF says and as its scan has it, into tinted sizes. SVGs come decoded already, since workers cannot.
   */
  async pyramid(source: Blob | ImageBitmap, tint: Tint, seen: SeenPicture): Promise<PyramidLevel[]> {
    const bitmap = await decodedAs(source, seen);
    const levels = await pyramidOf(bitmap, tint);
    bitmap.close();
    return transfer(
      levels,
      levels.flatMap(({ pieces }) => pieces.map((piece) => piece.bitmap)),
    );
  },

  /** A picture as its scan has it, as a PNG. */
  async scanned(source: Blob | ImageBitmap, seen: SeenPicture): Promise<Blob> {
    const bitmap = await decodedAs(source, seen);
    const share = shareThatFits(bitmap.width, bitmap.height);
    const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * share)));
    const context = ground(width, height);
    context.imageSmoothingQuality = 'high';
    context.drawImage(bitmap, 0, 0, width, height);
    bitmap.close();
    return context.canvas.convertToBlob({ type: 'image/png' });
  },

  /** The corners of a sheet of paper in a picture as it was taken; nothing where none is found. */
  async sheet(source: Blob | ImageBitmap): Promise<Corners | undefined> {
    const bitmap = await decodedAs(source, { width: 0, height: 0 });
    // Far fewer px are enough, and a quarter of the memory.
    const share = Math.min(1, SHEET_SIDE / Math.max(bitmap.width, bitmap.height));
    const found = sheetCorners(pixelsOf(bitmap, share));
    bitmap.close();
    const at = ({ x, y }: Point) => ({ x: x / share, y: y / share });
    return found && [at(found[0]), at(found[1]), at(found[2]), at(found[3])];
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
