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
import { ground } from '../render/ground';
import { InkDesk, unpackedList } from '../render/inkDesk';
import { paintPage } from '../render/pagePaint';
import { pyramidOf, type PyramidLevel } from '../render/picturePieces';
import { decodedAs } from '../render/scanned';
import { smallSize } from '../render/view';
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

/** The inks of a page on white. */
export interface SmallPicture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** Hears how much is made, 0..1. Whoever wants no more of it ends the worker. */
type Tell = (share: number) => void;

/** A page that stands ready to be painted. */
interface Laid {
  readonly title: string;
  readonly page: Page;
  readonly desk: InkDesk;
  readonly pictures: readonly DeliveredPicture[];
  readonly levels: ReadonlyMap<string, readonly PyramidLevel[]>;
  readonly washes: ReadonlyMap<string, Pixels>;
  /** In black and white, as it was last asked for. */
  bits?: { readonly scale: number; readonly sheet: BitSheet };
}

let laid: Laid | undefined;
let pdf: PdfWriter | undefined;
/** Parts are blobs, which a browser can put on the disk. */
let zip: { readonly writer: ZipWriter; readonly parts: Blob[] } | undefined;

function atHand(): Laid {
  if (!laid) throw new Error('There is no page to deliver.');
  return laid;
}

const service = {
  /** Takes a page up; what is asked for is made of it from now on. */
  async take(order: PageOrder): Promise<void> {
    laid = await laidOut(order);
  },

  /** The page, or some rows of it, as PNG, band by band. */
  png(order: PictureOrder, tell: Tell): Blob {
    const parts = order.isOneBit ? bitParts(atHand(), order, tell) : paintedParts(atHand(), order, tell);
    return new Blob(parts, { type: 'image/png' });
  },

  /** The inks on white, as large as fits. */
  small(side: number): SmallPicture {
    const { page, desk } = atHand();
    const { scale, width, height } = smallSize(page.size, side);
    const context = ground(width, height);
    const roughs: SeenRoughs = { under: [], over: [] };
    const box = { minX: 0, minY: 0, maxX: width, maxY: height };
    paintPage(context, { desk, paper: '#ffffff', roughs, levelsOf: () => undefined }, scaling(scale), box);
    return { width, height, rgba: context.getImageData(0, 0, width, height).data };
  },

  /** The page as SVG, sized in mm; roughs are embedded when asked for. */
  async svg(withRough: boolean, onPaper: boolean): Promise<Blob> {
    const { page, title, pictures, washes } = atHand();
    const addresses = new Map<string, string>();
    for (const [blob, pixels] of washes)
      addresses.set(blob, await dataAddress(await canvasOf(pixels).convertToBlob({ type: 'image/png' })));
    for (const { picture, source } of pictures)
      addresses.set(picture.id, await dataAddress(await seen(source, picture)));
    const svg = pageToSvg(page, {
      ...{ title, paper: onPaper },
      washAddress: (blob) => addresses.get(blob),
      ...(withRough && { pictureAddress: ({ id }: PictureEntity) => addresses.get(id) }),
    });
    return new Blob([svg], { type: 'image/svg+xml' });
  },

  /** The page as OpenRaster. */
  async ora(onPaper: boolean, withRough: boolean, tell: Tell): Promise<Blob> {
    const own = atHand();
    const { page } = own;
    const { width, height, ppi } = page.size;
    const order = { width, height, ppi, isOneBit: false, withRough, onPaper };
    const count = ofKind(page, 'layer').length + 1;
    let done = 0;
    const painted = async (of: Laid, how: PictureOrder): Promise<Uint8Array> => {
      const at = done++;
      const parts = paintedParts(of, how, (share) => tell((at + share) / count));
      return new Uint8Array(await new Blob(parts).arrayBuffer());
    };
    const files = pageToOra(pageWalk(page, { withRough, paper: onPaper }), {
      layer: async (layerId) => {
        const alone = aloneOn(own, layerId);
        return alone && painted(alone, { ...order, onPaper: false });
      },
      merged: () => painted(own, order),
      thumbnail: () => painted(own, { ...order, ...smallSize(page.size, ORA_THUMBNAIL) }),
    });
    const parts: Blob[] = [];
    for await (const bytes of files) parts.push(new Blob([new Uint8Array(bytes)]));
    return new Blob(parts, { type: 'image/openraster' });
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
          return level && asJpeg(level);
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
    zip.parts.push(...bytes.map((part) => new Blob([new Uint8Array(part)])));
  },

  endZip(): Promise<Blob> {
    const parts = zip ? [...zip.parts, ...zip.writer.finish().map((part) => new Blob([new Uint8Array(part)]))] : [];
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
  return { title, page, desk, pictures, levels: new Map(await Promise.all(pictures.map(decode))), washes: pixels };
}

async function decode({ picture, source }: DeliveredPicture): Promise<readonly [string, readonly PyramidLevel[]]> {
  return [picture.id, await pyramidOf(await decodedAs(source, picture), picture.tint)];
}

function paintedParts(
  { page, desk, levels }: Laid,
  { width, height, rows, ppi, withRough, onPaper }: PictureOrder,
  tell: Tell,
): Uint8Array<ArrayBuffer>[] {
  const { top, bottom } = rows ?? { top: 0, bottom: height };
  const ground = onPaper ? paperOf(page) : null;
  const writer = new PngWriter({ width, height: bottom - top, ppi, transparent: ground === null });
  const roughs: SeenRoughs = withRough ? roughsOf(page) : { under: [], over: [] };
  const parts: Uint8Array<ArrayBuffer>[] = [];
  for (let from = top; from < bottom; from += BAND) {
    tell((from - top) / (bottom - top));
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
function bitParts(own: Laid, { width, rows, ppi }: PictureOrder, tell: Tell): Uint8Array<ArrayBuffer>[] {
  const scale = width / own.page.size.width;
  if (own.bits?.scale !== scale) {
    const heard = (share: number): true => {
      tell(share);
      return true;
    };
    const sheet = bilevel(own.page, { scale, wash: (blob) => own.washes.get(blob), progress: heard });
    if (!sheet) throw new Error('Nobody stopped it.');
    own.bits = { scale, sheet };
  }
  const { sheet } = own.bits;
  const { top, bottom } = rows ?? { top: 0, bottom: sheet.height };
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

/** A picture as its scan has it, as a file: what has no scan is as it was brought in. */
async function seen(source: DeliveredPicture['source'], picture: PictureEntity): Promise<Blob> {
  if (source instanceof Blob && !picture.scan) return source;
  const bitmap = await decodedAs(source, picture);
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

/** A picture in its tint as a JPEG, of as many px as a print shows of what lies under the inks. */
async function asJpeg({ pieces }: PyramidLevel): Promise<Uint8Array> {
  const across = Math.max(...pieces.map((piece) => piece.x + piece.width));
  const down = Math.max(...pieces.map((piece) => piece.y + piece.height));
  const share = Math.min(1, MOST_SIDE / Math.max(across, down), Math.sqrt(MOST_AREA / (across * down)));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(across * share)), Math.max(1, Math.round(down * share)));
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.scale(share, share);
  for (const piece of pieces) context.drawImage(piece.bitmap, piece.x, piece.y, piece.width, piece.height);
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.92 })).arrayBuffer());
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
