import { distance, type Point } from '../math';
import type { Said } from '../page';

/** What was said last of some things about a place. */
export function lastNear(
  said: readonly Said[],
  at: Point,
  as: readonly Said['as'][],
  within: number,
): Said | undefined {
  return said.filter((one) => as.includes(one.as) && distance(one, at) <= within).at(-1);
}
