import { FAR, list, number, PageError } from '../gate';
import type { VanishingPoint } from './guide';

/** The point in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkVanishingPoint(value: unknown, name: string): VanishingPoint {
  const [x, y, w] = list(value, name, 3);
  const at = (coordinate: unknown) => number(coordinate, name, -FAR, FAR);
  if (w !== 0 && w !== 1) throw new PageError(`"${name}" is x, y and 1, or a direction and 0.`);
  const point: VanishingPoint = [at(x), at(y), w];
  if (w === 0 && Math.abs(Math.hypot(point[0], point[1]) - 1) > 1e-6)
    throw new PageError(`"${name}" lies infinitely far along a unit vector.`);
  return point;
}
