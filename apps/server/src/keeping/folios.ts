import { randomUUID } from 'node:crypto';
import { Problem } from '../problem';
import { duplicatePage } from './pages';
import type { Store } from './query';

export interface Folio {
  readonly id: string;
  readonly name: string;
  readonly createdAt: number;
}

/** A folio as the shelf shows it: with how many pages, and the page whose picture is its cover. */
export interface ShelvedFolio extends Folio {
  readonly pageCount: number;
  readonly changedAt: number;
  readonly cover: {
    readonly pageId: string;
    readonly thumbnail: number | null;
    readonly width: number;
    readonly height: number;
  } | null;
}

interface ShelfRow extends Folio {
  readonly pageCount: number;
  readonly changedAt: number | null;
  readonly pageId: string | null;
  readonly thumbnail: number | null;
  readonly width: number;
  readonly height: number;
}

export async function listFolios(store: Store): Promise<ShelvedFolio[]> {
  const rows = await store.all<ShelfRow>(
    `SELECT f.id, f.name, f.createdAt, p.id AS pageId, p.width, p.height, t.revision AS thumbnail,
        (SELECT COUNT(*) FROM pages q WHERE q.folioId = f.id AND q.deletedAt IS NULL) AS pageCount,
        (SELECT MAX(changedAt) FROM pages q WHERE q.folioId = f.id AND q.deletedAt IS NULL) AS changedAt
      FROM folios f
      LEFT JOIN pages p ON p.id = (SELECT id FROM pages q WHERE q.folioId = f.id AND q.deletedAt IS NULL ORDER BY position LIMIT 1)
      LEFT JOIN thumbnails t ON t.pageId = p.id
      WHERE f.deletedAt IS NULL ORDER BY COALESCE(changedAt, f.createdAt) DESC, f.id`,
  );
  return rows.map(({ pageId, thumbnail, width, height, changedAt, ...folio }) => ({
    ...folio,
    changedAt: changedAt ?? folio.createdAt,
    cover: pageId === null ? null : { pageId, thumbnail, width, height },
  }));
}

export async function getFolio(store: Store, id: string): Promise<Folio> {
  const folio = await store.one<Folio>('SELECT id, name, createdAt FROM folios WHERE id = ? AND deletedAt IS NULL', id);
  if (!folio)
    throw new Problem(404, 'There is no such folio', 'It may have been deleted. The shelf shows the folios there are.');
  return folio;
}

export async function addFolio(store: Store, name: string, id: string = randomUUID()): Promise<Folio> {
  const folio = { id, name, createdAt: Date.now() };
  await store.run(
    'INSERT INTO folios (id, name, createdAt) VALUES ($1, $2, $3)',
    folio.id,
    folio.name,
    folio.createdAt,
  );
  return folio;
}

export async function renameFolio(store: Store, id: string, name: string): Promise<Folio> {
  const folio = await getFolio(store, id);
  await store.run('UPDATE folios SET name = $1 WHERE id = $2', name, id);
  return { ...folio, name };
}

/** Takes a folio off the shelf. Nothing is erased: `restoreFolio` puts it back. */
export async function deleteFolio(store: Store, id: string): Promise<void> {
  await getFolio(store, id);
  await store.run('UPDATE folios SET deletedAt = $1 WHERE id = $2', Date.now(), id);
}

export async function restoreFolio(store: Store, id: string): Promise<Folio> {
  await store.run('UPDATE folios SET deletedAt = NULL WHERE id = $1', id);
  return getFolio(store, id);
}

export function duplicateFolio(store: Store, id: string): Promise<Folio> {
  return store.atomically(async (inside) => {
    const folio = await getFolio(inside, id);
    const copy = await addFolio(inside, `${folio.name} copy`);
    const pages = await inside.all<{ id: string; name: string }>(
      'SELECT id, name FROM pages WHERE folioId = ? AND deletedAt IS NULL ORDER BY position',
      id,
    );
    for (const page of pages) await duplicatePage(inside, page.id, { folioId: copy.id, name: page.name });
    return copy;
  });
}
