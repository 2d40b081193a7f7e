import { box, boxesMeet, mapBox, scaling, type Box, type Matrix } from '@true-nib/core/math';
import { LRUCache } from 'lru-cache';
import { Listeners } from '../base/listeners';

const SIDE = 256;
/** Neighbouring tiles share a px, or turned pages would show their seams. */
const BLEED = 1;
const MOST = 320;
/** Beyond so many touched boxes a tile counts as touched everywhere. */
const MOST_BOXES = 40;
/** Tiles asked for and not yet there: more would only make the newest, and the exact view behind them, wait. */
const MOST_AWAITED = 16;
const LEVELS = { least: -6, most: 3 } as const;

interface Tile {
  readonly level: number;
  readonly column: number;
  readonly row: number;
  bitmap: ImageBitmap | undefined;
  /** What edits have touched since the bitmap was asked for, page px. */
  dirty: readonly Box[];
  /** All of it looks different now; the old picture is shown until the new one is there. */
  isStale: boolean;
  isAwaited: boolean;
}

/** What tiles could not show as it is, page px. */
interface Drawn {
  /** What edits have touched since it was painted. */
  readonly dirty: Box[];
  /** Places for which there is no picture at all. */
  readonly missing: Box[];
}

/** Paints a part of the inks: the map takes page px to the px of a square of `side`. */
export type TilePainter = (map: Matrix, side: number) => Promise<ImageBitmap | undefined>;

/**
 * The inks as square pictures, one set for each power of two of the scale. Old tiles are shown until new ones are there,
 * coarser ones where finer ones are missing, so nothing blinks.
 */
export class Tiles {
  /** Those that were not drawn for the longest time go first, with their pictures. */
  private readonly tiles = new LRUCache<string, Tile>({ max: MOST, dispose: ({ bitmap }) => bitmap?.close() });
  private readonly arrivals = new Listeners<[]>();
  private awaited = 0;
  /** What was dirty when the tile on its way was asked for: the old bitmap still shows it. */
  private readonly awaitedDirt = new Map<Tile, readonly Box[]>();

  constructor(private readonly painter: TilePainter) {}

  /** Calls back whenever a tile has arrived. Answers how to stop. */
  onArrival(listener: () => void): () => void {
    return this.arrivals.add(listener);
  }

  /** Marks what an edit touched, page px. The pictures stay until they are painted anew. */
  touch(boxes: readonly Box[]): void {
    for (const tile of this.tiles.values()) {
      const own = pageBox(tile.level, tile.column, tile.row);
      const touched = boxes.filter((dirty) => boxesMeet(own, dirty));
      if (touched.length > 0) tile.dirty = tile.dirty.length > MOST_BOXES ? [own] : [...tile.dirty, ...touched];
    }
  }

  /** Marks every picture as one of the past, to be shown until the new one is there. */
  expire(): void {
    for (const tile of this.tiles.values()) tile.isStale = true;
  }

  clear(): void {
    this.tiles.clear();
  }

  /**
   * Draws the tiles that show `seen` (page px) under `map` (page px to device px) at `scale` device px per page px, and
   * asks for those that are missing or dirty unless the view rests: then the exact picture comes first.
   */
  draw(context: CanvasRenderingContext2D, map: Matrix, scale: number, seen: Box, isMoving: boolean): Drawn {
    const dirty: Box[] = [];
    const missing: Box[] = [];
    context.setTransform(...map);
    for (const tile of this.tilesIn(scale, seen)) {
      const { level, column, row, bitmap } = tile;
      const size = SIDE / 2 ** level;
      if (isMoving && (!bitmap || tile.isStale || tile.dirty.length > 0)) this.request(tile);
      if (bitmap) {
        const reach = size + (BLEED * size) / SIDE;
        context.drawImage(bitmap, column * size, row * size, reach, reach);
        dirty.push(...tile.dirty, ...(this.awaitedDirt.get(tile) ?? []));
      } else {
        const coarser = this.drawCoarser(context, level, column, row);
        if (coarser) dirty.push(...coarser);
        else missing.push(pageBox(level, column, row));
      }
    }
    return { dirty, missing };
  }

  /** Asks for the tiles that show `seen` and are missing or dirty, so that the next move finds them ready. */
  prepare(scale: number, seen: Box): void {
    for (const tile of this.tilesIn(scale, seen))
      if (!tile.bitmap || tile.isStale || tile.dirty.length > 0) this.request(tile);
  }

  private *tilesIn(scale: number, seen: Box): Generator<Tile> {
    const level = Math.min(LEVELS.most, Math.max(LEVELS.least, Math.ceil(Math.log2(scale) - 0.01)));
    const size = SIDE / 2 ** level;
    for (let row = Math.floor(seen.minY / size); row * size < seen.maxY; row++)
      for (let column = Math.floor(seen.minX / size); column * size < seen.maxX; column++)
        yield this.tile(level, column, row);
  }

  /** Draws a part of a coarser tile in place of one. Answers what edits have touched of it, nothing if there is none. */
  private drawCoarser(
    context: CanvasRenderingContext2D,
    level: number,
    column: number,
    row: number,
  ): readonly Box[] | undefined {
    const size = SIDE / 2 ** level;
    for (let up = 1; level - up >= LEVELS.least; up++) {
      const times = 2 ** up;
      const tile = this.tiles.get(key(level - up, Math.floor(column / times), Math.floor(row / times)));
      if (!tile?.bitmap) continue;
      const part = SIDE / times;
      const x = (column - Math.floor(column / times) * times) * part;
      const y = (row - Math.floor(row / times) * times) * part;
      context.drawImage(tile.bitmap, x, y, part, part, column * size, row * size, size, size);
      return tile.dirty;
    }
    return undefined;
  }

  private tile(level: number, column: number, row: number): Tile {
    const name = key(level, column, row);
    const known = this.tiles.get(name);
    if (known) return known;
    const tile: Tile = { level, column, row, bitmap: undefined, dirty: [], isStale: false, isAwaited: false };
    this.tiles.set(name, tile);
    return tile;
  }

  private request(tile: Tile): void {
    if (tile.isAwaited || this.awaited >= MOST_AWAITED) return;
    tile.isAwaited = true;
    this.awaitedDirt.set(tile, tile.dirty);
    tile.dirty = [];
    tile.isStale = false;
    this.awaited++;
    const scale = 2 ** tile.level;
    const map: Matrix = [scale, 0, 0, scale, -tile.column * SIDE, -tile.row * SIDE];
    void this.painter(map, SIDE + BLEED)
      .then((bitmap) => {
        if (bitmap && this.tiles.peek(key(tile.level, tile.column, tile.row)) === tile) {
          tile.bitmap?.close();
          tile.bitmap = bitmap;
        } else bitmap?.close();
      })
      .catch(() => {
        tile.dirty = [...tile.dirty, ...(this.awaitedDirt.get(tile) ?? [])];
      })
      .finally(() => {
        tile.isAwaited = false;
        this.awaitedDirt.delete(tile);
        this.awaited--;
        this.arrivals.tell();
      });
  }
}

const key = (level: number, column: number, row: number): string => `${level}/${column}/${row}`;

const pageBox = (level: number, column: number, row: number): Box =>
  mapBox(scaling(2 ** -level), box(column * SIDE, row * SIDE, (column + 1) * SIDE + BLEED, (row + 1) * SIDE + BLEED));
