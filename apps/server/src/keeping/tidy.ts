import type { Store } from './query';

/** Days for which what was deleted, or is needed by nobody any more, can still be had. */
export const KEPT_DAYS = 30;
const DAY = 24 * 60 * 60 * 1000;
/** Changes that are read in one go. */
const PART = 50;

/** What tidying took away for good. */
export interface Tidied {
  readonly folios: number;
  readonly pages: number;
  readonly pictures: number;
  /** Bytes of those pictures. */
  readonly bytes: number;
}

/**
 * Takes away for good what was deleted more than 30 days ago, and the pictures and pixels that are as old and that no page and
 * no journal needs. Piece by piece, so that nobody waits for it long.
 */
export async function tidy(store: Store, now = Date.now()): Promise<Tidied> {
  const before = now - KEPT_DAYS * DAY;
  const pages = await store.all<{ id: string }>(
    `SELECT p.id FROM pages p JOIN folios f ON f.id = p.folioId WHERE p.deletedAt < ? OR f.deletedAt < ?`,
    before,
    before,
  );
  for (const { id } of pages) await erasePage(store, id);
  const folios = await store.all<{ id: string }>('SELECT id FROM folios WHERE deletedAt < ?', before);
  for (const { id } of folios) await store.run('DELETE FROM folios WHERE id = $1', id);
  const gone = await eraseUnneeded(store, before);
  return {
    folios: folios.length,
    pages: pages.length,
    pictures: gone.length,
    bytes: gone.reduce((sum, bytes) => sum + bytes, 0),
  };
}

const erasePage = (store: Store, id: string): Promise<void> =>
  store.atomically(async (inside) => {
    for (const table of ['thumbnails', 'snapshots', 'entities', 'changes'])
      await inside.run(`DELETE FROM ${table} WHERE pageId = $1`, id);
    await inside.run('DELETE FROM pages WHERE id = $1', id);
  });

/** Erases blobs that came before a time and that no journal names. Answers how large each was. */
async function eraseUnneeded(store: Store, before: number): Promise<number[]> {
  const old = await store.all<{ sha256: string; length: number }>(
    'SELECT sha256, LENGTH(bytes) AS length FROM blobs WHERE keptAt < ?',
    before,
  );
  if (old.length === 0) return [];
  const needed = await namedInJournals(store);
  const gone = old.filter(({ sha256 }) => !needed.has(sha256));
  // One that was sent again meanwhile stays.
  for (const { sha256 } of gone) await store.run('DELETE FROM blobs WHERE sha256 = $1 AND keptAt < $2', sha256, before);
  return gone.map(({ length }) => length);
}

/**
 * All that reads like a SHA-256 in any change of any page: a journal holds all that was ever on its page, undone or not. What
 * merely looks like one keeps a blob too many, which is harmless.
 */
async function namedInJournals(store: Store): Promise<Set<string>> {
  const named = new Set<string>();
  for (let last = 0; ;) {
    const rows = await store.all<{ rowid: number; bytes: Buffer }>(
      'SELECT rowid, bytes FROM changes WHERE rowid > ? ORDER BY rowid LIMIT ?',
      last,
      PART,
    );
    if (rows.length === 0) return named;
    for (const { rowid, bytes } of rows) {
      last = rowid;
      for (const [word] of bytes.toString('latin1').matchAll(/[0-9a-f]{64}/g)) named.add(word);
    }
  }
}
