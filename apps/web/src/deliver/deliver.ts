import { pageToSvg } from '@true-nib/core/formats';
import { pack, paperOf, type Page } from '@true-nib/core/page';
import { proxy, transfer, wrap } from 'comlink';
import { decodable, type PictureBytes } from '../render/pictures';
import { splitRoughs } from '../render/roughSurface';
import type { DeliverService, DeliveredRough } from './deliver.worker';

export interface PngChoice {
  readonly scale: number;
  readonly withRough: boolean;
}

/** The page as a PNG, painted in a worker. Nothing when `signal` stopped it. */
export async function deliverPng(
  page: Page,
  choice: PngChoice,
  bytes: PictureBytes,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob | undefined> {
  const worker = new Worker(new URL('./deliver.worker.ts', import.meta.url));
  try {
    const { under, over } = choice.withRough ? splitRoughs(page) : { under: [], over: [] };
    const roughs: DeliveredRough[] = await Promise.all(
      [...under, ...over].map(async (picture) => ({
        picture,
        isOver: over.includes(picture),
        source: await decodable(await bytes(picture.blob)),
      })),
    );
    const entities = pack([...page.entities].filter(({ kind }) => kind === 'layer' || kind === 'stroke'));
    const order = { size: page.size, paper: paperOf(page), entities, scale: choice.scale, roughs };
    const progress = (share: number) => {
      onProgress(share);
      return !signal.aborted;
    };
    return await wrap<DeliverService>(worker).png(transfer(order, [entities.buffer as ArrayBuffer]), proxy(progress));
  } finally {
    worker.terminate();
  }
}

/** The page as SVG, sized in mm; roughs are embedded when asked for. */
export async function deliverSvg(page: Page, title: string, withRough: boolean, bytes: PictureBytes): Promise<Blob> {
  const { under, over } = splitRoughs(page);
  const addresses = new Map<string, string>();
  if (withRough) for (const { blob } of [...under, ...over]) addresses.set(blob, await dataAddress(await bytes(blob)));
  const pictureAddress = withRough ? (blob: string) => addresses.get(blob) : undefined;
  return new Blob([pageToSvg(page, { title, pictureAddress })], { type: 'image/svg+xml' });
}

const dataAddress = (bytes: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('The rough could not be read.'));
    reader.readAsDataURL(bytes);
  });

/** Hands a file to the browser's own downloads. */
export function download(file: Blob, name: string): void {
  const address = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

/** A name that every file system takes. */
export const fileName = (title: string, extension: string): string =>
  `${
    title
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'page'
  }.${extension}`;
