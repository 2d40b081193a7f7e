import type { Change, ChangeId } from './change';

/** What history needs to know of a change. */
export type ChangeHeader = Pick<Change, 'id' | 'by' | 'undoes' | 'label'>;

/**
 * What one author can take back and do again, read off the journal. The journal itself only grows: undo appends an
 * inverse, and redo appends the inverse of that inverse.
 */
export interface History {
  /** Changes that undo would take back, the next one last. */
  readonly done: readonly ChangeHeader[];
  /** Inverses that redo would take back, the next one last. */
  readonly undone: readonly ChangeHeader[];
}

export const noHistory: History = { done: [], undone: [] };

/** History after one more change by the same author. */
export function remember(history: History, change: ChangeHeader): History {
  const { done, undone } = history;
  if (change.undoes === undefined) return { done: [...done, change], undone: [] };
  if (done.at(-1)?.id === change.undoes) return { done: done.slice(0, -1), undone: [...undone, change] };
  if (undone.at(-1)?.id === change.undoes) return { done: [...done, change], undone: undone.slice(0, -1) };
  return { done: withoutId(done, change.undoes), undone: withoutId(undone, change.undoes) };
}

const withoutId = (changes: readonly ChangeHeader[], id: ChangeId) => changes.filter((change) => change.id !== id);

/** The history of `author` in a journal, oldest change first. */
export function historyOf(journal: Iterable<ChangeHeader>, author: string): History {
  const done: ChangeHeader[] = [];
  const undone: ChangeHeader[] = [];
  for (const change of journal) {
    if (change.by !== author) continue;
    if (change.undoes === undefined) {
      done.push(change);
      undone.length = 0;
    } else if (done.at(-1)?.id === change.undoes) {
      done.pop();
      undone.push(change);
    } else if (undone.at(-1)?.id === change.undoes) {
      undone.pop();
      done.push(change);
    }
  }
  return { done, undone };
}
