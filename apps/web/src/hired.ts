import { wrap, type Remote } from 'comlink';

/**
 * A worker and the service that its program gives. A program that cannot be fetched, because the app was updated meanwhile
 * or the server does not answer, breaks it: then what is asked of it is refused instead of being waited for.
 */
export class Hired<Service> {
  readonly service: Remote<Service>;
  private readonly breakListeners = new Set<() => void>();
  private isBroken = false;

  constructor(private readonly worker: Worker) {
    this.service = wrap<Service>(worker);
    worker.addEventListener('error', () => {
      this.isBroken = true;
      for (const listener of [...this.breakListeners]) listener();
      this.breakListeners.clear();
    });
  }

  /** What the service answers. Rejects when there is none. */
  ask<T>(work: (service: Remote<Service>) => Promise<T>): Promise<T> {
    return new Promise((resolve, reject) => {
      const stop = this.onBroken(() => reject(new Error('A part of the app could not be fetched. Nothing was lost.')));
      void work(this.service).then(resolve, reject).finally(stop);
    });
  }

  /** Calls back once when it breaks, or at once if it has. Answers how to stop. */
  onBroken(listener: () => void): () => void {
    if (this.isBroken) listener();
    else this.breakListeners.add(listener);
    return () => void this.breakListeners.delete(listener);
  }

  end(): void {
    this.worker.terminate();
  }
}
