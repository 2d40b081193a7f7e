import type { Point } from '../math';
import { onPage, type ClosedOpening, type RegionMap } from './regionMap';

/** A gap through which colour would run. Page px. */
export interface Leak extends Point {
  readonly width: number;
  /** The two places of the ink that it lies between, where they are known. */
  readonly ends?: readonly [Point, Point];
  readonly regions: readonly [number, number];
  /** How much is at stake: the root of the smaller side's area, to the width. */
  readonly weight: number;
}

/** Px of the coverage that a side has at least: less is a speck that nobody colours. */
const LEAST_SIDE = 400;

/** The openings that were closed, those first that matter most; `isLeft` leaves some out. */
export function leaksOf(
  map: RegionMap,
  leastSide = LEAST_SIDE,
  isLeft: (opening: ClosedOpening) => boolean = () => false,
): Leak[] {
  const { scale } = map.basins.coverage;
  const side = ({ regions: [a, b] }: ClosedOpening) => Math.min(map.areas[a], map.areas[b]);
  return map.closed
    .filter((opening) => side(opening) >= leastSide && !isLeft(opening))
    .map((opening): Leak => {
      const { ends, regions } = opening;
      return {
        ...onPage(map, opening),
        width: opening.width / scale,
        regions,
        weight: Math.sqrt(side(opening)) / Math.max(1, opening.width),
        ...(ends && { ends: [onPage(map, ends[0]), onPage(map, ends[1])] as const }),
      };
    })
    .sort((one, other) => other.weight - one.weight);
}
