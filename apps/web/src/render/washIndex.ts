import { boxArea, type Box } from '@true-nib/core/math';
import { tilePlaces, washTileId, type Edit, type TilePlace, type WashTileEntity } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';

interface Kept {
  readonly tile: WashTileEntity;
  /** What it held before: shown until the bytes of what it holds now are there. */
  readonly last: string | undefined;
}

/** Pixels that are lifted off their layer while they are shown elsewhere: `cover` says how much of each, where they lie, page px. */
export interface LiftedPixels {
  readonly layerId: EntityId;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly cover: ImageBitmap | OffscreenCanvas;
}

/** The wash tiles of a page and their pixels, as far as they are there. Kept up to date edit by edit. */
export class WashIndex {
  private readonly kept = new Map<EntityId, Kept>();
  private readonly layers = new Map<EntityId, Set<EntityId>>();
  private readonly bitmaps = new Map<string, ImageBitmap>();
  lifted: LiftedPixels | undefined;

  get isEmpty(): boolean {
    return this.kept.size === 0;
  }

  update(edits: readonly Edit[]): void {
    for (const { before, after } of edits) {
      if (after?.kind === 'wash') this.keep(after);
      else if (before?.kind === 'wash') this.drop(before);
    }
  }

  load(tiles: readonly WashTileEntity[]): void {
    this.kept.clear();
    this.layers.clear();
    for (const tile of tiles) this.keep(tile);
  }

  /** The tiles of a layer, in no order. */
  tilesOf(layerId: EntityId): WashTileEntity[] {
    return [...(this.layers.get(layerId) ?? [])].flatMap((id) => this.kept.get(id)?.tile ?? []);
  }

  tileAt(layerId: EntityId, place: TilePlace): WashTileEntity | undefined {
    return this.kept.get(washTileId(layerId, place))?.tile;
  }

  /** The pixels of a layer that may show in `box` (page px), with where they lie. */
  within(layerId: EntityId, box: Box): { readonly tile: TilePlace; readonly bitmap: ImageBitmap }[] {
    const own = this.layers.get(layerId);
    if (!own) return [];
    // A view of the whole desk has more places than the layer has tiles.
    const places = boxArea(box) > MANY_PX ? this.tilesOf(layerId) : tilePlaces([box]);
    return places.flatMap((place) => {
      const kept = this.kept.get(washTileId(layerId, place));
      const bitmap = kept && (this.bitmaps.get(kept.tile.blob) ?? this.bitmaps.get(kept.last ?? ''));
      return kept && bitmap ? [{ tile: kept.tile, bitmap }] : [];
    });
  }

  /** The bytes that tiles hold now. */
  *blobs(): Generator<string> {
    for (const { tile } of this.kept.values()) yield tile.blob;
  }

  hasBitmap(blob: string): boolean {
    return this.bitmaps.has(blob);
  }

  bitmap(blob: string): ImageBitmap | undefined {
    return this.bitmaps.get(blob);
  }

  addBitmap(blob: string, bitmap: ImageBitmap): void {
    this.bitmaps.get(blob)?.close();
    this.bitmaps.set(blob, bitmap);
  }

  dropBitmaps(blobs: readonly string[]): void {
    for (const blob of blobs) {
      this.bitmaps.get(blob)?.close();
      this.bitmaps.delete(blob);
    }
  }

  /** Pixels that no tile holds any more, oldest first; some are kept, since undo asks for them. */
  spare(): string[] {
    const used = new Set([...this.kept.values()].flatMap(({ tile, last }) => [tile.blob, last]));
    const unused = [...this.bitmaps.keys()].filter((blob) => !used.has(blob));
    return unused.slice(0, Math.max(0, unused.length - MOST_SPARE));
  }

  /** The tiles that hold these bytes. */
  tilesWith(blob: string): WashTileEntity[] {
    return [...this.kept.values()].flatMap(({ tile }) => (tile.blob === blob ? [tile] : []));
  }

  private keep(tile: WashTileEntity): void {
    const before = this.kept.get(tile.id);
    this.kept.set(tile.id, { tile, last: before?.tile.blob });
    const layer = this.layers.get(tile.layerId);
    if (layer) layer.add(tile.id);
    else this.layers.set(tile.layerId, new Set([tile.id]));
  }

  private drop({ id, layerId }: WashTileEntity): void {
    this.kept.delete(id);
    this.layers.get(layerId)?.delete(id);
  }
}

/** Page px in a box beyond which the tiles there are looked for rather than the places. */
const MANY_PX = 64e6;
/** Tiles' worth of pixels kept for undo: 256 kB each. */
const MOST_SPARE = 160;
