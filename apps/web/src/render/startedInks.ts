import type { PackedParts, PageSize } from '@true-nib/core/page';
import { transfer, wrap, type Remote } from 'comlink';
import type { InkService } from './ink.worker';
import type { FirstLook } from './inkDesk';

export interface InkWorker {
  readonly worker: Worker;
  readonly remote: Remote<InkService>;
}

let waiting: InkWorker | undefined;

function newInkWorker(): InkWorker {
  const worker = new Worker(new URL('./ink.worker.ts', import.meta.url));
  return { worker, remote: wrap<InkService>(worker) };
}

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
  private started: InkWorker | undefined = takeInkWorker();

  constructor(size: PageSize, parts: PackedParts, look: FirstLook) {
    // A copy: what is transferred is gone from here.
    const bytes = parts.bytes.slice();
    const copy = transfer({ lengths: parts.lengths, bytes }, [bytes.buffer]);
    void this.started?.remote.load(size, copy, look);
  }

  /** The worker, to the first who asks. */
  take(): InkWorker | undefined {
    const { started } = this;
    this.started = undefined;
    return started;
  }

  /** Ends the worker if nobody took it. */
  dispose(): void {
    this.take()?.worker.terminate();
  }
}
