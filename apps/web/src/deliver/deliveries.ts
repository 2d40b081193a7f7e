import { create } from 'zustand';
import { Hired } from '../base';
import { download, say, sayError } from '../look';
import type { DeliverService } from './deliver.worker';
import { makeFiles, type Delivered } from './files';

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
  if (stopper) return say('Another file is still being made. Wait for it, or cancel it first.');
  const { signal } = (stopper = new AbortController());
  const tell = (share: number) => {
    if (!signal.aborted) useDeliveries.setState({ underway: { title: delivered.title, share } });
  };
  tell(0);
  const stopped = new Promise<undefined>((resolve) => signal.addEventListener('abort', () => resolve(undefined)));
  const worker = new Hired<DeliverService>(new Worker(new URL('./deliver.worker.ts', import.meta.url)));
  try {
    const made = await Promise.race([makeFiles(delivered, { worker, tell, signal }), stopped]);
    if (!made) return say('Cancelled. No file was made.');
    download(made.file, made.name);
    say(`${made.name} is with your downloads.`);
  } catch (error) {
    sayError(error);
  } finally {
    worker.end();
    stopper = undefined;
    useDeliveries.setState({ underway: undefined });
  }
}

export const stopDelivery = (): void => stopper?.abort();
