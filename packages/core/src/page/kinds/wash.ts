import { ENTITY_LIMITS, fingerprint, id, number, PageError, type Fields } from '../../gate';
import type { EntityId, Kind, LaidBase } from '../../kind';

/** Page px on a side of a wash tile. */
export const WASH_SIDE = 256;
/** Bytes of a tile's pixels: RGBA, 8 bits each. */
export const WASH_BYTES = WASH_SIDE * WASH_SIDE * 4;
/** The MIME type of a tile's bytes (RFC 6713): a zlib stream. */
export const WASH_TYPE = 'application/zlib';

/** Where a tile of a wash layer lies, in whole tiles from the page's corner. */
export interface TilePlace {
  readonly column: number;
  readonly row: number;
}

/**
 * A square of a wash layer's pixels (see `wash.ts`): there is one id for each layer, column and row, and a square in which
 * nothing lies has no entity.
 */
export interface WashTileEntity extends LaidBase {
  readonly kind: 'wash';
  readonly column: number;
  readonly row: number;
  /** The SHA-256 of its bytes, in hex: RGBA, not premultiplied, as a zlib stream (RFC 1950). */
  readonly blob: string;
}

export const washTileId = (layerId: EntityId, { column, row }: TilePlace): EntityId => `${layerId}~${column}~${row}`;

/** A tile; all tiles of a layer have the same order, since none lies over another. */
export const washTile = (layerId: EntityId, column: number, row: number, blob: string): WashTileEntity => ({
  kind: 'wash',
  id: washTileId(layerId, { column, row }),
  layerId,
  order: 'a0',
  column,
  row,
  blob,
});

/** What a tile of a wash is: its pixels are a blob, and its id says where it lies. */
export const washKind: Kind<WashTileEntity> = {
  isMany: true,
  check: checkWashTile,
  refs: ({ layerId, blob }) => ({ needs: [layerId], blobs: [{ sha256: blob, as: 'pixels' }] }),
  remap: ({ layerId, column, row, blob }, _copyId, renamed) => washTile(renamed(layerId), column, row, blob),
};

function checkWashTile(fields: Fields): WashTileEntity {
  const most = Math.ceil(ENTITY_LIMITS.coordinate / WASH_SIDE);
  const place = (name: 'column' | 'row') => {
    const value = number(fields[name], name, -most, most);
    if (!Number.isInteger(value)) throw new PageError(`"${name}" of a wash tile needs a whole number; ${value} came.`);
    return value;
  };
  const tile = washTile(id(fields.layerId, 'layerId'), place('column'), place('row'), fingerprint(fields.blob));
  if (fields.id !== tile.id) throw new PageError(`A wash tile's id says where it lies: "${tile.id}" is this one's.`);
  return tile;
}
