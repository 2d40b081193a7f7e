import { create } from 'zustand';
import { Hired } from '../base';
import { download, say, sayError } from '../look';
import type { DeliverService } from './deliver.worker';
import { filesOfPage, makeFiles, type Delivered, type MadeFile, type Making } from './files';

/** What is being made: one thing at a time, wherever in the app one is. */
export interface Underway {
  readonly title: string;
  /** How much of it is made, 0..1. */
  readonly share: number;
}

export const useDeliveries = create<{ readonly underway: Underway | undefined }>(() => ({ underway: undefined }));

let stopper: AbortController | undefined;

/**
 * Makes files of pages and hands them to the browser's downloads. It goes on while other stages, pages or folios are in sight. To cancel it
 * ends the worker, whatever that is at.
 */
export async function deliver(delivered: Delivered): Promise<void> {
  const made = await whileUnderway(delivered, makeFiles);
  if (made) handOver(made);
}

/** Hands a file to the browser's downloads. */
export function handOver({ file, name }: MadeFile): void {
  download(file, name);
  say(`${name} is with your downloads.`);
}

/** A file that is looked at: the browser shows it by this address. */
export interface SeenFile extends MadeFile {
  readonly address: string;
}

/** What is seen before it is delivered: the very files of one page. */
export const usePreview = create<{ readonly files: readonly SeenFile[] | undefined }>(() => ({ files: undefined }));

/** Makes the files of one page, to be looked at until `closePreview`. */
export async function preview(delivered: Delivered): Promise<void> {
  const files = await whileUnderway(delivered, filesOfPage);
  closePreview();
  if (files)
    usePreview.setState({ files: files.map((made) => ({ ...made, address: URL.createObjectURL(made.file) })) });
}

export function closePreview(): void {
  for (const { address } of usePreview.getState().files ?? []) URL.revokeObjectURL(address);
  usePreview.setState({ files: undefined });
}

/** Has a worker make something, and tells how far it is; answers nothing where it was cancelled or failed, which is said. */
async function whileUnderway<T>(
  delivered: Delivered,
  make: (delivered: Delivered, making: Making) => Promise<T>,
): Promise<T | undefined> {
  if (stopper) return void say('Another file is still being made. Wait for it, or cancel it first.');
  const { signal } = (stopper = new AbortController());
  const tell = (share: number) => {
    if (!signal.aborted) useDeliveries.setState({ underway: { title: delivered.title, share } });
  };
  tell(0);
  const stopped = new Promise<undefined>((resolve) => signal.addEventListener('abort', () => resolve(undefined)));
  const worker = new Hired<DeliverService>(new Worker(new URL('./deliver.worker.ts', import.meta.url)));
  try {
    const made = await Promise.race([make(delivered, { worker, tell, signal }), stopped]);
    if (made === undefined) say('Cancelled. No file was made.');
    return made;
  } catch (error) {
    sayError(error);
    return undefined;
  } finally {
    worker.end();
    stopper = undefined;
    useDeliveries.setState({ underway: undefined });
  }
}

export const stopDelivery = (): void => stopper?.abort();
