import type { PlaneShape } from '@true-nib/core/page';
import { halfSize } from '../guides/grips';

/** How wide and how high a plane shape truly is, by each other. */
export function proportionsOf({ rings, place }: PlaneShape): string {
  const [w, h] = halfSize(rings);
  const [wide, high] = [w * Math.abs(place.scaleX), h * Math.abs(place.scaleY)];
  return wide >= high ? `${(wide / high).toFixed(2)} : 1` : `1 : ${(high / wide).toFixed(2)}`;
}
