import { inOneGo } from '../math';
import { basinsOf, type ExactWidth } from './basins';
import type { Coverage } from './coverage';
import { regionsAt, type RegionMap } from './regionMap';

export interface RegionSettings {
  /** Openings up to this width, px of the coverage, are closed; 32 at most. */
  readonly gap: number;
  readonly exactWidth?: ExactWidth;
}

/** The regions between the ink of a coverage, in one go. */
export function regionsOf(coverage: Coverage, { gap, exactWidth }: RegionSettings): RegionMap {
  return regionsAt(inOneGo(basinsOf(coverage, exactWidth)), gap);
}
