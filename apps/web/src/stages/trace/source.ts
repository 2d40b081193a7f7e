import { apply, invert, type Matrix, type Point } from '@true-nib/core/math';
import {
  byOrder,
  find,
  mmToPx,
  ofKind,
  tileBox,
  type LayerEntity,
  type Page,
  type PictureEntity,
  type TraceSettings,
} from '@true-nib/core/page';
import { placementMatrix } from '@true-nib/core/tools';
import { decodable } from '../../render';
import { useDesk, type Board } from '../../board';
import { roughOf } from './roughOf';
import type { TraceChoice } from './traceStore';
import type { Tile } from './trace.worker';

/** What is traced: a rough, or the pixels of a Wash layer. `map` takes its px to the page. */
export type Source = { readonly map: Matrix; readonly name: string; readonly id: string } & (
  { readonly picture: PictureEntity } | { readonly wash: LayerEntity }
);

/** The source for what is in hand: the Wash layer, if that is one, or the rough. */
export function sourceInHand(board: Board): Source | undefined {
  const { page } = board.session;
  const { layerId, roughId } = useDesk.getState();
  const layer = layerId === undefined ? undefined : find(page, 'layer', layerId);
  if (layer?.medium === 'wash' && ofKind(page, 'wash').some((tile) => tile.layerId === layer.id))
    return washSource(layer);
  const picture = roughOf(page, roughId);
  return picture && pictureSource(page, picture);
}

/** The source that a tracing was taken from, by its id; nothing where it is gone. */
export function sourceById(page: Page, id: string): Source | undefined {
  const picture = find(page, 'picture', id);
  if (picture) return pictureSource(page, picture);
  const layer = find(page, 'layer', id);
  return layer?.medium === 'wash' ? washSource(layer) : undefined;
}

const washSource = (wash: LayerEntity): Source => ({ wash, id: wash.id, name: wash.name, map: [1, 0, 0, 1, 0, 0] });

function pictureSource(page: Page, picture: PictureEntity): Source {
  const name = find(page, 'layer', picture.layerId)?.name ?? 'the rough';
  return { picture, id: picture.id, name, map: placementMatrix(picture.placement, picture) };
}

/** A word for its pixels as they are now: the same as long as they are. */
export function sourceWord(page: Page, source: Source): string {
  if ('picture' in source) {
    const { blob, width, height, scan } = source.picture;
    return JSON.stringify([blob, width, height, scan]);
  }
  return tilesOf(page, source.wash.id)
    .map(({ blob }) => blob)
    .join();
}

const tilesOf = (page: Page, layerId: string) =>
  ofKind(page, 'wash')
    .filter((tile) => tile.layerId === layerId)
    .sort(byOrder);

/** The bytes of a rough, decodable by a worker. */
export const bytesOf = async (board: Board, picture: PictureEntity): Promise<Blob | ImageBitmap> =>
  decodable(await board.session.blob(picture.blob));

/** The tiles of a Wash layer with their bytes. */
export function washTiles({ session }: Board, layer: LayerEntity): Promise<Tile[]> {
  return Promise.all(
    tilesOf(session.page, layer.id).map(async (tile) => {
      const { minX, minY } = tileBox(tile);
      return { x: minX, y: minY, bytes: await (await session.blob(tile.blob)).arrayBuffer() };
    }),
  );
}

/** Settings in px of a picture that comes so large onto the page. */
export function settingsFor({ size }: Page, choice: TraceChoice, scale: number): TraceSettings {
  const px = (mm: number) => mmToPx(mm, size.ppi) / scale;
  return {
    darkness: choice.darkness / 100,
    smallMarks: px(choice.smallMarks),
    corners: (choice.corners * Math.PI) / 180,
    smoothness: choice.smoothness / 10,
    blackFrom: px(choice.blackFrom),
  };
}

/** A loop of the page in px of the picture. */
export const onSource = (map: Matrix, loop: readonly Point[]): Point[] => loop.map((at) => apply(invert(map), at));
