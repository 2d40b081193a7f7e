import { box, boxesMeet, mapBox, scaling, type Box, type Matrix } from '@true-nib/core/math';

const SIDE = 256;
/** Neighbouring tiles share a px, or turned pages would show their seams. */
const BLEED = 1;
const MOST = 320;
const LEVELS = { least: -6, most: 3 } as const;

interface Tile {
  readonly level: number;
  readonly column: number;
  readonly row: number;
  bitmap: ImageBitmap | undefined;
  isStale: boolean;
  isAwaited: boolean;
}

/** Paints a part of the inks: the map takes page px to the px of a square of `side`. */
export type TilePainter = (map: Matrix, side: number) => Promise<ImageBitmap | undefined>;

/**
 * The inks as square pictures, one set for each power of two of the scale. Old tiles are shown until new ones are there,
 * coarser ones where finer ones are missing, so nothing blinks.
 */
export class Tiles {
  private readonly tiles = new Map<string, Tile>();
  private readonly arrivals = new Set<() => void>();
  private awaited = 0;

  constructor(private readonly painter: TilePainter) {}

  /** Calls back whenever a tile has arrived. Answers how to stop. */
  onArrival(listener: () => void): () => void {
    this.arrivals.add(listener);
    return () => this.arrivals.delete(listener);
  }

  /** Marks what an edit touched, page px. The pictures stay until they are painted anew. */
  touch(boxes: readonly Box[]): void {
    for (const tile of this.tiles.values()) {
      const own = pageBox(tile.level, tile.column, tile.row);
      if (boxes.some((dirty) => boxesMeet(own, dirty))) tile.isStale = true;
    }
  }

  clear(): void {
    for (const tile of this.tiles.values()) tile.bitmap?.close();
    this.tiles.clear();
  }

  /**
   * Draws the tiles that show `seen` (page px) under `map` (page px to device px) at `scale` device px per page px, and
   * asks for those that are missing or stale. Answers how many are.
   */
  draw(context: CanvasRenderingContext2D, map: Matrix, scale: number, seen: Box): number {
    const level = Math.min(LEVELS.most, Math.max(LEVELS.least, Math.ceil(Math.log2(scale) - 0.01)));
    const size = SIDE / 2 ** level;
    let missing = 0;
    context.setTransform(...map);
    for (let row = Math.floor(seen.minY / size); row * size < seen.maxY; row++)
      for (let column = Math.floor(seen.minX / size); column * size < seen.maxX; column++) {
        const tile = this.tile(level, column, row);
        if (!tile.bitmap || tile.isStale) {
          missing++;
          this.request(tile);
        }
        if (tile.bitmap) context.drawImage(tile.bitmap, column * size, row * size, size + (BLEED * size) / SIDE, size + (BLEED * size) / SIDE);
        else this.drawCoarser(context, level, column, row);
      }
    this.evict();
    return missing;
  }

  private drawCoarser(context: CanvasRenderingContext2D, level: number, column: number, row: number): void {
    const size = SIDE / 2 ** level;
    for (let up = 1; level - up >= LEVELS.least; up++) {
      const times = 2 ** up;
      const tile = this.tiles.get(key(level - up, Math.floor(column / times), Math.floor(row / times)));
      if (!tile?.bitmap) continue;
      const part = SIDE / times;
      const x = (column - Math.floor(column / times) * times) * part;
      const y = (row - Math.floor(row / times) * times) * part;
      context.drawImage(tile.bitmap, x, y, part, part, column * size, row * size, size, size);
      return;
    }
  }

  private tile(level: number, column: number, row: number): Tile {
    const name = key(level, column, row);
    let tile = this.tiles.get(name);
    if (tile) this.tiles.delete(name);
    else tile = { level, column, row, bitmap: undefined, isStale: false, isAwaited: false };
    // Newest last: the map's own order is the order of use.
    this.tiles.set(name, tile);
    return tile;
  }

  private request(tile: Tile): void {
    if (tile.isAwaited || this.awaited > 48) return;
    tile.isAwaited = true;
    tile.isStale = false;
    this.awaited++;
    const scale = 2 ** tile.level;
    const map: Matrix = [scale, 0, 0, scale, -tile.column * SIDE, -tile.row * SIDE];
    void this.painter(map, SIDE + BLEED)
      .then((bitmap) => {
        if (bitmap && this.tiles.get(key(tile.level, tile.column, tile.row)) === tile) {
          tile.bitmap?.close();
          tile.bitmap = bitmap;
        } else bitmap?.close();
      })
      .catch(() => (tile.isStale = true))
      .finally(() => {
        tile.isAwaited = false;
        this.awaited--;
        this.arrivals.forEach((listener) => listener());
      });
  }

  private evict(): void {
    for (const [name, tile] of this.tiles) {
      if (this.tiles.size <= MOST) return;
      tile.bitmap?.close();
      this.tiles.delete(name);
    }
  }
}

const key = (level: number, column: number, row: number): string => `${level}/${column}/${row}`;

const pageBox = (level: number, column: number, row: number): Box =>
  mapBox(scaling(2 ** -level), box(column * SIDE, row * SIDE, (column + 1) * SIDE + BLEED, (row + 1) * SIDE + BLEED));
