import type { RegionMap } from './regionMap';

/** A part of a raster: columns and rows from `x`, `y`, with a number for each px. */
export interface Patch {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly labels: Int32Array;
}

/** Px that lines may be wide, half of it: farther under the ink no region is carried. */
export const MOST_UNDER = 96;

/** How far a region goes under the ink round it, px of the coverage: to the middle of the line, or so far. */
export type Under = 'middle' | number;

/** The columns and rows that some regions reach, grown by so many px. */
export function patchAround(
  { boxes, basins: { coverage } }: RegionMap,
  regions: readonly number[],
  by: number,
): Omit<Patch, 'labels'> {
  let [minX, minY, maxX, maxY] = [coverage.width, coverage.height, -1, -1];
  for (const region of regions) {
    const k = 4 * region;
    minX = Math.min(minX, boxes[k]);
    minY = Math.min(minY, boxes[k + 1]);
    maxX = Math.max(maxX, boxes[k + 2]);
    maxY = Math.max(maxY, boxes[k + 3]);
  }
  const [x, y] = [Math.max(0, minX - by), Math.max(0, minY - by)];
  return {
    x,
    y,
    width: Math.min(coverage.width - 1, maxX + by) - x + 1,
    height: Math.min(coverage.height - 1, maxY + by) - y + 1,
  };
}

/**
 * Regions carried under the ink round them: each px of ink goes to the region whose open px is nearest, the lower number where
 * two are as near, up to `under`; 0 where none is. `named` says what a region is called in the patch, 0 for none.
 */
export function spreadUnder(
  map: RegionMap,
  at: Omit<Patch, 'labels'>,
  under: Under,
  named: (region: number) => number = (region) => region,
): Patch {
  const { basins, regionOf } = map;
  const { coverage, labels: basinOf } = basins;
  const { x, y, width, height } = at;
  const labels = new Int32Array(width * height);
  const most = under === 'middle' ? MOST_UNDER : Math.min(MOST_UNDER, under);
  const names = Int32Array.from(regionOf, (region) => (region === 0 ? 0 : named(region)));
  for (let row = 0; row < height; row++) {
    const from = (y + row) * coverage.width + x;
    for (let column = 0; column < width; column++) labels[row * width + column] = names[basinOf[from + column]];
  }
  if (most <= 0) return { ...at, labels };
  const open = new Uint8Array(width * height);
  for (let row = 0, i = 0; row < height; row++)
    for (let from = (y + row) * coverage.width + x, end = from + width; from < end; from++, i++)
      open[i] = basinOf[from] === 0 ? 0 : 1;
  /** The open px that is nearest, and how far off it is, squared. */
  const sources = new Int32Array(width * height).fill(-1);
  const reached = new Int32Array(width * height);
  // Measured from the middle of an open px, which reaches half a px on.
  const limit = Math.floor((most + 0.5) ** 2);
  const queue: number[][] = Array.from({ length: limit + 1 }, () => []);
  const offer = (to: number, source: number) => {
    const dx = (to % width) - (source % width);
    const dy = Math.floor(to / width) - Math.floor(source / width);
    const far = dx * dx + dy * dy;
    if (far > limit) return;
    const known = sources[to];
    if (known >= 0 && (far > reached[to] || (far === reached[to] && labels[source] >= labels[known]))) return;
    reached[to] = far;
    sources[to] = source;
    queue[far].push(to);
  };
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      if (open[i] === 1) continue;
      for (let v = row > 0 ? -1 : 0; v <= (row < height - 1 ? 1 : 0); v++)
        for (let u = column > 0 ? -1 : 0; u <= (column < width - 1 ? 1 : 0); u++)
          if (open[i + v * width + u] === 1) offer(i, i + v * width + u);
    }
  for (let far = 0; far < queue.length; far++)
    for (const i of queue[far]) {
      if (reached[i] !== far) continue;
      const source = sources[i];
      const column = i % width;
      const row = Math.floor(i / width);
      for (let v = row > 0 ? -1 : 0; v <= (row < height - 1 ? 1 : 0); v++)
        for (let u = column > 0 ? -1 : 0; u <= (column < width - 1 ? 1 : 0); u++) {
          const to = i + v * width + u;
          if (open[to] === 0) offer(to, source);
        }
    }
  for (let i = 0; i < open.length; i++) if (open[i] === 0 && sources[i] >= 0) labels[i] = labels[sources[i]];
  return { ...at, labels };
}
