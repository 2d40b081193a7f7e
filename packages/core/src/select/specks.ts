import type { Point } from '../math';
import { trimMask, type Mask, type Pixels } from './mask';

/** Px that hang together, corners included, and lie apart from all others. */
export interface PixelSpeck extends Point {
  /** How many they are. */
  readonly area: number;
}

/**
 * Fewer than `most` px in a heap that is apart from all others: where each heap lies, smallest first, and all of them as a
 * mask.
 */
export function specksOfPixels(
  { x: left, y: top, width, height, data }: Pixels,
  most: number,
): { readonly mask: Mask; readonly specks: readonly PixelSpeck[] } {
  const seen = new Uint8Array(width * height);
  const meant = new Uint8Array(width * height);
  const specks: PixelSpeck[] = [];
  const heap: number[] = [];
  for (let first = 0; first < seen.length; first++) {
    if (seen[first] > 0 || data[4 * first + 3] === 0) continue;
    heap.length = 0;
    heap.push(first);
    seen[first] = 1;
    let [sumX, sumY] = [0, 0];
    // The heap is walked while it grows: each px adds those beside it that have not been seen.
    for (let k = 0; k < heap.length; k++) {
      const i = heap[k];
      const [column, row] = [i % width, Math.floor(i / width)];
      sumX += column;
      sumY += row;
      for (let v = row - 1; v <= row + 1; v++)
        for (let u = column - 1; u <= column + 1; u++) {
          const at = v * width + u;
          if (u < 0 || v < 0 || u >= width || v >= height || seen[at] > 0 || data[4 * at + 3] === 0) continue;
          seen[at] = 1;
          heap.push(at);
        }
    }
    if (heap.length >= most) continue;
    for (const i of heap) meant[i] = 255;
    specks.push({
      x: left + sumX / heap.length + 0.5,
      y: top + sumY / heap.length + 0.5,
      area: heap.length,
    });
  }
  specks.sort((one, other) => one.area - other.area);
  return { mask: trimMask({ x: left, y: top, width, height, data: meant }), specks };
}
