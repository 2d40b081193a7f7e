import { randomUUID } from 'node:crypto';
import { laySheet, newPage, READINGS, type Opening } from '@true-nib/core/page';
import { Problem } from '../problem';
import type { FolioRow } from './models';
import { appendChanges } from './journal';
import { addPageOnce, copyName, duplicatePage, getPage, listPages, type ListedPage, type NewPage } from './pages';
import type { Store } from './store';

export interface Folio extends Opening {
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

const folioOf = ({ id, name, reads, firstAlone, createdAt }: FolioRow): Folio => ({
  ...{ id, name, reads, firstAlone, createdAt },
});

/** All folios, the one that was worked on last first. */
export async function listFolios(store: Store): Promise<ShelvedFolio[]> {
  const [folios, pages] = await Promise.all([
    store.folios.findAll({ order: [['id', 'ASC']], ...store.within }),
    listPages(store),
  ]);
  return folios
    .map((folio) => {
      const own = pages.filter(({ folioId }) => folioId === folio.id);
      return shelved(folioOf(folio), own);
    })
    .sort((a, b) => b.changedAt - a.changedAt);
}

function shelved(folio: Folio, pages: readonly ListedPage[]): ShelvedFolio {
  const first = pages.at(0);
  return {
    ...folio,
    pageCount: pages.length,
    changedAt: pages.length > 0 ? Math.max(...pages.map(({ changedAt }) => changedAt)) : folio.createdAt,
    cover: first ? { pageId: first.id, thumbnail: first.thumbnail, width: first.width, height: first.height } : null,
  };
}

async function folioRow(store: Store, id: string): Promise<FolioRow> {
  const folio = await store.folios.findByPk(id, store.within);
  if (!folio)
    throw new Problem(404, 'There is no such folio', 'It may have been deleted. The shelf shows the folios there are.');
  return folio;
}

export const getFolio = async (store: Store, id: string): Promise<Folio> => folioOf(await folioRow(store, id));

export const addFolio = (store: Store, name: string, id: string = randomUUID()): Promise<Folio> =>
  store.atomically(async ({ folios, within }) =>
    folioOf(await folios.create({ id, name, createdAt: Date.now() }, within)),
  );

/** Calls a folio otherwise, or has its pages follow each other otherwise. */
export const changeFolio = (
  store: Store,
  id: string,
  change: Partial<Pick<Folio, 'name' | 'reads' | 'firstAlone'>>,
): Promise<Folio> =>
  store.atomically(async (inside) => folioOf(await (await folioRow(inside, id)).update(change, inside.within)));

/** Adds a page to a folio as `addPageOnce` does; it is read as the folio is. */
export const addPageTo = (
  store: Store,
  wanted: NewPage,
): Promise<{ readonly page: ListedPage; readonly isNew: boolean }> =>
  store.atomically(async (inside) => {
    const { page, isNew } = await addPageOnce(inside, wanted);
    const { reads } = await getFolio(inside, page.folioId);
    if (!isNew || reads === READINGS[0]) return { page, isNew };
    const sheet = { ...laySheet(newPage(page), { reads }), id: `${page.id}:read`, by: 'shelf', at: page.createdAt };
    await appendChanges(inside, page.id, { since: 0 }, [sheet]);
    return { page: await getPage(inside, page.id), isNew };
  });

/** Takes a folio off the shelf. Nothing is erased: `restoreFolio` puts it back. */
export const deleteFolio = (store: Store, id: string): Promise<void> =>
  store.atomically(async (inside) => {
    await (await folioRow(inside, id)).update({ deletedAt: Date.now() }, inside.within);
  });

export const restoreFolio = (store: Store, id: string): Promise<Folio> =>
  store.atomically(async (inside) => {
    await inside.folios.unscoped().update({ deletedAt: null }, { where: { id }, ...inside.within });
    return getFolio(inside, id);
  });

export const duplicateFolio = (store: Store, id: string): Promise<Folio> =>
  store.atomically(async (inside) => {
    const folio = await getFolio(inside, id);
    const { reads, firstAlone } = folio;
    const { id: copyId } = await addFolio(inside, copyName(folio.name));
    const copy = await changeFolio(inside, copyId, { reads, firstAlone });
    for (const page of await listPages(inside, id))
      await duplicatePage(inside, page.id, { folioId: copy.id, name: page.name });
    return copy;
  });
