import type { InkRaster } from '../../src/trace';
import { iconsOf, scanned } from './icons';

/** A page full of icons, side px each, lines so many px wide: an A4 at 300 or 600 ppi. Answers how many lines lie on it. */
export async function pageOf(
  width: number,
  height: number,
  side: number,
  line: number,
): Promise<InkRaster & { readonly lines: number }> {
  const ink = new Uint8Array(width * height);
  const icons = iconsOf('odd', 2);
  let lines = 0;
  let k = 0;
  for (let y = 0; y + side <= height; y += side)
    for (let x = 0; x + side <= width; x += side, k++) {
      const icon = icons[k % icons.length];
      const picture = await scanned(icon, { line, width: (24 * line) / side, wear: 'clean' });
      for (let row = 0; row < Math.min(side, picture.height); row++)
        ink.set(
          picture.ink.subarray(row * picture.width, row * picture.width + Math.min(side, picture.width)),
          (y + row) * width + x,
        );
      lines += icon.lines.length;
    }
  return { width, height, ink, lines };
}
