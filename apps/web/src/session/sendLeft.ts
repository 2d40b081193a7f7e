import { pack } from '@true-nib/core/wire';
import type { Change } from '@true-nib/core/page';
import { ApiProblem, isRefusal, Offline } from '../api';
import { BATCH, batchOf } from './batch';
import type { Outbox } from './outbox';
import type { Stand, Transport } from './transport';

interface Means {
  readonly transport: Transport;
  readonly outbox: Outbox;
}

/**
 * Sends what earlier visits left in the outbox without opening the pages. Answers how much still waits, by page: what does not
 * fit any more, or is to become pixels, is for whoever opens that page.
 */
export async function sendLeft(means: Means): Promise<ReadonlyMap<string, number>> {
  const { outbox } = means;
  const waiting = new Map<string, number>();
  for (const pageId of await outbox.pages()) {
    await sendPage(means, pageId).catch((error: unknown) => {
      if (!(error instanceof ApiProblem || error instanceof Offline)) throw error;
    });
    const left = [...(await outbox.pending(pageId)), ...(await outbox.marks(pageId))];
    if (left.length > 0) waiting.set(pageId, left.length);
  }
  return waiting;
}

async function sendPage(means: Means, pageId: string): Promise<void> {
  const { transport, outbox } = means;
  let left: readonly Change[] = await outbox.pending(pageId);
  if (left.length === 0) return;
  const letGo = async (saved: readonly { readonly id: string }[]) => {
    const ids = new Set(saved.map(({ id }) => id));
    await outbox.remove(pageId, new Set(left.flatMap(({ id }) => (ids.has(id) ? [id] : []))));
    left = left.filter(({ id }) => !ids.has(id));
  };
  await sendBlobs(means);
  const headers = await transport.headers(pageId);
  let stand: Stand = { revision: headers.length, lastId: headers.at(-1)?.id };
  await letGo(headers);
  while (left.length > 0) {
    const batch = batchOf(left, BATCH);
    const sent = await transport.send(pageId, stand, batch, batch.map(pack));
    const saved = sent.outcome === 'saved' ? batch : sent.between;
    stand = { revision: sent.revision, lastId: saved.at(-1)?.id };
    await letGo(saved);
  }
}

/**
 * Sends the pictures that wait. Those that the server refuses for good must not hold up the strokes behind them: they are told
 * and let go, or left where they are when nobody listens.
 */
export async function sendBlobs({ transport, outbox }: Means, onRefused?: (why: ApiProblem) => void): Promise<void> {
  for (const { sha256, bytes } of await outbox.blobs()) {
    try {
      await transport.sendBlob(sha256, bytes);
    } catch (error) {
      if (!isRefusal(error)) throw error;
      if (!onRefused) continue;
      onRefused(error);
    }
    await outbox.removeBlob(sha256);
  }
}
