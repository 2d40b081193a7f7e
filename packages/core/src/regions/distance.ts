import { INKED, type Coverage } from './coverage';

/**
 * The squared distance from the middle of each px to that of the nearest inked one, exact up to `reach` px and more than
 * reach² beyond; 0 for ink. Columns first, then rows (Felzenszwalb & Huttenlocher 2012); far px are looked at no further than that.
 */
export function squaredDistances({ width, height, ink }: Coverage, reach: number): Uint16Array {
  const far = reach + 1;
  const down = verticalDistances(ink, width, height, far);
  const squares = Uint16Array.from({ length: far + 1 }, (_, k) => k * k);
  const result = new Uint16Array(width * height);
  for (let y = 0, row = 0; y < height; y++, row += width) {
    for (let x = 0; x < width; x++) {
      const own = down[row + x];
      if (own === 0) continue;
      let best = squares[own];
      const most = Math.min(far, Math.max(x + 1, width - x));
      for (let d = 1; d <= most && squares[d] < best; d++) {
        // Beyond the edge lies ink.
        const left = x - d < 0 ? (x - d === -1 ? 0 : far) : down[row + x - d];
        const right = x + d >= width ? (x + d === width ? 0 : far) : down[row + x + d];
        const near = left < right ? left : right;
        const here = squares[d] + squares[near];
        if (here < best) best = here;
      }
      result[row + x] = best;
    }
  }
  return result;
}

/** How many px up or down the nearest ink lies, `far` at most. */
function verticalDistances(ink: Uint8Array, width: number, height: number, far: number): Uint8Array {
  const down = new Uint8Array(width * height);
  for (let x = 0; x < width; x++) down[x] = ink[x] >= INKED ? 0 : 1;
  for (let y = 1, i = width; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const above = down[i - width];
      down[i] = ink[i] >= INKED ? 0 : above < far ? above + 1 : far;
    }
  const last = (height - 1) * width;
  for (let x = 0; x < width; x++) if (down[last + x] > 1) down[last + x] = 1;
  for (let i = last - 1; i >= 0; i--) {
    const below = down[i + width];
    if (below + 1 < down[i]) down[i] = below + 1;
  }
  return down;
}
