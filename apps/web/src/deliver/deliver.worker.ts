// A worker has no way to fetch parts of the app: what the core fetches when it is needed is here from the beginning.
import '@cantoo/pdf-lib';
import {
  bilevel,
  ORA_THUMBNAIL,
  pageToOra,
  pageToSvg,
  pageWalk,
  PdfWriter,
  PngWriter,
  ZipWriter,
  type BitSheet,
  type PdfOptions,
  type Pixels,
} from '@true-nib/core/formats';
import { chain, scaling, translation } from '@true-nib/core/math';
import {
  EntityMap,
  newPage,
  ofKind,
  paperOf,
  roughsOf,
  type Entity,
  type Page,
  type PageSize,
  type PictureEntity,
  type SeenRoughs,
} from '@true-nib/core/page';
import { expose } from 'comlink';
import { InkDesk, unpackedList } from '../render/inkDesk';
import { paintPage } from '../render/pagePaint';
import { pyramidOf, type PyramidLevel } from '../render/picturePieces';
import { decodedAs } from '../render/scanned';
import { unpackTile } from '../render/washCode';

const BAND = 512;

/** A picture of a rough that is delivered with the inks. */
export interface DeliveredPicture {
  readonly picture: PictureEntity;
  readonly source: Blob | ImageBitmap;
}

/** A page as it is handed over: whatever it refers to goes along. */
export interface PageOrder {
  readonly title: string;
  readonly size: PageSize;
  /** All that lies on it, but for pen samples. */
  readonly entities: Uint8Array;
  /** Every picture of a rough that is seen. */
  readonly pictures: readonly DeliveredPicture[];
  /** The bytes of wash tiles, by their SHA-256. */
  readonly washes: readonly (readonly [blob: string, bytes: ArrayBuffer])[];
}

/** How a picture of a page is painted. */
export interface PictureOrder {
  readonly width: number;
  readonly height: number;
  /** Rows of it that are wanted; all of them where nothing is said. */
  readonly rows?: { readonly top: number; readonly bottom: number };
  readonly ppi: number;
  readonly isOneBit: boolean;
  readonly withRough: boolean;
  readonly onPaper: boolean;
}

/** Hears shares of 0..1 and answers false to stop. */
type Progress = (share: number) => boolean | Promise<boolean>;

/** A page that stands ready to be painted. */
interface Laid {
  readonly title: string;
  readonly page: Page;
  readonly desk: InkDesk;
  readonly levels: ReadonlyMap<string, readonly PyramidLevel[]>;
  readonly washes: ReadonlyMap<string, Pixels>;
  /** In black and white, as it was last asked for. */
  bits?: { readonly scale: number; readonly sheet: BitSheet };
}

let laid: Laid | undefined;
let pdf: PdfWriter | undefined;
let zip: { readonly writer: ZipWriter; readonly parts: Uint8Array<ArrayBuffer>[] } | undefined;

function atHand(): Laid {
  if (!laid) throw new Error('There is no page to deliver.');
  return laid;
}

