import { randomUUID } from 'node:crypto';
import { checkSize, orderBetween, type PageSize } from '@true-nib/core/page';
import { Problem } from '../problem';
import type { Store } from './query';

export interface PageRow extends PageSize {
  readonly id: string;
  readonly folioId: string;
  readonly name: string;
  readonly position: string;
  readonly revision: number;
  readonly createdAt: number;
  readonly changedAt: number;
}

/** A page as lists show it; `thumbnail` is the revision its picture shows, null before the first. */
export interface ListedPage extends PageRow {
  readonly thumbnail: number | null;
}

const COLUMNS = 'p.id, p.folioId, p.name, p.position, p.width, p.height, p.ppi, p.revision, p.createdAt, p.changedAt';

export const listPages = (store: Store, folioId?: string): Promise<ListedPage[]> =>
  store.all<ListedPage>(
    `SELECT ${COLUMNS}, t.revision AS thumbnail FROM pages p
      JOIN folios f ON f.id = p.folioId AND f.deletedAt IS NULL
      LEFT JOIN thumbnails t ON t.pageId = p.id
      WHERE p.deletedAt IS NULL AND (? IS NULL OR p.folioId = ?) ORDER BY p.folioId, p.position, p.id`,
    folioId ?? null,
    folioId ?? null,
  );

export async function getPage(store: Store, id: string): Promise<ListedPage> {
  const page = await store.one<ListedPage>(
    `SELECT ${COLUMNS}, t.revision AS thumbnail FROM pages p LEFT JOIN thumbnails t ON t.pageId = p.id
      WHERE p.id = ? AND p.deletedAt IS NULL`,
    id,
  );
  if (!page)
    throw new Problem(404, 'There is no such page', 'It may have been deleted. Its folio shows the pages there are.');
  return page;
}

export interface NewPage extends PageSize {
  readonly folioId: string;
  readonly name: string;
  readonly id?: string;
}

/** Adds an empty page after the last one of its folio. */
export async function addPage(
  store: Store,
  { folioId, name, id = randomUUID(), ...size }: NewPage,
): Promise<ListedPage> {
  const { width, height, ppi } = checkSize(size);
  const now = Date.now();
  await store.atomically(async (inside) => {
    const folio = await inside.one('SELECT id FROM folios WHERE id = ? AND deletedAt IS NULL', folioId);
    if (!folio) throw new Problem(404, 'There is no such folio', 'A page needs a folio to lie in.');
    const last = await inside.one<{ position: string }>(
      'SELECT position FROM pages WHERE folioId = ? ORDER BY position DESC LIMIT 1',
      folioId,
    );
    await inside.run(
      `INSERT INTO pages (id, folioId, name, position, width, height, ppi, revision, createdAt, changedAt)
        VALUES ($1, $2, $3, $4, $5, $6, $7, 0, $8, $8)`,
      ...[id, folioId, name, orderBetween(last?.position, undefined), width, height, ppi, now],
    );
  });
  return getPage(store, id);
}

/**
 * Adds a page under an id that its maker has chosen, so that asking twice makes one page. Throws a Problem (409) where that id
 * is another page's.
 */
export function addPageOnce(
  store: Store,
  page: NewPage,
): Promise<{ readonly page: ListedPage; readonly isNew: boolean }> {
  return store.atomically(async (inside) => {
    const { id } = page;
    const known =
      id === undefined ? undefined : await inside.one<PageRow>('SELECT folioId, name FROM pages WHERE id = ?', id);
    if (id === undefined || !known) return { page: await addPage(inside, page), isNew: true };
    if (known.folioId !== page.folioId || known.name !== page.name)
      throw new Problem(409, 'There is such a page already', 'Its id is taken. Ask once more with another one.');
    return { page: await getPage(inside, id), isNew: false };
  });
}

export async function renamePage(store: Store, id: string, name: string): Promise<ListedPage> {
  await getPage(store, id);
  await store.run('UPDATE pages SET name = $1 WHERE id = $2', name, id);
  return getPage(store, id);
}

/** Takes a page out of its folio. Nothing is erased: `restorePage` puts it back. */
export async function deletePage(store: Store, id: string): Promise<void> {
  await getPage(store, id);
  await store.run('UPDATE pages SET deletedAt = $1 WHERE id = $2', Date.now(), id);
}

export async function restorePage(store: Store, id: string): Promise<ListedPage> {
  await store.run('UPDATE pages SET deletedAt = NULL WHERE id = $1', id);
  return getPage(store, id);
}

/** A copy with all that lies on the page and its whole journal, so that undo works in the copy too. */
export function duplicatePage(
  store: Store,
  id: string,
  target: { folioId?: string; name?: string } = {},
): Promise<ListedPage> {
  return store.atomically(async (inside) => {
    const page = await getPage(inside, id);
    const { width, height, ppi } = page;
    const copy = await addPage(inside, {
      folioId: target.folioId ?? page.folioId,
      name: target.name ?? `${page.name} copy`,
      ...{ width, height, ppi },
    });
    const copies = [
      `INSERT INTO entities (pageId, id, kind, bytes) SELECT $1, id, kind, bytes FROM entities WHERE pageId = $2`,
      `INSERT INTO changes (pageId, revision, changeId, author, label, undoes, bytes)
        SELECT $1, revision, changeId, author, label, undoes, bytes FROM changes WHERE pageId = $2`,
      `INSERT INTO thumbnails (pageId, revision, type, bytes) SELECT $1, revision, type, bytes FROM thumbnails WHERE pageId = $2`,
      `INSERT INTO snapshots (pageId, revision, ids, bytes) SELECT $1, revision, ids, bytes FROM snapshots WHERE pageId = $2`,
      `UPDATE pages SET revision = (SELECT revision FROM pages WHERE id = $2) WHERE id = $1`,
    ];
    for (const sql of copies) await inside.run(sql, copy.id, id);
    return getPage(inside, copy.id);
  });
}
