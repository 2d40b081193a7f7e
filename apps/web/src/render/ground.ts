import type { Box } from '@true-nib/core/math';
import type { Pixels } from '@true-nib/core/select';

/** Px that what is made of a page's pixels may have a side, and in all: more is slow everywhere, and some browsers refuse it. */
const MOST_SIDE = 4096;
const MOST_PX = 2 ** 24;
/** Px a side of the blocks that larger pictures are read by. */
const BLOCK = 1024;

/** The share, 0..1, at which a picture of so many px fits on a surface. */
export const shareThatFits = (width: number, height: number): number =>
  Math.min(1, MOST_SIDE / Math.max(width, height), Math.sqrt(MOST_PX / (width * height)));

/** A transparent canvas of so many px off the screen. Throws where a browser has none. */
export function ground(width: number, height: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  return context;
}

/**
 * Pixels of a box of whole page px, read block by block: `paint` paints what lies in a part of it on a canvas whose corner is
 * that part's.
 */
export function readInBlocks(
  { minX, minY, maxX, maxY }: Box,
  paint: (context: OffscreenCanvasRenderingContext2D, part: Box) => void,
): Pixels {
  const [width, height] = [Math.max(0, maxX - minX), Math.max(0, maxY - minY)];
  const data = new Uint8ClampedArray(4 * width * height);
  for (let top = minY; top < maxY; top += BLOCK)
    for (let left = minX; left < maxX; left += BLOCK) {
      const part = { minX: left, minY: top, maxX: Math.min(maxX, left + BLOCK), maxY: Math.min(maxY, top + BLOCK) };
      const [wide, high] = [part.maxX - left, part.maxY - top];
      const context = new OffscreenCanvas(wide, high).getContext('2d', { willReadFrequently: true });
      if (!context) throw new Error('This browser cannot paint off the screen.');
      paint(context, part);
      const read = context.getImageData(0, 0, wide, high).data;
      for (let row = 0; row < high; row++)
        data.set(read.subarray(4 * row * wide, 4 * (row + 1) * wide), 4 * ((top - minY + row) * width + left - minX));
    }
  return { x: minX, y: minY, width, height, data };
}
