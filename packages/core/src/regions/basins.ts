import type { Box, Point } from '../math';
import type { Coverage } from './coverage';
import { squaredDistances } from './distance';
import { joinTiles, type Meeting } from './joinTiles';
import { floodTile, type Tile, type TileBasins } from './tileFlood';
import { REACH } from './widths';

/** A place where two basins meet: colour would run through it. */
export interface Opening {
  /** Its basins. */
  readonly a: number;
  readonly b: number;
  /** Its middle, px of the coverage. */
  readonly x: number;
  readonly y: number;
  /** How wide it is, px of the coverage. */
  readonly width: number;
  /** The two places of the ink that it lies between, where they are known, px of the coverage. */
  readonly ends?: readonly [Point, Point];
}

/** Open px in rooms, whatever the gap. */
export interface Basins {
  readonly coverage: Coverage;
  /** The basin of each px; 0 for ink. A room that goes over several tiles has a basin in each. */
  readonly labels: Int32Array;
  /** By basin: the one that stands for its room; 0 for numbers that no basin has. */
  readonly roots: Int32Array;
  /** By basin: the half-width of the widest place of its room, px, and how many px it has itself. */
  readonly peaks: Float32Array;
  readonly areas: Int32Array;
  /** By basin, four numbers each: the first and last column and row that it reaches. */
  readonly boxes: Int32Array;
  readonly openings: readonly Opening[];
  /** What is kept so that a part of it can be found anew. */
  readonly parts: Parts;
}

interface Parts {
  readonly distances: Uint16Array;
  readonly tiles: readonly TileBasins[];
  readonly numbers: Numbers;
  /** By the px where it was found: an opening as it was measured. */
  readonly measured: ReadonlyMap<number, Measured>;
}

interface Measured {
  readonly square: number;
  readonly opening: Pick<Opening, 'x' | 'y' | 'width' | 'ends'>;
}

/** Tells how wide an opening is exactly, and between which places, about its middle (px of the coverage). */
export type ExactWidth = (
  middle: Point,
  about: number,
) => { readonly middle: Point; readonly ends: readonly [Point, Point] } | undefined;

/** Px of a side of a tile. */
const TILE = 256;
/** Px about a change within which openings are measured anew. */
const MEASURED_ANEW = 3 * REACH;

/**
 * Parts open px into basins, tile by tile, and joins those of one room. Where two rooms meet there is an opening. Yields the share
 * that is done.
 */
export function* basinsOf(coverage: Coverage, exactWidth?: ExactWidth, side = TILE): Generator<number, Basins> {
  const { width, height } = coverage;
  const distances = squaredDistances(coverage, REACH);
  yield 0.3;
  const labels = new Int32Array(width * height);
  const tiles: TileBasins[] = [];
  const numbers = new Numbers();
  for (const [k, tile] of tilesOf(width, height, side).entries()) {
    yield 0.3 + (0.6 * k * side * side) / (width * height);
    tiles.push(floodTile({ width, height, distances, labels }, tile, numbers.take));
  }
  yield 0.9;
  return yield* joined(coverage, labels, { distances, tiles, numbers, measured: new Map() }, exactWidth);
}

/**
 * The basins after the ink of a coverage has changed within some boxes (px), found anew only in the tiles that it touches. The old
 * ones are used up: their rasters are written over, and it must be gone through to its end. Yields as `basinsOf`.
 */
export function* basinsAfter(old: Basins, changed: readonly Box[], exactWidth?: ExactWidth): Generator<number, Basins> {
  const { coverage, labels, parts } = old;
  const { width, height } = coverage;
  const { distances, numbers } = parts;
  const zones = changed
    .map((box) => within({ width, height }, box, REACH + 1))
    .filter(({ x0, y0, x1, y1 }) => x0 < x1 && y0 < y1);
  if (zones.length === 0) return old;
  for (const zone of zones) measureAgain(coverage, distances, zone);
  const tiles: TileBasins[] = [];
  for (const tile of parts.tiles) {
    if (!zones.some((zone) => overlap(tile, zone))) {
      tiles.push(tile);
      continue;
    }
    yield 0.5;
    tiles.push(
      // Its old numbers are free again.
      floodTile({ width, height, distances, labels }, tile, (count) =>
        count <= tile.room ? tile : numbers.take(count),
      ),
    );
  }
  const near = changed.map((box) => within({ width, height }, box, MEASURED_ANEW));
  const measured = new Map(
    [...parts.measured].filter(([at]) => {
      const [x, y] = [at % width, Math.floor(at / width)];
      return !near.some((zone) => overlap({ x0: x, y0: y, x1: x + 1, y1: y + 1 }, zone));
    }),
  );
  return yield* joined(coverage, labels, { distances, tiles, numbers, measured }, exactWidth);
}

