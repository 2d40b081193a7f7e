import { Hired } from '../base';
import type { DeliverService, SmallPicture } from './deliver.worker';
import { handedOver, orderFor, savedPage } from './pages';

/** Small pictures of the inks of pages as they were saved, on white, one after the other: none is wider or higher than so many px. */
export async function* smallPictures(pageIds: readonly string[], side: number): AsyncGenerator<SmallPicture> {
  const worker = new Hired<DeliverService>(new Worker(new URL('./deliver.worker.ts', import.meta.url)));
  try {
    for (const id of pageIds) {
      const order = await orderFor(await savedPage(id), false);
      await worker.ask((service) => service.take(handedOver(order)));
      yield await worker.ask((service) => service.small(side));
    }
  } finally {
    worker.end();
  }
}
