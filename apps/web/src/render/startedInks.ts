import type { PackedParts } from '@true-nib/core/wire';
import type { PageSize } from '@true-nib/core/page';
import { transfer } from 'comlink';
import { Hired } from '../base/hired';
import type { InkService } from './ink.worker';
import type { FirstLook } from './inkDesk';

export type InkWorker = Hired<InkService>;

let waiting: InkWorker | undefined;

const newInkWorker = (): InkWorker => new Hired<InkService>(new Worker(new URL('./ink.worker.ts', import.meta.url)));

/** Starts a worker before anybody needs it: it has read its program when it is taken. */
export function startInkWorker(): void {
  waiting ??= newInkWorker();
}

/** A worker without a page. */
export function takeInkWorker(): InkWorker {
  const taken = waiting ?? newInkWorker();
  waiting = undefined;
  return taken;
}

/** An ink worker that takes a page up while it is still being unpacked here. One board can take it over. */
export class StartedInks {
  private readonly worker = takeInkWorker();
  private isTaken = false;

  constructor(size: PageSize, parts: PackedParts, look: FirstLook) {
    // A copy: what is transferred is gone from here.
    const bytes = parts.bytes.slice();
    const copy = transfer({ lengths: parts.lengths, bytes }, [bytes.buffer]);
    void this.worker.service.load(size, copy, look);
  }

  /** The worker, to the first who asks. */
  take(): InkWorker | undefined {
    if (this.isTaken) return undefined;
    this.isTaken = true;
    return this.worker;
  }

  /** Calls back, also later, when the worker's program cannot be fetched. */
  onBroken(listener: () => void): void {
    this.worker.onBroken(listener);
  }

  /** Ends the worker if nobody took it. */
  dispose(): void {
    this.take()?.end();
  }
}
