import type { Page as Tab } from '@playwright/test';

/** An event of Chromium's trace (the Trace Event Format); times in µs. */
export interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly pid: number;
  readonly tid: number;
  readonly ts: number;
  readonly dur?: number;
  /** How long of `dur` the thread itself ran. */
  readonly tdur?: number;
}

/** Does a work in a tab and answers what the browser traced of some categories meanwhile. */
export async function traced<E extends TraceEvent>(
  tab: Tab,
  includedCategories: readonly string[],
  work: () => Promise<unknown>,
): Promise<E[]> {
  const session = await tab.context().newCDPSession(tab);
  const events: E[] = [];
  session.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as E[])));
  const done = new Promise<void>((resolve) => session.once('Tracing.tracingComplete', () => resolve()));
  const traceConfig = { includedCategories: [...includedCategories] };
  await session.send('Tracing.start', { transferMode: 'ReportEvents', traceConfig });
  await work();
  await session.send('Tracing.end');
  await done;
  await session.detach();
  return events;
}

/** Whether an event belongs to the main thread of a page. */
export function onMain(events: readonly TraceEvent[]): (event: TraceEvent) => boolean {
  const mains = new Set(events.filter(isMainsName).map(({ pid, tid }) => `${pid}:${tid}`));
  return ({ pid, tid }) => mains.has(`${pid}:${tid}`);
}

const isMainsName = (event: TraceEvent & { readonly args?: { readonly name?: string } }): boolean =>
  event.name === 'thread_name' && event.args?.name === 'CrRendererMain';
