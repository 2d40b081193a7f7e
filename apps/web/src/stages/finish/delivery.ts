import { useSyncExternalStore } from 'react';
import type { PictureEntity } from '@true-nib/core/page';
import { Listeners } from '../../base';
import { useSlot, type Board, type PageSlot } from '../../board';
import { download, say, sayError } from '../../look';
import { washingSlot } from '../../wash';
import { deliverPng, deliverSvg, fileName } from './deliver';
import { useDeliverChoice } from './deliverChoice';

/**
 * The file that is being made of the open page: one at a time. It goes on while another stage is in hand, and ends with the
 * page.
 */
export class Delivery {
  private stopper: AbortController | undefined;
  private share: number | undefined;
  private readonly listeners = new Listeners<[]>();

  constructor(private readonly board: Pick<Board, 'session' | 'of' | 'picture'>) {}

  /** How much of the file is made, 0..1; nothing while none is being made. */
  get progress(): number | undefined {
    return this.share;
  }

  /** Calls back whenever there is progress. Answers how to stop. */
  onProgress(listener: () => void): () => void {
    return this.listeners.add(listener);
  }

  /** Makes the file that was chosen, once all that was drawn is on the page, and hands it to the browser's downloads. */
  async start(): Promise<void> {
    if (this.stopper) return;
    const { signal } = (this.stopper = new AbortController());
    this.tell(0);
    try {
      // Marks that are becoming pixels belong into the file.
      await this.board.of(washingSlot).settled();
      const file = signal.aborted ? undefined : await this.made(signal);
      if (!file || signal.aborted) return say('Stopped. No file was made.');
      const name = fileName(this.board.session.card.name, useDeliverChoice.getState().deliverAs);
      download(file, name);
      say(`${name} is with your downloads.`);
    } catch (error) {
      sayError(error);
    } finally {
      this.stopper = undefined;
      this.tell(undefined);
    }
  }

  stop(): void {
    this.stopper?.abort();
  }

  dispose(): void {
    this.stop();
  }

  private made(signal: AbortSignal): Promise<Blob | undefined> {
    const { deliverAs, deliverScale, deliverRough, isOneBit } = useDeliverChoice.getState();
    const { session } = this.board;
    const { page, card } = session;
    const bytes = (blob: string) => session.blob(blob);
    const scanned = (picture: PictureEntity) => this.board.picture.pictures.scanned(picture);
    if (deliverAs === 'svg') return deliverSvg(page, card.name, deliverRough, { bytes, scanned });
    const choice = { scale: deliverScale, withRough: deliverRough, isOneBit };
    return deliverPng(page, choice, bytes, (share) => this.tell(share), signal);
  }

  private tell(share: number | undefined): void {
    this.share = share;
    this.listeners.tell();
  }
}

const deliverySlot: PageSlot<Delivery> = { open: (board) => new Delivery(board) };

/** The delivery of the open page, and how far it is. */
export function useDelivery(): { readonly delivery: Delivery; readonly progress: number | undefined } {
  const delivery = useSlot(deliverySlot);
  const progress = useSyncExternalStore(
    (listener) => delivery.onProgress(listener),
    () => delivery.progress,
  );
  return { delivery, progress };
}
