import type { Point } from '../math';
import type { InkRaster } from './types';

/** The ink of a picture within a loop alone, px; everything outside is paper. */
export function inkWithin({ width, height, ink }: InkRaster, loop: readonly Point[]): InkRaster {
  const kept = new Uint8Array(ink.length);
  for (let y = 0; y < height; y++) {
    const crossings: number[] = [];
    loop.forEach((a, k) => {
      const b = loop[(k + 1) % loop.length];
      const row = y + 0.5;
      if (a.y <= row === b.y <= row) return;
      crossings.push(a.x + ((row - a.y) * (b.x - a.x)) / (b.y - a.y));
    });
    crossings.sort((one, two) => one - two);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const [from, to] = [Math.max(0, Math.round(crossings[k])), Math.min(width, Math.round(crossings[k + 1]))];
      if (to > from) kept.set(ink.subarray(y * width + from, y * width + to), y * width + from);
    }
  }
  return { width, height, ink: kept };
}

/** A box of a picture, px, with every `by` × `by` px made one: their mean. */
export function inkPart(
  { width, height, ink }: InkRaster,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  by: number,
): InkRaster {
  const [w, h] = [Math.max(1, Math.floor(box.width / by)), Math.max(1, Math.floor(box.height / by))];
  const part = new Uint8Array(w * h);
  for (let y = 0, to = 0; y < h; y++)
    for (let x = 0; x < w; x++, to++) {
      let [sum, count] = [0, 0];
      for (let v = box.y + y * by; v < Math.min(height, box.y + (y + 1) * by); v++)
        for (let u = box.x + x * by; u < Math.min(width, box.x + (x + 1) * by); u++) {
          sum += ink[v * width + u];
          count++;
        }
      part[to] = count > 0 ? Math.round(sum / count) : 0;
    }
  return { width: w, height: h, ink: part };
}
