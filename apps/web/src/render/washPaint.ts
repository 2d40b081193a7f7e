import { apply, type Box, type Matrix } from '@true-nib/core/math';
import { tileBox, WASH_SIDE, type TilePlace } from '@true-nib/core/page';
import type { Context2D } from './inkPaint';

/** Device px per page px from which the page's own px are to be told apart. */
export const PLAIN_SCALE = 4;
/** Page px a side up to which tiles are put together before they are turned. */
const MOST_GROUND = 4096;

interface ShownTile {
  readonly tile: TilePlace;
  readonly bitmap: ImageBitmap;
}

/** Paints wash tiles under a map from page px to device px, without seams between them. */
export function paintTiles(context: Context2D, tiles: readonly ShownTile[], map: Matrix): void {
  if (tiles.length === 0) return;
  const scale = Math.hypot(map[0], map[1]);
  context.imageSmoothingEnabled = scale < PLAIN_SCALE;
  context.imageSmoothingQuality = 'high';
  if (map[1] === 0 && map[2] === 0 && map[0] > 0 && map[3] > 0) paintUpright(context, tiles, map);
  else paintTurned(context, tiles, map);
  context.imageSmoothingEnabled = true;
}

/** Neighbours end and begin on the same whole device px. */
function paintUpright(context: Context2D, tiles: readonly ShownTile[], map: Matrix): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  for (const { tile, bitmap } of tiles) {
    const { minX, minY, maxX, maxY } = tileBox(tile);
    const from = apply(map, { x: minX, y: minY });
    const to = apply(map, { x: maxX, y: maxY });
    const [left, top] = [Math.round(from.x), Math.round(from.y)];
    context.drawImage(bitmap, left, top, Math.round(to.x) - left, Math.round(to.y) - top);
  }
}

/** Turned edges would let the ground show between tiles: they are put together first. */
function paintTurned(context: Context2D, tiles: readonly ShownTile[], map: Matrix): void {
  for (const part of grounds(tiles)) {
    const width = part.maxX - part.minX;
    const ground = new OffscreenCanvas(width, part.maxY - part.minY);
    const target = ground.getContext('2d');
    if (!target) throw new Error('This browser cannot paint off the screen.');
    for (const { tile, bitmap } of tiles) {
      const { minX, minY } = tileBox(tile);
      target.drawImage(bitmap, minX - part.minX, minY - part.minY);
    }
    context.setTransform(...map);
    context.drawImage(ground, part.minX, part.minY);
  }
}

/** Boxes of whole tiles, none larger than a canvas may be, that together hold all tiles; page px. */
function grounds(tiles: readonly ShownTile[]): Box[] {
  const each = MOST_GROUND / WASH_SIDE;
  const parts = new Map<string, Box>();
  for (const { tile } of tiles) {
    const key = `${Math.floor(tile.column / each)}/${Math.floor(tile.row / each)}`;
    const own = tileBox(tile);
    const other = parts.get(key) ?? own;
    parts.set(key, {
      minX: Math.min(own.minX, other.minX),
      minY: Math.min(own.minY, other.minY),
      maxX: Math.max(own.maxX, other.maxX),
      maxY: Math.max(own.maxY, other.maxY),
    });
  }
  return [...parts.values()];
}
