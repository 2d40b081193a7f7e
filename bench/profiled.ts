import type { Page as Tab } from '@playwright/test';
import { onMain, traced, type TraceEvent } from './trace';

interface ProfileEvent extends TraceEvent {
  readonly id?: string;
  readonly args?: {
    readonly name?: string;
    readonly data?: {
      readonly cpuProfile?: {
        readonly nodes?: readonly {
          id: number;
          parent?: number;
          callFrame: { functionName: string; lineNumber?: number };
        }[];
        readonly samples?: readonly number[];
      };
      readonly timeDeltas?: readonly number[];
      readonly startTime?: number;
    };
  };
}

/** Does a work and prints, for each task of the main thread over 40 ms, the functions that it was in, by inclusive ms. */
export async function profiled(tab: Tab, what: string, work: () => Promise<unknown>): Promise<void> {
  const categories = ['toplevel', 'devtools.timeline', 'disabled-by-default-v8.cpu_profiler'];
  const events = await traced<ProfileEvent>(tab, categories, async () => {
    await work();
    await tab.waitForTimeout(800);
  });
  const isMain = onMain(events);
  const tasks = events.filter((e) => isMain(e) && /RunTask/.test(e.name) && (e.dur ?? 0) > 40_000);
  const profiles = new Map<string, { id: string; pid: number; tid: number; start: number }>();
  for (const e of events)
    if (e.name === 'Profile' && e.id && isMain(e))
      profiles.set(`${e.pid}:${e.id}`, { id: e.id, pid: e.pid, tid: e.tid, start: e.args?.data?.startTime ?? 0 });
  const nodes = new Map<string, { parent?: number; name: string }>();
  const samples: { at: number; key: string; id: number }[] = [];
  for (const [key, { start }] of profiles) {
    let at = start;
    for (const e of events
      .filter((x) => x.name === 'ProfileChunk' && `${x.pid}:${x.id ?? ''}` === key)
      .sort((a, b) => a.ts - b.ts)) {
      const data = e.args?.data;
      for (const n of data?.cpuProfile?.nodes ?? [])
        nodes.set(`${key}/${n.id}`, {
          parent: n.parent,
          name: `${n.callFrame.functionName || '(anonymous)'}:${n.callFrame.lineNumber ?? ''}`,
        });
      (data?.cpuProfile?.samples ?? []).forEach((id, k) => {
        at += data?.timeDeltas?.[k] ?? 0;
        samples.push({ at, key, id });
      });
    }
  }
  samples.sort((a, b) => a.at - b.at);
  for (const task of tasks.sort((a, b) => (b.dur ?? 0) - (a.dur ?? 0)).slice(0, 6)) {
    const total = new Map<string, number>();
    const inside = samples.filter(({ at }) => at >= task.ts && at <= task.ts + (task.dur ?? 0));
    inside.forEach(({ at, key, id }, k) => {
      const ms = ((inside[k + 1]?.at ?? task.ts + (task.dur ?? 0)) - at) / 1000;
      const seen = new Set<string>();
      for (let n: number | undefined = id; n !== undefined; n = nodes.get(`${key}/${n}`)?.parent) {
        const name = nodes.get(`${key}/${n}`)?.name ?? '?';
        if (!seen.has(name)) total.set(name, (total.get(name) ?? 0) + ms);
        seen.add(name);
      }
    });
    const other = events
      .filter(
        (e) => isMain(e) && e.ts >= task.ts && e.ts <= task.ts + (task.dur ?? 0) && (e.dur ?? 0) > 8000 && e !== task,
      )
      .map((e) => `${e.name} ${((e.dur ?? 0) / 1000).toFixed(0)}`);
    console.log(
      `  -- ${what}: task of ${((task.dur ?? 0) / 1000).toFixed(0)} ms, ${((task.tdur ?? 0) / 1000).toFixed(0)} of them on the processor; ${[...new Set(other)].slice(0, 8).join(', ')}`,
    );
    for (const [name, ms] of [...total].sort((a, b) => b[1] - a[1]).slice(0, Number(process.env.TOP ?? 24)))
      if (ms > 3) console.log(`       ${ms.toFixed(1)} ${name}`);
  }
}
