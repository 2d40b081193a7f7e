import type { TraceEvent } from './trace';

/** From when a pointer event came about, ms. */
export interface Latency {
  /** Until the main thread had handed over what was painted for it. */
  readonly painted: number;
  /** Until that was on the screen. */
  readonly shown: number;
}

interface LatencyEvent extends TraceEvent {
  readonly id?: string;
  readonly id2?: { readonly local?: string };
  readonly args?: { readonly event_latency?: { readonly event_type?: string } };
}

/** What of a trace tells when an event came to the screen. */
export const LATENCY_CATEGORIES = ['cc', 'benchmark', 'input', 'latencyInfo'] as const;

const MOVES = /^MOUSE_(MOVED|DRAGGED)$/;

const isMove = ({ name, ph, args }: LatencyEvent): boolean =>
  name === 'EventLatency' && ph === 'b' && MOVES.test(args?.event_latency?.event_type ?? '');

/** From the first move of a pointer to the last, µs of the trace. */
export function movesIn(events: readonly LatencyEvent[]): { readonly from: number; readonly until: number } {
  const times = events.filter(isMove).map(({ ts }) => ts);
  return { from: Math.min(...times), until: Math.max(...times) };
}

/** How long the moves of a pointer took to be seen, from the `EventLatency` of Chromium's trace. */
export function latenciesIn(events: readonly LatencyEvent[]): Latency[] {
  const all: { readonly from: number; painted?: number; shown?: number }[] = [];
  // Told one event after the other; a number is used again for a later one.
  const open = new Map<string, (typeof all)[number]>();
  for (const event of events) {
    const { name, ph, pid, ts, id, id2 } = event;
    const key = `${pid}:${id ?? id2?.local}`;
    if (name === 'EventLatency') {
      open.delete(key);
      if (!isMove(event)) continue;
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
