import { onMain, type TraceEvent } from './trace';

/** A task of the main thread, ms. */
interface Task {
  readonly length: number;
  /** How long of that the thread itself ran; the rest it waited for a processor, which others had. */
  readonly ran: number;
}

/** ms that the main thread may be held up by anything. */
const MOST = 50;

/** The tasks of a page's main thread that took too long, in a trace of `toplevel`. */
export function longTasksIn(events: readonly TraceEvent[]): Task[] {
  const isMain = onMain(events);
  return events
    .filter((event) => isMain(event) && event.name.endsWith('RunTask') && (event.dur ?? 0) > 1000 * MOST)
    .map(({ dur = 0, tdur = 0 }) => ({ length: dur / 1000, ran: tdur / 1000 }));
}

/** ms that a page's main thread ran in tasks that began in a time (µs), in a trace of `toplevel`. */
export function ranIn(events: readonly TraceEvent[], time: { readonly from: number; readonly until: number }): number {
  const isMain = onMain(events);
  // Tasks may hold others: only the outermost count.
  const tasks = events
    .filter(
      (event) => isMain(event) && event.name.endsWith('RunTask') && event.ts >= time.from && event.ts <= time.until,
    )
    .sort((a, b) => a.ts - b.ts);
  let end = -Infinity;
  let ran = 0;
  for (const { ts, dur = 0, tdur = 0 } of tasks) {
    if (ts < end) continue;
    end = ts + dur;
    ran += tdur / 1000;
  }
  return ran;
}

export const tasksInWords = (tasks: readonly Task[]): string =>
  `${tasks.map(({ length, ran }) => `${length.toFixed(0)} (${ran.toFixed(0)} on the processor)`).join(', ') || 'none'} over ${MOST} ms`;

/** Whether any of them is long by itself. */
export const isAnyOver = (tasks: readonly Task[]): boolean => tasks.some(({ ran }) => ran > MOST);
