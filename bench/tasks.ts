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

export const tasksInWords = (tasks: readonly Task[]): string =>
  `${tasks.map(({ length, ran }) => `${length.toFixed(0)} (${ran.toFixed(0)} on the processor)`).join(', ') || 'none'} over ${MOST} ms`;

/** Whether any of them is long by itself. */
export const isAnyOver = (tasks: readonly Task[]): boolean => tasks.some(({ ran }) => ran > MOST);