const service = {
  /** Takes a page up; what is asked for is made of it from now on. */
  async take(order: PageOrder): Promise<void> {
    laid = await laidOut(order);
  },

  /** The page, or some rows of it, as PNG, band by band. Nothing where it was stopped. */
  async png(order: PictureOrder, progress: Progress): Promise<Blob | undefined> {
    const parts = order.isOneBit
      ? await bitParts(atHand(), order, progress)
      : await paintedParts(atHand(), order, progress);
    return parts && new Blob(parts, { type: 'image/png' });
  },

  /** The page as SVG, sized in mm; roughs are embedded when asked for. */
  async svg(withRough: boolean, onPaper: boolean): Promise<Blob> {
    const { page, title, levels } = atHand();
    const addresses = new Map<string, string>();
    for (const [blob, pixels] of atHand().washes)
      addresses.set(blob, await dataAddress(await canvasOf(pixels).convertToBlob({ type: 'image/png' })));
    if (withRough)
      for (const picture of picturesIn(roughsOf(page))) {
        const [level] = levels.get(picture.id) ?? [];
        if (level) addresses.set(picture.id, await dataAddress(await pictureFile(level, 'image/png')));
      }
    const svg = pageToSvg(untinted(page), {
      ...{ title, paper: onPaper },
      washAddress: (blob) => addresses.get(blob),
      ...(withRough && { pictureAddress: ({ id }: PictureEntity) => addresses.get(id) }),
    });
    return new Blob([svg], { type: 'image/svg+xml' });
  },

  /** The page as OpenRaster. Nothing where it was stopped. */
  async ora(onPaper: boolean, withRough: boolean, progress: Progress): Promise<Blob | undefined> {
    const own = atHand();
    const { page } = own;
    const walk = pageWalk(page, { withRough, paper: onPaper });
    const { width, height, ppi } = page.size;
    const order = { width, height, ppi, isOneBit: false, withRough, onPaper };
    const count = ofKind(page, 'layer').length + 1;
    let [done, isStopped] = [0, false];
    const painted = async (of: Laid, how: PictureOrder): Promise<Uint8Array<ArrayBuffer>> => {
      const at = done++;
      const parts = await paintedParts(
        of,
        how,
        async (share) => !(isStopped ||= !(await progress((at + share) / count))),
      );
      return new Uint8Array(parts ? await new Blob(parts).arrayBuffer() : new ArrayBuffer(0));
    };
    const small = Math.min(1, ORA_THUMBNAIL / Math.max(width, height));
    const files = pageToOra(walk, {
      layer: async (layerId) => {
        const alone = aloneOn(own, layerId);
        return alone && painted(alone, { ...order, onPaper: false });
      },
      merged: () => painted(own, order),
      thumbnail: () =>
        painted(own, {
          ...order,
          width: Math.max(1, Math.round(width * small)),
          height: Math.max(1, Math.round(height * small)),
        }),
    });
    const parts: Uint8Array<ArrayBuffer>[] = [];
    for await (const bytes of files) {
      if (isStopped) return undefined;
      parts.push(new Uint8Array(bytes));
    }
    return isStopped ? undefined : new Blob(parts, { type: 'image/openraster' });
  },

  /** Adds pages to the PDF that is under way: those of one sheet at a time. */
  async addToPdf(orders: readonly PageOrder[], title: string, options: PdfOptions): Promise<void> {
    pdf ??= await PdfWriter.named(title);
    const sheets = await Promise.all(orders.map(laidOut));
    await pdf.add(
      sheets.map(({ page }) => page),
      options,
      {
        wash: async (blob) => sheets.map(({ washes }) => washes.get(blob)).find((pixels) => pixels !== undefined),
        picture: async (picture) => {
          const [level] = sheets.map(({ levels }) => levels.get(picture.id)).find((own) => own !== undefined) ?? [];
          return level && new Uint8Array(await (await pictureFile(level, 'image/jpeg')).arrayBuffer());
        },
      },
    );
  },

  async endPdf(): Promise<Blob> {
    const bytes = await pdf?.finish();
    pdf = undefined;
    return new Blob(bytes ? [new Uint8Array(bytes)] : [], { type: 'application/pdf' });
  },

  /** Adds a file to the ZIP that is under way. */
  async addToZip(name: string, file: Blob): Promise<void> {
    zip ??= { writer: new ZipWriter(), parts: [] };
    const bytes = zip.writer.add(name, new Uint8Array(await file.arrayBuffer()), { stored: true });
    zip.parts.push(...bytes.map((part) => new Uint8Array(part)));
  },

  endZip(): Promise<Blob> {
    const parts = zip ? [...zip.parts, ...zip.writer.finish().map((part) => new Uint8Array(part))] : [];
    zip = undefined;
    return Promise.resolve(new Blob(parts, { type: 'application/zip' }));
  },
};

async function laidOut({ title, size, entities, pictures, washes }: PageOrder): Promise<Laid> {
  const list = unpackedList<Entity>(entities);
  const desk = new InkDesk(size, list);
  const pixels = new Map<string, Pixels>();
  for (const [blob, bytes] of washes) {
    const { width, height, data } = await unpackTile(bytes);
    pixels.set(blob, { width, height, rgba: data });
    desk.index.wash.addBitmap(blob, await createImageBitmap(new ImageData(data, width, height)));
  }
  const page = { ...newPage(size), entities: EntityMap.of(list) };
  return { title, page, desk, levels: new Map(await Promise.all(pictures.map(decode))), washes: pixels };
}

async function decode({ picture, source }: DeliveredPicture): Promise<readonly [string, readonly PyramidLevel[]]> {
  return [picture.id, await pyramidOf(await decodedAs(source, picture), picture.tint)];
}