/** Hands out numbers for the basins of tiles, some more for each than it has: others may come. */
class Numbers {
  /** The next that is free. */
  next = 1;

  take = (count: number): { readonly first: number; readonly room: number } => {
    const { next: first } = this;
    const room = Math.ceil(1.5 * count) + 8;
    this.next += room;
    return { first, room };
  };
}

function tilesOf(width: number, height: number, side: number): Tile[] {
  const tiles: Tile[] = [];
  for (let y = 0; y < height; y += side)
    for (let x = 0; x < width; x += side)
      tiles.push({ x0: x, y0: y, x1: Math.min(width, x + side), y1: Math.min(height, y + side) });
  return tiles;
}

const overlap = (a: Tile, b: Tile): boolean => a.x0 < b.x1 && a.x1 > b.x0 && a.y0 < b.y1 && a.y1 > b.y0;

/** A box of a raster in whole px, grown, as far as it lies in it. */
function within(
  { width, height }: { readonly width: number; readonly height: number },
  { minX, minY, maxX, maxY }: Box,
  by: number,
): Tile {
  return {
    x0: Math.max(0, Math.floor(minX) - by),
    y0: Math.max(0, Math.floor(minY) - by),
    x1: Math.min(width, Math.ceil(maxX) + by),
    y1: Math.min(height, Math.ceil(maxY) + by),
  };
}

/** Distances in a part of a raster anew: what is cut off round it lies farther away than distances are told. */
function measureAgain({ width, height, ink }: Coverage, distances: Uint16Array, zone: Tile): void {
  const wide = within({ width, height }, { minX: zone.x0, minY: zone.y0, maxX: zone.x1, maxY: zone.y1 }, REACH + 1);
  const part = { width: wide.x1 - wide.x0, height: wide.y1 - wide.y0 };
  const own = new Uint8Array(part.width * part.height);
  for (let y = 0; y < part.height; y++) {
    const from = (wide.y0 + y) * width + wide.x0;
    own.set(ink.subarray(from, from + part.width), y * part.width);
  }
  const found = squaredDistances({ ...part, ink: own, scale: 1, x: 0, y: 0 }, REACH);
  for (let y = zone.y0; y < zone.y1; y++) {
    const from = (y - wide.y0) * part.width + zone.x0 - wide.x0;
    distances.set(found.subarray(from, from + zone.x1 - zone.x0), y * width + zone.x0);
  }
}

function* joined(
  coverage: Coverage,
  labels: Int32Array,
  parts: Parts,
  exactWidth: ExactWidth | undefined,
): Generator<number, Basins> {
  const { width } = coverage;
  const { tiles, numbers, distances } = parts;
  const { next } = numbers;
  const { roots, peaks, meetings } = joinTiles({ width, height: coverage.height, labels, distances }, tiles, next);
  const areas = new Int32Array(next);
  const boxes = new Int32Array(4 * next);
  for (const tile of tiles) {
    areas.set(tile.areas, tile.first);
    boxes.set(tile.boxes, 4 * tile.first);
  }
  yield 0.95;
  const measured = new Map<number, Measured>();
  const openings: Opening[] = [];
  for (const [k, meeting] of meetings.entries()) {
    if (k % 256 === 255) yield 0.95;
    const { a, b, at, square } = meeting;
    const known = parts.measured.get(at);
    const opening = known?.square === square ? known.opening : measuredAt(meeting, width, exactWidth);
    measured.set(at, { square, opening });
    openings.push({ a, b, ...opening });
  }
  return { coverage, labels, roots, peaks, areas, boxes, openings, parts: { ...parts, measured } };
}

function measuredAt(
  { at, square }: Meeting,
  width: number,
  exactWidth: ExactWidth | undefined,
): Pick<Opening, 'x' | 'y' | 'width' | 'ends'> {
  const middle = { x: (at % width) + 0.5, y: Math.floor(at / width) + 0.5 };
  const about = 2 * Math.sqrt(square) - 1;
  const found = exactWidth?.(middle, about);
  if (!found) return { ...middle, width: about };
  const [p, q] = found.ends;
  return { ...found.middle, width: Math.hypot(p.x - q.x, p.y - q.y), ends: found.ends };
}
