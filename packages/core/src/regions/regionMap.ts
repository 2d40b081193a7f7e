import type { Point } from '../math';
import type { Basins, Opening } from './basins';
import { isOneRoom } from './widths';

/** Which basins are one region at a gap. */
export interface RegionMap {
  readonly basins: Basins;
  /** Openings up to this width, px of the coverage, are closed. */
  readonly gap: number;
  /** By basin: its region, from 1; 0 for ink. */
  readonly regionOf: Int32Array;
  /** By region, from 1: its px, and four numbers each of the columns and rows that it reaches. */
  readonly areas: Float64Array;
  readonly boxes: Int32Array;
  /** Openings that were closed: their sides are regions of their own. */
  readonly closed: readonly ClosedOpening[];
}

/** An opening that was closed, between two regions. */
export interface ClosedOpening extends Opening {
  readonly regions: readonly [number, number];
}

/**
 * The regions at a gap, px of the coverage: basins hang together where an opening between them is wider. `kept`: openings that
 * the artist has decided on; they stay open, or closed, whatever their width.
 */
export function regionsAt(
  basins: Basins,
  gap: number,
  kept: (opening: Opening) => 'open' | 'closed' | undefined = () => undefined,
): RegionMap {
  const { roots, peaks, areas, boxes, openings } = basins;
  const count = peaks.length;
  const parents = roots.slice();
  const root = (basin: number): number => {
    let top = basin;
    while (parents[top] !== top) top = parents[top];
    while (parents[basin] !== top) [parents[basin], basin] = [top, parents[basin]];
    return top;
  };
  const widest = peaks.slice();
  const narrow = (gap + 2.5) / 2;
  for (const opening of [...openings].sort((one, other) => other.width - one.width)) {
    const [a, b] = [root(opening.a), root(opening.b)];
    if (a === b) continue;
    const said = kept(opening);
    const [high, low] = widest[a] >= widest[b] ? [a, b] : [b, a];
    const s = opening.width / 2;
    // Two that are both too narrow for the gap are parts of one narrow space.
    const isNarrow = widest[high] <= narrow && widest[low] <= 2 * s + 0.8;
    const isOpen = said === undefined ? opening.width > gap || isNarrow || isOneRoom(widest[low], s) : said === 'open';
    if (isOpen) parents[low] = high;
  }
  const regionOf = new Int32Array(count);
  let regions = 0;
  for (let basin = 1; basin < count; basin++) if (parents[basin] === basin) regionOf[basin] = ++regions;
  for (let basin = 1; basin < count; basin++) regionOf[basin] = parents[basin] === 0 ? 0 : regionOf[root(basin)];
  const total = new Float64Array(regions + 1);
  const around = new Int32Array(4 * (regions + 1)).fill(-1);
  for (let k = 0; k < around.length; k += 4) around[k] = around[k + 1] = 0x7fffffff;
  for (let basin = 1; basin < count; basin++) {
    if (regionOf[basin] === 0) continue;
    const [from, to] = [4 * basin, 4 * regionOf[basin]];
    total[regionOf[basin]] += areas[basin];
    around[to] = Math.min(around[to], boxes[from]);
    around[to + 1] = Math.min(around[to + 1], boxes[from + 1]);
    around[to + 2] = Math.max(around[to + 2], boxes[from + 2]);
    around[to + 3] = Math.max(around[to + 3], boxes[from + 3]);
  }
  const closed = openings.flatMap((opening): ClosedOpening[] => {
    const [a, b] = [regionOf[opening.a], regionOf[opening.b]];
    return a === b ? [] : [{ ...opening, regions: [a, b] }];
  });
  return { basins, gap, regionOf, areas: total, boxes: around, closed };
}

/** How many regions there are. */
export const regionCount = ({ areas }: RegionMap): number => areas.length - 1;

/** The region at a place, page px; 0 on ink and beyond the coverage. */
export function regionAt(map: RegionMap, { x, y }: Point): number {
  const { basins, regionOf } = map;
  const { coverage, labels } = basins;
  const column = Math.floor((x - coverage.x) * coverage.scale);
  const row = Math.floor((y - coverage.y) * coverage.scale);
  if (column < 0 || row < 0 || column >= coverage.width || row >= coverage.height) return 0;
  return regionOf[labels[row * coverage.width + column]];
}

/** A place on the page, page px, of one in px of the coverage. */
export const onPage = ({ basins: { coverage } }: Pick<RegionMap, 'basins'>, { x, y }: Point): Point => ({
  x: coverage.x + x / coverage.scale,
  y: coverage.y + y / coverage.scale,
});

/** Whether a region reaches the edge of the coverage. */
export function reachesEdge({ boxes, basins: { coverage } }: RegionMap, region: number): boolean {
  const k = 4 * region;
  return (
    boxes[k] === 0 || boxes[k + 1] === 0 || boxes[k + 2] === coverage.width - 1 || boxes[k + 3] === coverage.height - 1
  );
}
