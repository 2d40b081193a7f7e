import { INKED, type Coverage } from './coverage';

/**
 * The squared distance from the middle of each px to that of the nearest inked one, exact up to `reach` px and more than
 * reach² beyond; 0 for ink. Columns first, then rows (Felzenszwalb & Huttenlocher 2012); far px are looked at no further than that.
 */
export function squaredDistances({ width, height, ink }: Coverage, reach: number): Uint16Array {
  const far = reach + 1;
  const down = verticalDistances(ink, width, height, far);
  const result = new Uint16Array(width * height);
  // The lowest of the parabolas that stand over the px of a row, from one px before it to one behind: beyond the edge lies ink.
  const sites = new Int32Array(width + 2);
  const heights = new Int32Array(width + 2);
  const starts = new Float64Array(width + 3);
  for (let y = 0, row = 0; y < height; y++, row += width) {
    let last = 0;
    sites[0] = -1;
    heights[0] = 0;
    starts[0] = -Infinity;
    for (let x = 0; x <= width; x++) {
      const own = x < width ? down[row + x] : 0;
      if (own === far) continue;
      const high = own * own + x * x;
      let from = (high - heights[last] - sites[last] * sites[last]) / (2 * (x - sites[last]));
      while (last > 0 && from <= starts[last]) {
        last--;
        from = (high - heights[last] - sites[last] * sites[last]) / (2 * (x - sites[last]));
      }
      last++;
      sites[last] = x;
      heights[last] = own * own;
      starts[last] = from;
    }
    starts[last + 1] = Infinity;
    const most = far * far;
    for (let x = 0, k = 0; x < width; x++) {
      while (starts[k + 1] < x) k++;
      const across = x - sites[k];
      const square = across * across + heights[k];
      result[row + x] = square < most ? square : most;
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
