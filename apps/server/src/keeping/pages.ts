import { randomUUID } from 'node:crypto';
import { checkSize, orderBetween, type PageSize } from '@true-nib/core/page';
import type { FindOptions } from 'sequelize';
import { Problem } from '../problem';
import { NAME_LENGTH, type PageRow } from './models';
import { copyRows } from './rows';
import type { Store } from './store';

/** A page as lists show it; `thumbnail` is the revision its picture shows, null before the first. */
export interface ListedPage extends PageSize {
  readonly id: string;
  readonly folioId: string;
  readonly name: string;
  readonly position: string;
  readonly revision: number;
  readonly createdAt: number;
  readonly changedAt: number;
  readonly thumbnail: number | null;
}

function listed(row: PageRow): ListedPage {
  const { id, folioId, name, position, width, height, ppi, revision, createdAt, changedAt, thumbnail } = row;
  return {
    ...{ id, folioId, name, position, width, height, ppi, revision, createdAt, changedAt },
    thumbnail: thumbnail?.revision ?? null,
  };
}

const withThumbnail = ({ thumbnails }: Store) => ({
  model: thumbnails,
  as: 'thumbnail',
  attributes: ['revision'],
});

/** The pages of a folio in their order, or those of all folios, folio by folio. */
export async function listPages(store: Store, folioId?: string): Promise<ListedPage[]> {
  const options: FindOptions<PageRow> = {
    ...(folioId === undefined ? {} : { where: { folioId } }),
    // Only those whose folio is there.
    include: [withThumbnail(store), { model: store.folios, as: 'folio', attributes: [], required: true }],
    order: ['folioId', 'position', 'id'],
  };
  return (await store.pages.findAll({ ...options, ...store.within })).map(listed);
}

async function pageRow(store: Store, id: string): Promise<PageRow> {
  const page = await store.pages.findByPk(id, { include: withThumbnail(store), ...store.within });
  if (!page)
    throw new Problem(404, 'There is no such page', 'It may have been deleted. Its folio shows the pages there are.');
  return page;
}

export const getPage = async (store: Store, id: string): Promise<ListedPage> => listed(await pageRow(store, id));

export interface NewPage extends PageSize {
  readonly folioId: string;
  readonly name: string;
  readonly id?: string;
}

/** Adds an empty page after the last one of its folio. */
export function addPage(store: Store, { folioId, name, id = randomUUID(), ...size }: NewPage): Promise<ListedPage> {
  const { width, height, ppi } = checkSize(size);
  const now = Date.now();
  return store.atomically(async ({ folios, pages, within }) => {
    if (!(await folios.findByPk(folioId, within)))
      throw new Problem(404, 'There is no such folio', 'A page needs a folio to lie in.');
    // Also after one that is deleted: it may come back.
    const last = await pages.unscoped().findOne({ where: { folioId }, order: [['position', 'DESC']], ...within });
    const position = orderBetween(last?.position, undefined);
    const times = { createdAt: now, changedAt: now };
    return listed(await pages.create({ id, folioId, name, position, width, height, ppi, ...times }, within));
  });
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
    const known = id === undefined ? null : await inside.pages.unscoped().findByPk(id, inside.within);
    if (id === undefined || !known) return { page: await addPage(inside, page), isNew: true };
    if (known.folioId !== page.folioId || known.name !== page.name)
      throw new Problem(409, 'There is such a page already', 'Its id is taken. Ask once more with another one.');
    return { page: await getPage(inside, id), isNew: false };
  });
}

export const renamePage = (store: Store, id: string, name: string): Promise<ListedPage> =>
  store.atomically(async (inside) => listed(await (await pageRow(inside, id)).update({ name }, inside.within)));

/** Puts a page at a place among those of its folio, from 1 on; beyond the last it comes last. */
export const placePage = (store: Store, id: string, place: number): Promise<ListedPage> =>
  store.atomically(async (inside) => {
    const row = await pageRow(inside, id);
    const { folioId } = row;
    const shown = (await listPages(inside, folioId)).filter((page) => page.id !== id);
    const before = shown.at(Math.min(place, shown.length + 1) - 2)?.id;
    // Among those that are deleted too: they may come back.
    const options = { where: { folioId }, order: ['position', 'id'], ...inside.within };
    const others = (await inside.pages.unscoped().findAll(options)).filter((page) => page.id !== id);
    const at = place <= 1 ? 0 : others.findIndex((page) => page.id === before) + 1;
    const position = orderBetween(at > 0 ? others[at - 1].position : undefined, others.at(at)?.position);
    return listed(await row.update({ position }, inside.within));
  });

/** Takes a page out of its folio. Nothing is erased: `restorePage` puts it back. */
export const deletePage = (store: Store, id: string): Promise<void> =>
  store.atomically(async (inside) => {
    await (await pageRow(inside, id)).update({ deletedAt: Date.now() }, inside.within);
  });

export const restorePage = (store: Store, id: string): Promise<ListedPage> =>
  store.atomically(async (inside) => {
    await inside.pages.unscoped().update({ deletedAt: null }, { where: { id }, ...inside.within });
    return getPage(inside, id);
  });

/** A copy with all that lies on the page and its whole journal, so that undo works in the copy too. */
export const duplicatePage = (
  store: Store,
  id: string,
  target: { readonly folioId?: string; readonly name?: string } = {},
): Promise<ListedPage> =>
  store.atomically(async (inside) => {
    const { folioId, name, revision, width, height, ppi } = await getPage(inside, id);
    const copy = await addPage(inside, {
      folioId: target.folioId ?? folioId,
      name: target.name ?? copyName(name),
      ...{ width, height, ppi },
    });
    await copyRows(inside, id, copy.id);
    await inside.pages.update({ revision }, { where: { id: copy.id }, ...inside.within });
    return getPage(inside, copy.id);
  });

const COPY = ' copy';

/** What the copy of something is called: no longer than a name may be. */
export const copyName = (name: string): string => `${[...name].slice(0, NAME_LENGTH - COPY.length).join('')}${COPY}`;
