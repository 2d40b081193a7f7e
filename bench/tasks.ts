import type { Page as Tab } from '@playwright/test';

/** A task of the main thread, ms. */
export interface Task {
  readonly length: number;
  /** How long of that the thread itself ran; the rest it waited for a processor, which others had. */
  readonly ran: number;
}

interface TraceEvent {
  readonly name: string;
  readonly pid: number;
  readonly tid: number;
  readonly dur?: number;
  readonly tdur?: number;
  readonly args?: { readonly name?: string };
}

/** Does a work and answers the tasks of the tab's main thread that took longer than `least` ms. */
export async function longTasks(tab: Tab, least: number, work: () => Promise<unknown>): Promise<Task[]> {
  const session = await tab.context().newCDPSession(tab);
  const events: TraceEvent[] = [];
  session.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as TraceEvent[])));
  const done = new Promise<void>((resolve) => session.once('Tracing.tracingComplete', () => resolve()));
  await session.send('Tracing.start', {
    transferMode: 'ReportEvents',
    traceConfig: { includedCategories: ['toplevel'] },
  });
  await work();
  await session.send('Tracing.end');
  await done;
  await session.detach();
  const mains = events.filter(({ name, args }) => name === 'thread_name' && args?.name === 'CrRendererMain');
  return events
    .filter(({ name, dur = 0, pid, tid }) => {
      const isMain = mains.some((main) => main.pid === pid && main.tid === tid);
      return isMain && name.endsWith('RunTask') && dur > 1000 * least;
    })
    .map(({ dur = 0, tdur = 0 }) => ({ length: dur / 1000, ran: tdur / 1000 }));
}
