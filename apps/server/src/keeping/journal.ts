import { applyChange, editedId, limitedKinds, refsOf, EntityMap, type Change, type Page } from '@true-nib/core/page';
import { unpackEntity } from '@true-nib/core/wire';
import type { EntityId } from '@true-nib/core/kind';
import { Problem } from '../problem';
import { hasBlob } from './blobs';
import { getPage } from './pages';
import {
  changeById,
  changeIdAt,
  changeLengths,
  changesSince,
  countOfKind,
  dropEntities,
  entityRows,
  knownRevisions,
  putChange,
  putEntities,
} from './rows';
import type { Store } from './store';

/** Changes, and about how many bytes, that one answer holds: whoever lacks more asks again. */
const MOST = { changes: 1_000, bytes: 16 * 2 ** 20 } as const;

/** The first changes after revision `since`, oldest first, packed: as many as fit an answer, one at least. */
async function firstSince(store: Store, pageId: string, since: number): Promise<Uint8Array[]> {
  let [count, bytes] = [0, 0];
  for (const length of await changeLengths(store, pageId, since, MOST.changes)) {
    if (count > 0 && bytes + length > MOST.bytes) break;
    bytes += length;
    count++;
  }
  return changesSince(store, pageId, since, count);
}

/** One change of a page, packed. Throws a Problem where there is none of that id. */
export async function getChange(store: Store, pageId: string, changeId: string): Promise<Uint8Array> {
  const bytes = await changeById(store, pageId, changeId);
  if (!bytes) throw new Problem(404, 'There is no such change', 'The journal of this page does not hold it.');
  return bytes;
}

/** Where somebody stands who knows a page: at which revision, and which change that was. */
export interface Stand {
  readonly since: number;
  /** Left out, the number alone is trusted. */
  readonly lastId?: string;
}

/**
 * The changes that somebody does not know yet, oldest first, packed, as many as fit an answer. Throws a Problem (412) when
 * the journal never stood where they stand: a copy of the database was put back.
 */
export async function newsFor(store: Store, pageId: string, stand: Stand, revision: number): Promise<Uint8Array[]> {
  await requireStand(store, pageId, stand, revision);
  return firstSince(store, pageId, stand.since);
}

async function requireStand(store: Store, pageId: string, { since, lastId }: Stand, revision: number): Promise<void> {
  if (since > revision)
    throw new Problem(
      412,
      'This revision does not exist yet',
      `The page stands at revision ${revision}; ${since} was named.`,
    );
  if (since === 0 || lastId === undefined) return;
  if ((await changeIdAt(store, pageId, since)) !== lastId)
    throw new Problem(412, 'This revision is another one', `Revision ${since} is not the change "${lastId}".`);
}

export type Appended =
  | { readonly outcome: 'saved'; readonly revision: number; readonly added: number }
  | { readonly outcome: 'stale'; readonly revision: number; readonly between: Uint8Array[] };

/**
 * Appends changes to a page's journal and brings its entities up to date: all of them or none. Changes that are there
 * already are passed over, so sending twice is harmless. When the sender has not seen what others saved, nothing is
 * saved and the answer holds what came between, or the first of it.
 */
export function appendChanges(
  store: Store,
  pageId: string,
  stand: Stand,
  changes: readonly Change[],
): Promise<Appended> {
  const { since } = stand;
  return store.atomically(async (inside): Promise<Appended> => {
    const { revision, width, height, ppi } = await getPage(inside, pageId);
    await requireStand(inside, pageId, stand, revision);
    const known = await knownRevisions(inside, pageId, changes);
    const met = new Set(known.keys());
    const fresh = changes.filter(({ id }) => !met.has(id) && met.add(id));
    const own = [...known.values()].filter((at) => at > since).length;
    if (since + own < revision || (fresh.length > 0 && since < revision))
      return { outcome: 'stale', revision, between: await firstSince(inside, pageId, since) };
    if (fresh.length === 0) return { outcome: 'saved', revision, added: 0 };
    let page: Page = { size: { width, height, ppi }, entities: await touched(inside, pageId, fresh) };
    const before = page.entities;
    for (const change of fresh) {
      await requireBlobs(inside, change);
      page = applyChange(page, change);
    }
    await writeEntities(inside, pageId, before, page.entities, fresh);
    await refuseTooMany(inside, pageId, fresh);
    for (const [k, change] of fresh.entries()) await putChange(inside, pageId, revision + 1 + k, change);
    await inside.pages.update(
      { revision: revision + fresh.length, changedAt: Date.now() },
      { where: { id: pageId }, ...inside.within },
    );
    return { outcome: 'saved', revision: revision + fresh.length, added: fresh.length };
  });
}

/** The present entities that the changes edit or need. */
async function touched(store: Store, pageId: string, changes: readonly Change[]): Promise<EntityMap> {
  const ids = new Set(changes.flatMap((change) => [...change.needs, ...change.edits.map(editedId)]));
  const rows = await entityRows(store, pageId, [...ids]);
  return EntityMap.of(rows.map((row) => unpackEntity(row.bytes)));
}

async function requireBlobs(store: Store, change: Change): Promise<void> {
  const refs = change.edits.flatMap(({ after }) => (after && refsOf(after).blobs) ?? []);
  for (const blob of new Map(refs.map((ref) => [`${ref.as} ${ref.sha256}`, ref])).values())
    if (!(await hasBlob(store, blob)))
      throw new Problem(
        400,
        'The picture itself is missing',
        `Its bytes were not sent before it, or are no ${blob.as}: ${blob.sha256.slice(0, 12)}….`,
      );
}

/** Some kinds may be on a page only so many times, counting those that no change here has touched. */
async function refuseTooMany(store: Store, pageId: string, changes: readonly Change[]): Promise<void> {
  for (const { kind, count, inWords } of limitedKinds(changes.flatMap(({ edits }) => edits)))
    if ((await countOfKind(store, pageId, kind)) > count) throw new Problem(400, 'Too many', inWords);
}

async function writeEntities(
  store: Store,
  pageId: string,
  before: EntityMap,
  after: EntityMap,
  changes: readonly Change[],
): Promise<void> {
  const ids = new Set<EntityId>(changes.flatMap((change) => change.edits.map(editedId)));
  const fresh = [...ids].flatMap((id) => after.get(id) ?? []).filter((entity) => entity !== before.get(entity.id));
  await putEntities(store, pageId, fresh);
  await dropEntities(
    store,
    pageId,
    [...ids].filter((id) => before.get(id) && !after.get(id)),
  );
}
