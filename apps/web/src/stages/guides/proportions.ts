import { trueSize, type PlaneShape } from '@true-nib/core/guides';

/** How wide and how high a plane shape truly is, by each other. */
export function proportionsOf(shape: PlaneShape): string {
  const { width, height } = trueSize(shape);
  return width >= height ? `${(width / height).toFixed(2)} : 1` : `1 : ${(height / width).toFixed(2)}`;
}
