import { box, type Box } from '../math';
import { draftChange, type Change, type Edit } from './change';
import type { EntityId } from '../kind';
import type { LayerEntity } from './kinds/layer';
import { WASH_SIDE, washTile, washTileId, type TilePlace, type WashTileEntity } from './kinds/wash';
import { find, ofKind, type Page } from './page';
import { freeLayerName, nodeOf, placedAbove } from './stack';
import { PageError } from '../gate';

/** What a tile is to hold: bytes by their SHA-256, or nothing. */
export interface TileContent extends TilePlace {
  readonly blob?: string;
}

/** The page px that a tile holds. */
export const tileBox = ({ column, row }: TilePlace): Box =>
  box(column * WASH_SIDE, row * WASH_SIDE, (column + 1) * WASH_SIDE, (row + 1) * WASH_SIDE);

/** The places of all tiles that hold any part of the boxes, each once; boxes in page px. */
export function tilePlaces(boxes: Iterable<Box>): TilePlace[] {
  const places = new Map<string, TilePlace>();
  for (const { minX, minY, maxX, maxY } of boxes)
    for (let row = Math.floor(minY / WASH_SIDE); row * WASH_SIDE < maxY; row++)
      for (let column = Math.floor(minX / WASH_SIDE); column * WASH_SIDE < maxX; column++)
        places.set(`${column}~${row}`, { column, row });
  return [...places.values()];
}

export const washTilesOf = (page: Page, layerId: EntityId): WashTileEntity[] =>
  ofKind(page, 'wash').filter((tile) => tile.layerId === layerId);

/** The edits that give tiles of a layer other contents. */
export function washEdits(page: Page, layerId: EntityId, contents: readonly TileContent[]): Edit[] {
  return contents.flatMap(({ column, row, blob }) => {
    const before = find(page, 'wash', washTileId(layerId, { column, row })) ?? null;
    if (before?.blob === blob) return [];
    return [{ before, after: blob === undefined ? null : washTile(layerId, column, row, blob) }];
  });
}

/** Gives tiles of a layer other contents, under a label for the history. */
export const changeWash = (page: Page, layer: LayerEntity, label: string, contents: readonly TileContent[]): Change =>
  draftChange(label, washEdits(page, layer.id, contents), [layer.id]);

/**
 * The pixels of an Ink layer as a Wash above it; the lines themselves stay, hidden. `tiles` are what it shows, painted without its
 * fade. Throws a PageError for a layer that is not there, holds no lines or is locked.
 */
export function inkToWash(page: Page, layerId: EntityId, washId: EntityId, tiles: readonly TileContent[]): Change {
  const node = nodeOf(page, layerId);
  if (node?.layer.medium !== 'ink') throw new PageError('Take an Ink layer in hand: its lines become pixels.');
  const { layer } = node;
  if (node.isLocked) throw new PageError(`${layer.name} is locked.`);
  const { style: _style, standIn: _standIn, ...rest } = layer;
  const name = freeLayerName(page, `${layer.name} as pixels`);
  const wash = placedAbove(page, { ...rest, id: washId, medium: 'wash', name, hidden: false }, layerId);
  const edits = [
    { before: null, after: wash },
    { before: layer, after: { ...layer, hidden: true } },
  ];
  return draftChange('Ink to pixels', [...edits, ...washEdits(page, washId, tiles)]);
}
