import { sameValue } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { apply, identity, invert, type Matrix, type Point } from '@true-nib/core/math';
import {
  find,
  mmToPx,
  ofKind,
  tileBox,
  type Page,
  type TracedPixels,
  type TraceRecord,
  type TraceSettings,
} from '@true-nib/core/page';
import { placementMatrix } from '@true-nib/core/tools';
import { pixelsNow } from '@true-nib/core/trace';
import { decodable } from '../../render';
import { useDesk, type Board } from '../../board';
import { roughOf } from './roughOf';
import type { TraceChoice } from './traceStore';
import type { Tile } from './trace.worker';

/** What is traced: the pixels of a rough or of a Wash layer, under its id. `map` takes its px to the page. */
export interface Source {
  readonly id: EntityId;
  readonly name: string;
  readonly map: Matrix;
  readonly pixels: TracedPixels;
}

/** The source for what is in hand: the Wash layer, if that is one with pixels, or the rough. */
export function sourceInHand({ session: { page } }: Board): Source | undefined {
  const { layerId, roughId } = useDesk.getState();
  const layer = layerId === undefined ? undefined : find(page, 'layer', layerId);
  if (layer?.medium === 'wash' && tilesOf(page, layer.id).length > 0)
    return sourceOf(page, layer.id, layer.name, identity);
  const picture = roughOf(page, roughId);
  const name = picture && find(page, 'layer', picture.layerId)?.name;
  return picture && sourceOf(page, picture.id, name ?? 'Rough', placementMatrix(picture.placement, picture));
}

function sourceOf(page: Page, id: EntityId, name: string, map: Matrix): Source | undefined {
  const pixels = pixelsNow(page, id);
  return pixels && { id, name, map, pixels };
}

/**
 * Whether the pixels that a layer was traced from can be had again, as they were then. A picture is never changed, so a rough
 * may be lit anew or be gone; the pixels of a Wash layer are those of now alone.
 */
export const isThere = (page: Page, { from, pixels }: TraceRecord): boolean =>
  pixels.as === 'picture' || sameValue(pixelsNow(page, from), pixels);

const tilesOf = (page: Page, layerId: EntityId) => ofKind(page, 'wash').filter((tile) => tile.layerId === layerId);

/** The bytes of a rough, decodable by a worker. */
export const bytesOf = async ({ session }: Board, blob: string): Promise<Blob | ImageBitmap> =>
  decodable(await session.blob(blob));

/** The tiles of a Wash layer with their bytes. */
export function washTiles({ session }: Board, layerId: EntityId): Promise<Tile[]> {
  return Promise.all(
    tilesOf(session.page, layerId).map(async (tile) => {
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
