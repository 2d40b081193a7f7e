import type { InkRaster } from './types';

/** Whether each px is ink, 1 or 0, row by row; a frame of paper one px wide lies round the picture. */
export interface Inked {
  /** With the frame. */
  readonly width: number;
  readonly height: number;
  readonly on: Uint8Array;
}

/** The px of a picture that are at least so dark, 0..1. */
export function inkedFrom({ width, height, ink }: InkRaster, darkness: number): Inked {
  const across = width + 2;
  const on = new Uint8Array(across * (height + 2));
  const least = Math.max(1, Math.round(darkness * 255));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, to = (y + 1) * across + 1; x < width; x++, i++, to++) if (ink[i] >= least) on[to] = 1;
  return { width: across, height: height + 2, on };
}

/** The eight neighbours of a px, clockwise from the one above. */
export const around = (width: number): readonly number[] => [
  ...[-width, -width + 1, 1, width + 1],
  ...[width, width - 1, -1, -width - 1],
];

/** Takes patches of fewer px off, eight neighbours to a px. */
export function dropSpecks({ width, on }: Inked, least: number): void {
  if (least <= 1) return;
  const steps = around(width);
  const patch = new Int32Array(Math.ceil(least));
  for (let i = 0; i < on.length; i++) {
    if (on[i] !== 1) continue;
    // A patch that is large enough is left as soon as that is known: what was seen of it is marked, and passed over from then on.
    let [head, count] = [0, 1];
    patch[0] = i;
    on[i] = 2;
    let isLarge = false;
    while (head < count && !isLarge) {
      const at = patch[head++];
      for (const step of steps) {
        const state = on[at + step];
        if (state === 3) isLarge = true;
        if (state !== 1) continue;
        on[at + step] = 2;
        if (count === patch.length) isLarge = true;
        else patch[count++] = at + step;
        if (isLarge) {
          on[at + step] = 3;
          break;
        }
      }
    }
    for (let k = 0; k < count; k++) on[patch[k]] = isLarge ? 3 : 0;
  }
  for (let i = 0; i < on.length; i++) if (on[i] !== 0) on[i] = 1;
}

/**
 * How wide lines are for the most part, px: looked at px by px in a coarse grid, by the runs of ink through each in rows and in
 * columns; each width counts as often as lines have it along their length. 0 where there is no ink.
 */
export function usualWidth({ width, height, on }: Inked): number {
  const MOST = 200;
  const counts = new Float64Array(2 * MOST + 1);
  for (let y = 1; y < height - 1; y += 3)
    for (let x = 1; x < width - 1; x++) {
      const row = y * width;
      if (!on[row + x]) continue;
      let end = x;
      while (on[row + end]) end++;
      const across = Math.min(MOST, end - x);
      for (let at = x + (((end - x - 1) % 4) >> 1); at < end; at += 4) {
        let [up, down] = [row + at, row + at];
        while (on[up] && row + at - up < MOST * width) up -= width;
        while (on[down] && down - row - at < MOST * width) down += width;
        const along = Math.min(MOST, (down - up) / width - 1);
        // Of a line on the slant both runs are longer than it is wide: its width is their height in a right triangle.
        const wide = (across * along) / Math.hypot(across, along);
        // So much ink is so much shorter a piece of a wider line.
        counts[Math.round(2 * wide)] += 1 / wide;
      }
      x = end;
    }
  const all = counts.reduce((sum, count) => sum + count, 0);
  let seen = 0;
  for (let k = 0; k < counts.length; k++) {
    seen += counts[k];
    // Below the middle: blacks count as very wide lines here.
    if (seen > 0 && seen >= 0.35 * all) return k / 2;
  }
  return 0;
}

/** Twice as many px each way, between the old ones by bilinear mixing. */
export function doubled({ width, height, ink }: InkRaster): InkRaster {
  const [w, h] = [2 * width, 2 * height];
  const target = new Uint8Array(w * h);
  for (let y = 0; y < h; y++) {
    const near = y >> 1;
    const far = Math.min(height - 1, Math.max(0, near + (y & 1 ? 1 : -1)));
    const [a, b] = [near * width, far * width];
    for (let x = 0, to = y * w; x < w; x++, to++) {
      const p = x >> 1;
      const q = Math.min(width - 1, Math.max(0, p + (x & 1 ? 1 : -1)));
      target[to] = (9 * ink[a + p] + 3 * (ink[a + q] + ink[b + p]) + ink[b + q] + 8) >> 4;
    }
  }
  return { width: w, height: h, ink: target };
}
