import { pageToSvg } from '@true-nib/core/formats';
import { ofKind, paperOf, roughsOf, type Page, type PictureEntity, type SeenRoughs } from '@true-nib/core/page';
import { pack } from '@true-nib/core/wire';
import { proxy, transfer } from 'comlink';
import { Hired } from '../../base';
import { decodable, type PictureBytes, isInk, unpackTile } from '../../render';
import type { DeliverService, DeliveredPicture } from './deliver.worker';

export interface PngChoice {
  readonly scale: number;
  readonly withRough: boolean;
  readonly isOneBit: boolean;
}

/** The page as a PNG, painted in a worker. Nothing when `signal` stopped it. */
export async function deliverPng(
  page: Page,
  choice: PngChoice,
  bytes: PictureBytes,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob | undefined> {
  const painter = new Hired<DeliverService>(new Worker(new URL('./deliver.worker.ts', import.meta.url)));
  try {
    const roughs = choice.withRough ? roughsOf(page) : { under: [], over: [] };
    const pictures: DeliveredPicture[] = await Promise.all(
      picturesIn(roughs).map(async (picture) => ({ picture, source: await decodable(await bytes(picture.blob)) })),
    );
    const entities = pack([...page.entities].filter(isInk));
    const washes = await Promise.all(
      washBlobs(page).map(async (blob) => [blob, await (await bytes(blob)).arrayBuffer()] as const),
    );
    const { scale, isOneBit } = choice;
    const order = { size: page.size, paper: paperOf(page), entities, scale, isOneBit, roughs, pictures, washes };
    const progress = (share: number) => {
      onProgress(share);
      return !signal.aborted;
    };
    return await painter.ask((service) =>
      service.png(transfer(order, [entities.buffer as ArrayBuffer]), proxy(progress)),
    );
  } finally {
    painter.end();
  }
}

/** Where the bytes of a picture come from, as it was taken and as its scan has it. */
export interface RoughBytes {
  readonly bytes: PictureBytes;
  readonly scanned: (picture: PictureEntity) => Promise<Blob>;
}

/** The page as SVG, sized in mm; roughs are embedded when asked for. */
export async function deliverSvg(page: Page, title: string, withRough: boolean, source: RoughBytes): Promise<Blob> {
  const { bytes, scanned } = source;
  const addresses = new Map<string, string>();
  if (withRough)
    for (const picture of picturesIn(roughsOf(page)))
      addresses.set(picture.id, await dataAddress(await (picture.scan ? scanned(picture) : bytes(picture.blob))));
  const washes = new Map<string, string>();
  for (const blob of washBlobs(page)) washes.set(blob, await dataAddress(await pngOf(await bytes(blob))));
  const pictureAddress = withRough ? ({ id }: PictureEntity) => addresses.get(id) : undefined;
  return new Blob([pageToSvg(page, { title, pictureAddress, washAddress: (blob) => washes.get(blob) })], {
    type: 'image/svg+xml',
  });
}

const picturesIn = ({ under, over }: SeenRoughs): PictureEntity[] =>
  [...under, ...over].flatMap(({ pictures }) => pictures);

/** The bytes that the page's wash tiles hold, each once. */
const washBlobs = (page: Page): string[] => [...new Set(ofKind(page, 'wash').map(({ blob }) => blob))];

/** A wash tile's pixels as a picture that any reader of SVG knows. */
async function pngOf(bytes: Blob): Promise<Blob> {
  const image = await unpackTile(await bytes.arrayBuffer());
  const canvas = new OffscreenCanvas(image.width, image.height);
  canvas.getContext('2d')?.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

const dataAddress = (bytes: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('The rough could not be read.'));
    reader.readAsDataURL(bytes);
  });

/** A name that every file system takes. */
export const fileName = (title: string, extension: string): string =>
  `${
    title
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'page'
  }.${extension}`;
