import { halfWidthOf, type Raster, type Saddle, type TileBasins } from './tileFlood';
import { SAME_OPENING, isOneRoom, WIDE_SQUARE } from './widths';

/** A place where two rooms meet: the px where they do first, and the squared distance of that from ink. */
export type Meeting = Pick<Saddle, 'a' | 'b' | 'at' | 'square'>;

/** Which basins of tiles are one room, how wide each room is, and where rooms meet. */
export interface Joined {
  /** By basin: the one that stands for its room; 0 for numbers that no basin has. */
  readonly roots: Int32Array;
  /** By basin: the half-width of the widest place of its room. */
  readonly peaks: Float32Array;
  readonly meetings: readonly Meeting[];
}

/** Joins the basins of tiles in falling half-width of the places where they meet. `next`: all numbers of basins are below it. */
export function joinTiles(raster: Raster, tiles: readonly TileBasins[], next: number): Joined {
  const { width } = raster;
  const parents = new Int32Array(next);
  const peaks = new Float32Array(next);
  for (const tile of tiles)
    for (let k = 0; k < tile.peaks.length; k++) {
      parents[tile.first + k] = tile.first + k;
      peaks[tile.first + k] = tile.peaks[k];
    }
  const root = (basin: number): number => {
    let top = basin;
    while (parents[top] !== top) top = parents[top];
    while (parents[basin] !== top) [parents[basin], basin] = [top, parents[basin]];
    return top;
  };
  const meetings: Meeting[] = [];
  const contacts = new Map<number, number[]>();
  const known = (at: number, a: number, b: number): number => {
    for (let dy = -SAME_OPENING; dy <= SAME_OPENING; dy++)
      for (let dx = -SAME_OPENING; dx <= SAME_OPENING; dx++)
        for (const k of contacts.get(at + dy * width + dx) ?? []) {
          const [p, q] = [root(meetings[k].a), root(meetings[k].b)];
          if ((p === a && q === b) || (p === b && q === a)) return k;
        }
    return -1;
  };
  for (const saddle of fallingSaddles(tiles, raster)) {
    const [a, b] = [root(saddle.a), root(saddle.b)];
    if (a === b) continue;
    const [high, low] = peaks[a] >= peaks[b] ? [a, b] : [b, a];
    if (isOneRoom(peaks[low], halfWidthOf(saddle.square))) {
      parents[low] = high;
      continue;
    }
    let k = known(saddle.at, a, b);
    if (k < 0) {
      k = meetings.length;
      meetings.push({ a, b, at: saddle.at, square: saddle.square });
    }
    for (const at of saddle.contacts) {
      const here = contacts.get(at);
      if (here) here.push(k);
      else contacts.set(at, [k]);
    }
  }
  const roots = Int32Array.from(parents, (parent, basin) => (parent === 0 ? 0 : root(basin)));
  for (let basin = 1; basin < next; basin++) peaks[basin] = peaks[roots[basin]];
  const left = meetings.filter(({ a, b }) => roots[a] !== roots[b]);
  return { roots, peaks, meetings: left.map((one) => ({ ...one, a: roots[one.a], b: roots[one.b] })) };
}

/** All places where basins meet, in tiles and across their borders, the widest first. */
function fallingSaddles(tiles: readonly TileBasins[], raster: Raster): Saddle[] {
  const byWidth: Saddle[][] = Array.from({ length: WIDE_SQUARE + 1 }, () => []);
  const add = (saddle: Saddle) => byWidth[Math.min(saddle.square, WIDE_SQUARE)].push(saddle);
  for (const { saddles } of tiles) saddles.forEach(add);
  for (const tile of tiles) acrossBorders(tile, raster, add);
  return byWidth.reverse().flat();
}

/** Where basins of a tile meet those of the tiles to its right and below it: one place for each run of px. */
function acrossBorders(
  { x0, y0, x1, y1 }: TileBasins,
  { width, height, labels, distances }: Raster,
  add: (saddle: Saddle) => void,
): void {
  const along = (start: number, step: number, count: number, over: number) => {
    let run: { a: number; b: number; at: number; square: number; contacts: number[] } | undefined;
    for (let k = 0, at = start; k < count; k++, at += step) {
      const [a, b] = [labels[at], labels[at + over]];
      if (a === 0 || b === 0) {
        if (run) add(run);
        run = undefined;
        continue;
      }
      const square = distances[at] < distances[at + over] ? distances[at] : distances[at + over];
      if (run?.a !== a || run.b !== b) {
        if (run) add(run);
        run = { a, b, at, square, contacts: [] };
      }
      if (square > run.square) {
        run.at = at;
        run.square = square;
      }
      // Wide places never part two rooms.
      if (square < WIDE_SQUARE) run.contacts.push(at);
    }
    if (run) add(run);
  };
  if (x1 < width) along(y0 * width + x1 - 1, width, y1 - y0, 1);
  if (y1 < height) along((y1 - 1) * width + x0, 1, x1 - x0, width);
}
