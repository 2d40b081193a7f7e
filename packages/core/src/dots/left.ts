import { STRIDE } from '../curve';
import type { Dots } from './types';

/** What is left of dots where some go, whole; nothing where none does. Lengths in page px. */
export function dotsLeft<D extends Dots>(
  thing: D,
  isGone: (x: number, y: number, width: number) => boolean,
): D | undefined {
  const { dots } = thing;
  const left = new Float64Array(dots.length);
  let end = 0;
  for (let i = 0; i < dots.length; i += STRIDE) {
    if (isGone(dots[i], dots[i + 1], dots[i + 2])) continue;
    left.set(dots.subarray(i, i + STRIDE), end);
    end += STRIDE;
  }
  return end === dots.length ? undefined : { ...thing, dots: left.slice(0, end) };
}
