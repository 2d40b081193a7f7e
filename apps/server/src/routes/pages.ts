import { checkChange } from '@true-nib/core/page';
import { fromJson, PACKED_TYPE, pack, packedList, toJson, unpack } from '@true-nib/core/wire';
import { raw, Router, type Request, type Response } from 'express';
import { checked, checkedChanges, NameBody, PageBody } from '../dto';
import { appendChanges, changeById, entityRows, headersOf, newsFor } from '../keeping/journal';
import { addPage, deletePage, duplicatePage, getPage, listPages, renamePage, restorePage } from '../keeping/pages';
import type { Store } from '../keeping/query';
import { Snapshots } from '../keeping/snapshots';
import { getThumbnail, keepThumbnail, THUMBNAIL_BYTES } from '../keeping/thumbnails';
import { Problem } from '../problem';

const CHANGES_LIMIT = '48mb';

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

  routes.get('/:id/changes', async (request, response) => {
    const { revision } = await getPage(store, request.params.id);
    if (request.query.only === 'headers') {
      response.json({ revision, changes: await headersOf(store, request.params.id) });
      return;
    }
    const { since, lastId } = request.query;
    const stand = {
      since: wholeNumber(since ?? '0', 'since'),
      lastId: lastId === undefined ? undefined : String(lastId),
    };
    sendChanges(request, response, revision, await newsFor(store, request.params.id, stand, revision));
  });
  routes.get('/:id/changes/:changeId', async (request, response) => {
    const { revision } = await getPage(store, request.params.id);
    sendChanges(request, response, revision, [await changeById(store, request.params.id, request.params.changeId)]);
  });
  routes.post('/:id/changes', raw({ type: PACKED_TYPE, limit: CHANGES_LIMIT }), async (request, response) => {
    const body: unknown = Buffer.isBuffer(request.body) ? unpack(request.body) : fromJson(request.body);
    const { changes, ...stand } = checkedChanges(body);
    const appended = await appendChanges(store, request.params.id, stand, changes.map(checkChange));
    snapshots.renewSoon(request.params.id);
    if (appended.outcome === 'saved') response.json({ revision: appended.revision, added: appended.added });
    else if (wantsPacked(request)) sendChanges(request, response.status(409), appended.revision, appended.between);
    else
      throw new Problem(
        409,
        'The page has gone on',
        `It stands at revision ${appended.revision}; here is what came between.`,
        {
          revision: appended.revision,
          changes: appended.between.map((bytes) => toJson(unpack(bytes))),
        },
      );
  });

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

/** A page that is fetched ahead of the app can say so in its address alone. */
const wantsPacked = (request: Request): boolean =>
  request.headers.accept === PACKED_TYPE || request.query.form === 'packed';

/** Sends packed bytes as they are: a page may have tens of MB, which must be neither copied nor hashed for a tag. */
const sendPacked = (response: Response, bytes: Uint8Array) =>
  response
    .type(PACKED_TYPE)
    .set('Cache-Control', 'no-cache')
    .set('Content-Length', String(bytes.byteLength))
    .end(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));

function sendChanges(request: Request, response: Response, revision: number, changes: readonly Uint8Array[]): void {
  if (wantsPacked(request)) sendPacked(response, packedList([pack(revision), packedList(changes)]));
  else response.json({ revision, changes: changes.map((bytes) => toJson(unpack(bytes))) });
}

function wholeNumber(value: unknown, name: string): number {
  if (typeof value !== 'string' || !/^\d{1,15}$/.test(value))
    throw new Problem(400, 'The request is not filled in right', `"${name}" needs a whole number.`);
  return Number(value);
}
