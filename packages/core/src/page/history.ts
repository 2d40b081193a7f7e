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
export function remember({ done, undone }: History, change: ChangeHeader): History {
  const history = { done: [...done], undone: [...undone] };
  step(history, change);
  return history;
}

/** The history of `author` in a journal, oldest change first. */
export function historyOf(journal: Iterable<ChangeHeader>, author: string): History {
  const history = { done: [], undone: [] };
  for (const change of journal) if (change.by === author) step(history, change);
  return history;
}

/** Takes one more change in. Two tabs of one author may undo out of turn: what is undone is looked for wherever it stands. */
function step({ done, undone }: { done: ChangeHeader[]; undone: ChangeHeader[] }, change: ChangeHeader): void {
  const { undoes } = change;
  if (undoes === undefined) {
    done.push(change);
    undone.length = 0;
  } else if (takeOut(done, undoes)) undone.push(change);
  else if (takeOut(undone, undoes)) done.push(change);
}

/** Takes a change out of a list, looked for from its end; answers whether it was there. */
function takeOut(changes: ChangeHeader[], id: ChangeId): boolean {
  const at = changes.findLastIndex((change) => change.id === id);
  if (at >= 0) changes.splice(at, 1);
  return at >= 0;
}
