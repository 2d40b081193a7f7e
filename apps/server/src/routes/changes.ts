import { checkChange } from '@true-nib/core/page';
import { fromJson, PACKED_TYPE, pack, packedList, toJson, unpack } from '@true-nib/core/wire';
import { raw, type Request, type Response, type Router } from 'express';
import { checkedChanges } from '../dto';
import { appendChanges, changeById, headersOf, newsFor } from '../keeping/journal';
import { getPage } from '../keeping/pages';
import type { Store } from '../keeping/query';
import type { Snapshots } from '../keeping/snapshots';
import { Problem } from '../problem';
import { sendPacked, wantsPacked } from './packed';
import { wholeNumber } from './wholeNumber';

const CHANGES_LIMIT = '48mb';

/** What was done to a page: reading the journal, and adding to it. */
export function addChangeRoutes(routes: Router, store: Store, snapshots: Snapshots): void {
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
}

function sendChanges(request: Request, response: Response, revision: number, changes: readonly Uint8Array[]): void {
  if (wantsPacked(request)) sendPacked(response, packedList([pack(revision), packedList(changes)]));
  else response.json({ revision, changes: changes.map((bytes) => toJson(unpack(bytes))) });
}
