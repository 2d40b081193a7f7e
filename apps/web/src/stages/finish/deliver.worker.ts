import { PngWriter } from '@true-nib/core/formats';
import { scaling, then, type Matrix } from '@true-nib/core/math';
import type { Entity, PageSize, PictureEntity, SeenRoughs } from '@true-nib/core/page';
import { expose } from 'comlink';
import { InkDesk, unpackedList } from '../../render/inkDesk';
import { unpackTile } from '../../render/washCode';
import { pyramidOf, type PyramidLevel } from '../../render/picturePieces';
import { paintPage } from '../../render/pagePaint';
import { decodedAs } from '../../render/scanned';

const BAND = 512;

/** A picture of a rough that is delivered with the inks. */
export interface DeliveredPicture {
  readonly picture: PictureEntity;
  readonly source: Blob | ImageBitmap;
}

export interface PngOrder {
  readonly size: PageSize;
  /** The paper's colour; null leaves the ground transparent. */
  readonly paper: string | null;
  readonly entities: Uint8Array;
  /** 1, 0.5 or 0.25 of the page's px. */
  readonly scale: number;
  /** Black and white alone, one bit a px. */
  readonly isOneBit: boolean;
  readonly roughs: SeenRoughs;
  /** Every picture in them. */
  readonly pictures: readonly DeliveredPicture[];
  /** The bytes of wash tiles, by their SHA-256. */
  readonly washes: readonly (readonly [blob: string, bytes: ArrayBuffer])[];
}

/** Decoded pictures, by their ids. */
type Decoded = ReadonlyMap<string, readonly PyramidLevel[]>;

const service = {
  /** The page as PNG bytes, band by band; `progress` hears shares of 0..1 and answers false to stop. */
  async png(order: PngOrder, progress: (share: number) => boolean | Promise<boolean>): Promise<Blob | undefined> {
    const desk = new InkDesk(order.size, unpackedList<Entity>(order.entities));
    for (const [blob, bytes] of order.washes)
      desk.index.wash.addBitmap(blob, await createImageBitmap(await unpackTile(bytes)));
    const width = Math.max(1, Math.round(order.size.width * order.scale));
    const height = Math.max(1, Math.round(order.size.height * order.scale));
    const decoded: Decoded = new Map(await Promise.all(order.pictures.map(decode)));
    const writer = new PngWriter({
      width,
      height,
      ppi: order.size.ppi * order.scale,
      transparent: order.paper === null && !order.isOneBit,
      isOneBit: order.isOneBit,
    });
    const parts: Uint8Array<ArrayBuffer>[] = [];
    for (let top = 0; top < height; top += BAND) {
      if (!(await progress(top / height))) return undefined;
      const rows = Math.min(BAND, height - top);
      const map = then(scaling(order.scale), [1, 0, 0, 1, 0, -top]);
      parts.push(
        ...writer.add(band(desk, { ...order, decoded }, map, { width, rows })).map((bytes) => new Uint8Array(bytes)),
      );
    }
    parts.push(...writer.finish().map((bytes) => new Uint8Array(bytes)));
    return new Blob(parts, { type: 'image/png' });
  },
};

async function decode({ picture, source }: DeliveredPicture): Promise<readonly [string, readonly PyramidLevel[]]> {
  return [picture.id, await pyramidOf(await decodedAs(source, picture), picture.tint)];
}

function band(
  desk: InkDesk,
  { paper, roughs, decoded, isOneBit }: Pick<PngOrder, 'paper' | 'roughs' | 'isOneBit'> & { readonly decoded: Decoded },
  map: Matrix,
  { width, rows }: { readonly width: number; readonly rows: number },
): Uint8ClampedArray {
  const canvas = new OffscreenCanvas(width, rows);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser cannot paint off the screen.');
  const levelsOf = ({ id }: PictureEntity) => decoded.get(id);
  // One bit knows no paper but white.
  const ground = isOneBit ? '#ffffff' : paper;
  const whole = { minX: 0, minY: 0, maxX: width, maxY: rows };
  paintPage(context, { desk, paper: ground, roughs, levelsOf, isFine: isOneBit }, map, whole);
  return context.getImageData(0, 0, width, rows).data;
}

export type DeliverService = typeof service;

expose(service);
