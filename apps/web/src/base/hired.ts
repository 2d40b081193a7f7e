import { releaseProxy, wrap, type Remote } from 'comlink';

/** Answers nothing, and keeps nobody in memory who waits for it. */
const nobody = new Proxy({}, { get: () => () => new Promise(() => undefined) });

/**
 * A worker and the service that its program gives. A program that cannot be fetched, because the app was updated meanwhile
 * or the server does not answer, breaks it: then what is asked of it is refused instead of being waited for.
 */
export class Hired<Service> {
  private remote: Remote<Service>;
  private readonly breakListeners = new Set<() => void>();
  private isBroken = false;

  constructor(private readonly worker: Worker) {
    this.remote = wrap<Service>(worker);
    worker.addEventListener('error', this.break);
    // Whoever answers has come.
    worker.addEventListener('message', () => worker.removeEventListener('error', this.break), { once: true });
  }

  /** What can be asked; after the end it never answers. To be looked up each time. */
  get service(): Remote<Service> {
    return this.remote;
  }

  /** What the service answers. Rejects when there is none. */
  ask<T>(work: (service: Remote<Service>) => Promise<T>): Promise<T> {
    return new Promise((resolve, reject) => {
      const stop = this.onBroken(() => reject(new Error('A part of the app could not be fetched. Nothing was lost.')));
      // What is posted to a worker that is not there would be kept for nobody.
      if (!this.isBroken) void work(this.service).then(resolve, reject).finally(stop);
    });
  }

  /** Calls back once when it breaks, or at once if it has. Answers how to stop. */
  onBroken(listener: () => void): () => void {
    if (this.isBroken) listener();
    else this.breakListeners.add(listener);
    return () => void this.breakListeners.delete(listener);
  }

  /**
   * Ends it, and lets go of all who wait for an answer or listen: what they hold on to, a board with all its strokes, would
   * stay in memory as long as the app.
   */
  end(): void {
    this.worker.removeEventListener('error', this.break);
    this.breakListeners.clear();
    this.remote[releaseProxy]();
    this.remote = nobody as Remote<Service>;
    this.worker.terminate();
  }

  private readonly break = (): void => {
    this.isBroken = true;
    const listeners = [...this.breakListeners];
    this.breakListeners.clear();
    for (const listener of listeners) listener();
  };
}
