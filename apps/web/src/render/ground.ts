import type { Box } from '@true-nib/core/math';
import type { Context2D } from './inkPaint';

/** A transparent canvas of so many px off the screen. Throws where a browser has none. */
export function ground(width: number, height: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  return context;
}

/** Clears a box of device px, and paints within it alone. */
export function paintAnew(context: Context2D, { minX, minY, maxX, maxY }: Box, paint: () => void): void {
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(minX, minY, maxX - minX, maxY - minY);
  context.beginPath();
  context.rect(minX, minY, maxX - minX, maxY - minY);
  context.clip();
  paint();
  context.restore();
}