async function paintedParts(
  { page, desk, levels }: Laid,
  { width, height, rows, ppi, withRough, onPaper }: PictureOrder,
  progress: Progress,
): Promise<Uint8Array<ArrayBuffer>[] | undefined> {
  const { top, bottom } = rows ?? { top: 0, bottom: height };
  const ground = onPaper ? paperOf(page) : null;
  const writer = new PngWriter({ width, height: bottom - top, ppi, transparent: ground === null });
  const roughs: SeenRoughs = withRough ? roughsOf(page) : { under: [], over: [] };
  const parts: Uint8Array<ArrayBuffer>[] = [];
  for (let from = top; from < bottom; from += BAND) {
    if (!(await progress((from - top) / (bottom - top)))) return undefined;
    const count = Math.min(BAND, bottom - from);
    const canvas = new OffscreenCanvas(width, count);
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error('This browser cannot paint off the screen.');
    const map = chain(scaling(width / page.size.width), translation(0, -from));
    const levelsOf = ({ id }: PictureEntity) => levels.get(id);
    paintPage(context, { desk, paper: ground, roughs, levelsOf }, map, { minX: 0, minY: 0, maxX: width, maxY: count });
    parts.push(...writer.add(context.getImageData(0, 0, width, count).data).map((bytes) => new Uint8Array(bytes)));
  }
  parts.push(...writer.finish().map((bytes) => new Uint8Array(bytes)));
  return parts;
}

/** The page in black and white, worked out from its geometry. */
async function bitParts(
  own: Laid,
  { width, height, rows, ppi }: PictureOrder,
  progress: Progress,
): Promise<Uint8Array<ArrayBuffer>[] | undefined> {
  const scale = width / own.page.size.width;
  if (!(await progress(0))) return undefined;
  if (own.bits?.scale !== scale) {
    const sheet = bilevel(own.page, { scale, wash: (blob) => own.washes.get(blob) });
    if (!sheet) return undefined;
    own.bits = { scale, sheet };
  }
  const { sheet } = own.bits;
  const { top, bottom } = rows ?? { top: 0, bottom: Math.min(height, sheet.height) };
  if (!(await progress(0.8))) return undefined;
  const writer = new PngWriter({ width: sheet.width, height: bottom - top, ppi, isOneBit: true });
  return [...writer.addBits(sheet.bits.subarray(top * sheet.stride, bottom * sheet.stride)), ...writer.finish()].map(
    (bytes) => new Uint8Array(bytes),
  );
}

/** What lies on one layer as if there were no other, at its full strength; nothing for one that is bare. */
function aloneOn(own: Laid, layerId: string): Laid | undefined {
  const { page } = own;
  const entities = [...page.entities].flatMap((entity): Entity[] => {
    if (entity.kind === 'layer') {
      if (entity.id !== layerId) return entity.medium === 'group' ? [{ ...entity, opacity: 1 }] : [];
      return [{ ...entity, opacity: 1 }];
    }
    // Panels clip what lies on any layer.
    return !('layerId' in entity) || entity.layerId === layerId || entity.kind === 'panel' ? [entity] : [];
  });
  if (!entities.some((entity) => 'layerId' in entity && entity.layerId === layerId)) return undefined;
  const desk = new InkDesk(page.size, entities);
  for (const [blob, pixels] of own.washes) desk.index.wash.addBitmap(blob, canvasOf(pixels).transferToImageBitmap());
  return { ...own, desk, page: { ...page, entities: EntityMap.of(entities) } };
}

function canvasOf({ width, height, rgba }: Pixels): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(rgba), width, height), 0, 0);
  return canvas;
}

const picturesIn = ({ under, over }: SeenRoughs): PictureEntity[] =>
  [...under, ...over].flatMap(({ pictures }) => pictures);

/** Pictures are handed on in their tint: files need not know it. */
const untinted = (page: Page): Page => ({
  ...page,
  entities: EntityMap.of(
    [...page.entities].map((entity) => (entity.kind === 'picture' ? { ...entity, tint: 'none' as const } : entity)),
  ),
});

/** A picture at its own size as a file. */
async function pictureFile({ pieces }: PyramidLevel, type: string): Promise<Blob> {
  const across = Math.max(...pieces.map((piece) => piece.x + piece.width));
  const down = Math.max(...pieces.map((piece) => piece.y + piece.height));
  // A canvas takes so many px and no more; what has more loses nothing that a print shows.
  const share = Math.min(1, MOST_SIDE / Math.max(across, down), Math.sqrt(MOST_AREA / (across * down)));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(across * share)), Math.max(1, Math.round(down * share)));
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  if (type === 'image/jpeg') {
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, canvas.width, canvas.height);
  }
  context.scale(share, share);
  for (const piece of pieces) context.drawImage(piece.bitmap, piece.x, piece.y, piece.width, piece.height);
  return canvas.convertToBlob({ type, quality: 0.92 });
}

const MOST_SIDE = 4_096;
const MOST_AREA = 16e6;

const dataAddress = (bytes: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('A picture could not be read.'));
    reader.readAsDataURL(bytes);
  });

export type DeliverService = typeof service;

expose(service);
