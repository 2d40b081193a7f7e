import { STRIDE, type Spine } from '../curve';
import { PageError } from '../gate';
import { depthAt, type Matrix3x3 } from '../math';

/** On which side of a map's horizon a spine lies, 1 or −1. Throws a PageError where it lies on both. */
export function sideOf({ points }: Spine, map: Matrix3x3): number {
  const side = Math.sign(depthAt(map, points[0], points[1]));
  for (let k = 0; k < points.length; k += STRIDE)
    if (depthAt(map, points[k], points[k + 1]) * side <= 1e-9)
      throw new PageError('Some lines would run over the horizon. Pull the corners less far.');
  return side;
}
