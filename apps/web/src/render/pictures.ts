import type { Corners, PictureEntity } from '@true-nib/core/page';
import type { Quad } from '@true-nib/core/select';
import { Hired } from '../base/hired';
import { Listeners } from '../base/listeners';
import type { PictureService } from './picture.worker';
import type { PyramidLevel } from './picturePieces';
import { scanName, type SeenPicture } from './scanned';

/** Where a picture's bytes come from: the outbox or the server. */
export type PictureBytes = (blob: string) => Promise<Blob>;

/** Ms until one that failed is tried again, when it is asked for: it is at every paint. */
const AGAIN_MS = 5_000;

/** Decoded pictures of a page, by their bytes and tint. What is not there yet is fetched and told of when it comes. */
export class Pictures {
  private readonly decoder = new Hired<PictureService>(new Worker(new URL('./picture.worker.ts', import.meta.url)));
  private readonly ready = new Map<string, readonly PyramidLevel[]>();
  private readonly awaited = new Set<string>();
  /** When those failed that could not be decoded. */
  private readonly failed = new Map<string, number>();
  private readonly arrivals = new Listeners<[]>();

  constructor(
    private readonly bytes: PictureBytes,
    private readonly onReady: () => void,
    private readonly onError: (message: string) => void,
  ) {}

  /** The picture's sizes, with its tint; nothing until they are decoded. An older tint is shown meanwhile. */
  levels(picture: PictureEntity): readonly PyramidLevel[] | undefined {
    const name = nameOf(picture);
    const known = this.ready.get(name);
    if (known) return known;
    const isDue = performance.now() - (this.failed.get(name) ?? -Infinity) > AGAIN_MS;
    if (!this.awaited.has(name) && isDue) void this.decode(picture, name);
    const other = (['none', 'blue', 'grey'] as const).find((tint) => this.ready.has(nameOf({ ...picture, tint })));
    return other && this.ready.get(nameOf({ ...picture, tint: other }));
  }

  /** The picture's sizes, once they are there; nothing when they cannot be. */
  async whenReady(picture: PictureEntity): Promise<readonly PyramidLevel[] | undefined> {
    const known = this.levels(picture);
    if (known || !this.awaited.has(nameOf(picture))) return known;
    return new Promise((resolve) => {
      const stop = this.arrivals.add(() => {
        if (this.awaited.has(nameOf(picture))) return;
        stop();
        resolve(this.ready.get(nameOf(picture)));
      });
    });
  }

  /** A picture as it looks between four corners of the page, worked out by the worker. */
  laid(source: Blob, corners: Quad): Promise<Blob> {
    return this.decoder.ask((service) => service.laid(source, corners));
  }

  /** A picture as its scan has it, as a file of its own. */
  async scanned(picture: PictureEntity): Promise<Blob> {
    const source = await decodable(await this.bytes(picture.blob));
    return this.decoder.ask((service) => service.scanned(source, seenOf(picture)));
  }

  /** The corners of the sheet of paper in a picture as it was taken, px; nothing where none is found. */
  async sheet(picture: PictureEntity): Promise<Corners | undefined> {
    const source = await decodable(await this.bytes(picture.blob));
    return this.decoder.ask((service) => service.sheet(source));
  }

  dispose(): void {
    this.decoder.end();
    for (const levels of this.ready.values())
      for (const { pieces } of levels) for (const { bitmap } of pieces) bitmap.close();
  }

  private async decode(picture: PictureEntity, name: string): Promise<void> {
    this.awaited.add(name);
    try {
      const source = await decodable(await this.bytes(picture.blob));
      const seen = seenOf(picture);
      this.ready.set(name, await this.decoder.ask((service) => service.pyramid(source, picture.tint, seen)));
      this.failed.delete(name);
      this.onReady();
    } catch {
      if (!this.failed.has(name))
        this.onError('The rough could not be shown. It is safe on the server; reload the page to try again.');
      this.failed.set(name, performance.now());
    } finally {
      this.awaited.delete(name);
      this.arrivals.tell();
    }
  }
}

const nameOf = (picture: PictureEntity): string => `${picture.blob}/${picture.tint}${scanName(picture)}`;

const seenOf = ({ width, height, scan }: PictureEntity): SeenPicture => ({ width, height, ...(scan && { scan }) });

/** Px on the long side of an SVG that is brought in. */
const SVG_SIDE = 4096;

/** Bytes that a worker can decode: an SVG is turned into pixels here. */
export async function decodable(bytes: Blob): Promise<Blob | ImageBitmap> {
  if (bytes.type !== 'image/svg+xml') return bytes;
  const address = URL.createObjectURL(bytes);
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const scale = SVG_SIDE / Math.max(image.naturalWidth, image.naturalHeight, 1);
    const width = Math.max(1, Math.round(image.naturalWidth * scale));
    const height = Math.max(1, Math.round(image.naturalHeight * scale));
    const canvas = new OffscreenCanvas(width, height);
    // Made into a bitmap directly, an SVG that has a viewBox but no size comes out empty in Chromium.
    canvas.getContext('2d')?.drawImage(image, 0, 0, width, height);
    return canvas.transferToImageBitmap();
  } finally {
    URL.revokeObjectURL(address);
  }
}
