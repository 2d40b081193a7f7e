import { STRIDE } from '../curve';
import type { Nib } from '../nib';
import type { Stroke } from '../stroke';

/** Dots (triples x, y, width) as lines of their own, each as long as a tenth of its width. */
export const dotLines = (dots: Float64Array, nib: Nib): Stroke[] =>
  Array.from({ length: dots.length / STRIDE }, (_, k) => {
    const [x, y, width] = dots.subarray(STRIDE * k, STRIDE * (k + 1));
    const points = Float64Array.from([-0.05, -0.0167, 0.0167, 0.05].flatMap((share) => [x + share * width, y, width]));
    return { spine: { points, closed: false }, nib: { ...nib, size: width }, ends: ['round', 'round'] };
  });
