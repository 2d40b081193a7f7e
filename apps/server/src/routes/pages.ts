import { pack, packedList, toJson, unpack } from '@true-nib/core/wire';
import { raw, Router } from 'express';
import { checked, NameBody, PageBody } from '../dto';
import { entityRows } from '../keeping/journal';
import { addPage, deletePage, duplicatePage, getPage, listPages, renamePage, restorePage } from '../keeping/pages';
import type { Store } from '../keeping/query';
import { Snapshots } from '../keeping/snapshots';
import { getThumbnail, keepThumbnail, THUMBNAIL_BYTES } from '../keeping/thumbnails';
import { Problem } from '../problem';
import { addChangeRoutes } from './changes';
import { sendPacked, wantsPacked } from './packed';
import { wholeNumber } from './wholeNumber';

export function pageRoutes(store: Store): Router {
  const routes = Router();
  const snapshots = new Snapshots(store);
  routes.get('/', async (_request, response) => {
    response.json({ pages: await listPages(store) });
  });
  routes.post('/', async (request, response) => {
    response.status(201).json(await addPage(store, checked(PageBody, request.body)));
  });
  routes.get('/:id', async (request, response) => {
    const { id } = request.params;
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
    response.json(await renamePage(store, request.params.id, checked(NameBody, request.body).name));
  });
  routes.delete('/:id', async (request, response) => {
    await deletePage(store, request.params.id);
    response.status(204).end();
  });
  routes.post('/:id/restore', async (request, response) => {
    response.json(await restorePage(store, request.params.id));
  });
  routes.post('/:id/duplicate', async (request, response) => {
    response.status(201).json(await duplicatePage(store, request.params.id));
  });
  addChangeRoutes(routes, store, snapshots);

  routes.get('/:id/thumbnail', async (request, response) => {
    const { type, bytes, revision } = await getThumbnail(store, request.params.id);
    response.set('ETag', `"${revision}"`).set('Cache-Control', 'no-cache').type(type).send(bytes);
  });
  routes.put('/:id/thumbnail', raw({ type: 'image/*', limit: THUMBNAIL_BYTES }), async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body)) throw new Problem(415, 'This is not a picture of a page', 'Send a PNG, JPEG or WebP.');
    await keepThumbnail(store, request.params.id, wholeNumber(request.query.revision, 'revision'), body);
    response.status(204).end();
  });
  return routes;
}
