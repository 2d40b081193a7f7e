import { Op } from 'sequelize';
import { wordsLikeSums } from './blobs';
import { allChanges, blobsBefore, eraseRows } from './rows';
import { namedInSets } from './sets';
import type { Store } from './store';

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
  const isOld = { deletedAt: { [Op.lt]: before } };
  const folios = await store.folios.unscoped().findAll({ where: isOld, ...store.within });
  const pages = await store.pages.unscoped().findAll({
    where: { [Op.or]: [isOld, { folioId: folios.map(({ id }) => id) }] },
    ...store.within,
  });
  for (const { id } of pages) await erasePage(store, id);
  await store.atomically(async (inside) => {
    await inside.folios.unscoped().destroy({ where: { id: folios.map(({ id }) => id) }, ...inside.within });
  });
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
    await eraseRows(inside, id);
    await inside.thumbnails.destroy({ where: { pageId: id }, ...inside.within });
    await inside.snapshots.destroy({ where: { pageId: id }, ...inside.within });
    await inside.pages.unscoped().destroy({ where: { id }, ...inside.within });
  });

/** Erases blobs that came before a time and that no journal names. Answers how large each was. */
async function eraseUnneeded(store: Store, before: number): Promise<number[]> {
  const old = await blobsBefore(store, before);
  if (old.length === 0) return [];
  const needed = await namedInJournals(store);
  const gone = old.filter(({ sha256 }) => !needed.has(sha256));
  // One that was sent again meanwhile stays.
  for (const { sha256 } of gone)
    await store.atomically(async ({ blobs, within }) => {
      await blobs.destroy({ where: { sha256, keptAt: { [Op.lt]: before } }, ...within });
    });
  return gone.map(({ length }) => length);
}

/**
 * All that reads like a SHA-256 in any change of any page, and in the library of sets: a journal holds all that was ever on its page, undone or not. What
 * merely looks like one keeps a blob too many, which is harmless.
 */
async function namedInJournals(store: Store): Promise<Set<string>> {
  const named = new Set<string>(await namedInSets(store));
  for await (const bytes of allChanges(store, PART)) for (const word of wordsLikeSums(bytes)) named.add(word);
  return named;
}
