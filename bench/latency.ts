import type { Page as Tab } from '@playwright/test';

/** From when a pointer event came about, ms. */
export interface Latency {
  /** Until the main thread had handed over what was painted for it. */
  readonly painted: number;
  /** Until that was on the screen. */
  readonly shown: number;
}

interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly pid: number;
  /** µs. */
  readonly ts: number;
  readonly id?: string;
  readonly id2?: { readonly local?: string };
  readonly args?: { readonly event_latency?: { readonly event_type?: string } };
}

/** Does a work and answers how long the moves of a pointer in it took to be seen, from the `EventLatency` of Chromium's trace. */
export async function latencies(tab: Tab, work: () => Promise<unknown>): Promise<Latency[]> {
  const session = await tab.context().newCDPSession(tab);
  const events: TraceEvent[] = [];
  session.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as TraceEvent[])));
  const done = new Promise<void>((resolve) => session.once('Tracing.tracingComplete', () => resolve()));
  const traceConfig = { includedCategories: ['cc', 'benchmark', 'input', 'latencyInfo'] };
  await session.send('Tracing.start', { transferMode: 'ReportEvents', traceConfig });
  await work();
  await session.send('Tracing.end');
  await done;
  await session.detach();
  return latenciesIn(events);
}

const MOVES = /^MOUSE_(MOVED|DRAGGED)$/;

function latenciesIn(events: readonly TraceEvent[]): Latency[] {
  const all: { readonly from: number; painted?: number; shown?: number }[] = [];
  // Told one event after the other; a number is used again for a later one.
  const open = new Map<string, (typeof all)[number]>();
  for (const { name, ph, pid, ts, id, id2, args } of events) {
    const key = `${pid}:${id ?? id2?.local}`;
    if (name === 'EventLatency') {
      open.delete(key);
      if (ph !== 'b' || !MOVES.test(args?.event_latency?.event_type ?? '')) continue;
      const begun = { from: ts };
      all.push(begun);
      open.set(key, begun);
    }
    const one = open.get(key);
    if (!one || ph !== 'e') continue;
    if (name === 'Commit') one.painted = ts;
    if (name === 'SubmitCompositorFrameToPresentationCompositorFrame') one.shown = ts;
  }
  // Those that changed nothing, or were overtaken before they came to the screen, have no end.
  return all.flatMap(({ from, painted, shown }) =>
    painted === undefined || shown === undefined
      ? []
      : [{ painted: (painted - from) / 1000, shown: (shown - from) / 1000 }],
  );
}
