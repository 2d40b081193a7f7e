import { checkChange } from '@true-nib/core/page';
import { fromJson, PACKED_TYPE, pack, packedList, toJson, unpack } from '@true-nib/core/wire';
import { raw, type Request, type Response, type Router } from 'express';
import { ChangeParams, ChangesQuery, checked, checkedChanges } from '../dto';
import { appendChanges, getChange, newsFor } from '../keeping/journal';
import { getPage } from '../keeping/pages';
import { headersOf } from '../keeping/rows';
import type { Store } from '../keeping/store';
import type { Snapshots } from '../keeping/snapshots';
import { Problem } from '../problem';
import { idOf } from './idOf';
import { sendPacked, wantsPacked } from './packed';

const CHANGES_LIMIT = '48mb';

/** What was done to a page: reading the journal, and adding to it. */
export function addChangeRoutes(routes: Router, store: Store, snapshots: Snapshots): void {
  routes.get('/:id/changes', async (request, response) => {
    const id = idOf(request);
    const { only, since = '0', lastId } = checked(ChangesQuery, request.query);
    const { revision } = await getPage(store, id);
    if (only === 'headers') return void response.json({ revision, changes: await headersOf(store, id) });
    sendChanges(request, response, revision, await newsFor(store, id, { since: Number(since), lastId }, revision));
  });
  routes.get('/:id/changes/:changeId', async (request, response) => {
    const { id, changeId } = checked(ChangeParams, request.params);
    const { revision } = await getPage(store, id);
    sendChanges(request, response, revision, [await getChange(store, id, changeId)]);
  });
  routes.post('/:id/changes', raw({ type: PACKED_TYPE, limit: CHANGES_LIMIT }), async (request, response) => {
    const id = idOf(request);
    const body: unknown = Buffer.isBuffer(request.body) ? unpack(request.body) : fromJson(request.body);
    const { changes, ...stand } = checkedChanges(body);
    const appended = await appendChanges(store, id, stand, changes.map(checkChange));
    snapshots.renewSoon(id);
    if (appended.outcome === 'saved') response.json({ revision: appended.revision, added: appended.added });
    // Two who draw on one page ask like this all the time: to our own pages it is no mistake.
    else if (wantsPacked(request)) sendChanges(request, response, appended.revision, appended.between);
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
