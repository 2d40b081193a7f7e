import { flatRing, type Area } from '../area';
import type { MarkShape } from './mark';

/** What an area goes round, whatever fills it. */
export const areaShape = ({ rings }: Pick<Area, 'rings'>): MarkShape => ({
  of: [rings],
  rule: 'nonzero',
  rings: (tolerance) => rings.map((ring) => flatRing(ring, tolerance)),
});
