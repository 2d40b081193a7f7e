import type { Change } from '@true-nib/core/page';

/** Changes sent in one go. */
export const BATCH = 200;
/** Edits sent in one go, beyond the first change. */
export const BATCH_EDITS = 2_000;

/** The first changes, as many as make a request of some size. */
export function batchOf(pending: readonly Change[], most: number): Change[] {
  const batch: Change[] = [];
  let edits = 0;
  for (const change of pending.slice(0, most)) {
    edits += change.edits.length;
    if (batch.length > 0 && edits > BATCH_EDITS) break;
    batch.push(change);
  }
  return batch;
}
