import { pack, packedList, toJson, unpack } from '@true-nib/core/wire';
import { raw, Router } from 'express';
import { checked, PageBody, PageChangeBody, ThumbnailQuery } from '../dto';
import { addPageTo } from '../keeping/folios';
import { deletePage, duplicatePage, getPage, listPages, placePage, renamePage, restorePage } from '../keeping/pages';
import { entityRows } from '../keeping/rows';
import type { Store } from '../keeping/store';
import { Snapshots } from '../keeping/snapshots';
import { getThumbnail, keepThumbnail, THUMBNAIL_BYTES } from '../keeping/thumbnails';
import { Problem } from '../problem';
import { addChangeRoutes } from './changes';
import { idOf } from './idOf';
import { sendPacked, wantsPacked } from './packed';

export function pageRoutes(store: Store): Router {
  const routes = Router();
  const snapshots = new Snapshots(store);
  routes.get('/', async (_request, response) => {
    response.json({ pages: await listPages(store) });
  });
  routes.post('/', async (request, response) => {
    const { page, isNew } = await addPageTo(store, checked(PageBody, request.body));
    response.status(isNew ? 201 : 200).json(page);
  });
  routes.get('/:id', async (request, response) => {
    const id = idOf(request);
    if (wantsPacked(request)) {
      const { page, packed } = await snapshots.open(id);
      return void sendPacked(response, packedList([pack(page), packed]));
    }
    // Entities and revision must belong together.
    const { page, rows } = await store.atomically(async (inside) => ({
      page: await getPage(inside, id),
      rows: await entityRows(inside, id),
    }));
    response.json({ ...page, entities: rows.map(({ bytes }) => toJson(unpack(bytes))) });
  });
  routes.patch('/:id', async (request, response) => {
    const id = idOf(request);
    const { name, place } = checked(PageChangeBody, request.body);
    response.json(
      await store.atomically(async (inside) => {
        if (name !== undefined) await renamePage(inside, id, name);
        return place === undefined ? getPage(inside, id) : placePage(inside, id, place);
      }),
    );
  });
  routes.delete('/:id', async (request, response) => {
    await deletePage(store, idOf(request));
    response.status(204).end();
  });
  routes.post('/:id/restore', async (request, response) => {
    response.json(await restorePage(store, idOf(request)));
  });
  routes.post('/:id/duplicate', async (request, response) => {
    response.status(201).json(await duplicatePage(store, idOf(request)));
  });
  addChangeRoutes(routes, store, snapshots);

  routes.get('/:id/thumbnail', async (request, response) => {
    const thumbnail = await getThumbnail(store, idOf(request));
    // A new page is no mistake of whoever asks.
    if (!thumbnail) return void response.status(204).end();
    const { type, bytes, revision } = thumbnail;
    response.set('ETag', `"${revision}"`).set('Cache-Control', 'no-cache').type(type).send(bytes);
  });
  routes.put('/:id/thumbnail', raw({ type: 'image/*', limit: THUMBNAIL_BYTES }), async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body)) throw new Problem(415, 'This is not a picture of a page', 'Send a PNG, JPEG or WebP.');
    await keepThumbnail(store, idOf(request), Number(checked(ThumbnailQuery, request.query).revision), body);
    response.status(204).end();
  });
  return routes;
}
