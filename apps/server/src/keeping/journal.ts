import {
  applyChange,
  editedId,
  limitedKinds,
  refsOf,
  EntityMap,
  type Change,
  type ChangeHeader,
  type Page,
} from '@true-nib/core/page';
import { pack, unpackEntity } from '@true-nib/core/wire';
import type { EntityId } from '@true-nib/core/kind';
import { Problem } from '../problem';
import { hasBlob } from './blobs';
import { getPage } from './pages';
import type { Store } from './query';

/** SQLite binds at most 999 values in older builds; lists are asked for in parts. */
const PART = 500;
/** Rows that are written in one go: three values each. */
const ROWS = 200;

interface EntityRow {
  readonly id: EntityId;
  readonly bytes: Buffer;
}

/** The entities of a page, or those of them that are asked for, packed. */
export async function entityRows(store: Store, pageId: string, ids?: readonly EntityId[]): Promise<EntityRow[]> {
  if (!ids) return store.all<EntityRow>('SELECT id, bytes FROM entities WHERE pageId = ?', pageId);
  const found = await Promise.all(
    parts(ids).map((part) =>
      store.all<EntityRow>(
        `SELECT id, bytes FROM entities WHERE pageId = ? AND id IN (${part.map(() => '?').join(', ')})`,
        ...[pageId, ...part],
      ),
    ),
  );
  return found.flat();
}

/** Changes, and about how many bytes, that one answer holds: whoever lacks more asks again. */
const MOST = { changes: 1_000, bytes: 16 * 2 ** 20 } as const;

/** The first changes after revision `since`, oldest first, packed: as many as fit an answer, one at least. */
async function firstSince(store: Store, pageId: string, since: number): Promise<Uint8Array[]> {
  const rows = await store.all<{ length: number }>(
    'SELECT LENGTH(bytes) AS length FROM changes WHERE pageId = ? AND revision > ? ORDER BY revision LIMIT ?',
    ...[pageId, since, MOST.changes],
  );
  let [count, bytes] = [0, 0];
  for (const { length } of rows) {
    if (count > 0 && bytes + length > MOST.bytes) break;
    bytes += length;
    count++;
  }
  return changesSince(store, pageId, since, count);
}

/** So many changes after revision `since`, oldest first, packed. */
export async function changesSince(store: Store, pageId: string, since: number, most: number): Promise<Uint8Array[]> {
  const rows = await store.all<{ bytes: Buffer }>(
    'SELECT bytes FROM changes WHERE pageId = ? AND revision > ? ORDER BY revision LIMIT ?',
    ...[pageId, since, most],
  );
  return rows.map((row) => row.bytes);
}

export async function changeById(store: Store, pageId: string, changeId: string): Promise<Uint8Array> {
  const row = await store.one<{ bytes: Buffer }>(
    'SELECT bytes FROM changes WHERE pageId = ? AND changeId = ?',
    pageId,
    changeId,
  );
  if (!row) throw new Problem(404, 'There is no such change', 'The journal of this page does not hold it.');
  return row.bytes;
}

/** Who did what, oldest first: enough to know what can be undone. */
export async function headersOf(store: Store, pageId: string): Promise<ChangeHeader[]> {
  const rows = await store.all<{ id: string; by: string; label: string; undoes: string | null }>(
    'SELECT changeId AS id, author AS "by", label, undoes FROM changes WHERE pageId = ? ORDER BY revision',
    pageId,
  );
  return rows.map(({ undoes, ...header }) => (undoes === null ? header : { ...header, undoes }));
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
  const row = await store.one<{ changeId: string }>(
    'SELECT changeId FROM changes WHERE pageId = ? AND revision = ?',
    ...[pageId, since],
  );
  if (row?.changeId !== lastId)
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
    for (const [k, change] of fresh.entries()) await writeChange(inside, pageId, revision + 1 + k, change);
    await inside.run(
      'UPDATE pages SET revision = $1, changedAt = $2 WHERE id = $3',
      revision + fresh.length,
      Date.now(),
      pageId,
    );
    return { outcome: 'saved', revision: revision + fresh.length, added: fresh.length };
  });
}

/** At which revision the journal took those of the changes that it holds already. */
async function knownRevisions(store: Store, pageId: string, changes: readonly Change[]): Promise<Map<string, number>> {
  const known = new Map<string, number>();
  for (const part of parts(changes.map((change) => change.id))) {
    const rows = await store.all<{ changeId: string; revision: number }>(
      `SELECT changeId, revision FROM changes WHERE pageId = ? AND changeId IN (${part.map(() => '?').join(', ')})`,
      ...[pageId, ...part],
    );
    for (const { changeId, revision } of rows) known.set(changeId, revision);
  }
  return known;
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
  for (const { kind, count, inWords } of limitedKinds(changes.flatMap(({ edits }) => edits))) {
    const row = await store.one<{ count: number }>(
      'SELECT COUNT(*) AS count FROM entities WHERE pageId = ? AND kind = ?',
      pageId,
      kind,
    );
    if ((row?.count ?? 0) > count) throw new Problem(400, 'Too many', inWords);
  }
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
  // Many rows in one question: each costs the driver as much as a hundred of them.
  for (const part of parts(fresh, ROWS))
    await store.run(
      `INSERT OR REPLACE INTO entities (pageId, kind, id, bytes) VALUES ${part.map((_, k) => `($1, $${3 * k + 2}, $${3 * k + 3}, $${3 * k + 4})`).join(', ')}`,
      pageId,
      ...part.flatMap((entity) => [entity.kind, entity.id, Buffer.from(pack(entity))]),
    );
  const gone = [...ids].filter((id) => before.get(id) && !after.get(id));
  for (const part of parts(gone))
    await store.run(
      `DELETE FROM entities WHERE pageId = $1 AND id IN (${part.map((_, k) => `$${k + 2}`).join(', ')})`,
      pageId,
      ...part,
    );
}

const writeChange = (store: Store, pageId: string, revision: number, change: Change): Promise<void> =>
  store.run(
    'INSERT INTO changes (pageId, revision, changeId, author, label, undoes, bytes) VALUES ($1, $2, $3, $4, $5, $6, $7)',
    ...[pageId, revision, change.id, change.by, change.label, change.undoes ?? null, Buffer.from(pack(change))],
  );

const parts = <T>(values: readonly T[], most = PART): T[][] =>
  Array.from({ length: Math.ceil(values.length / most) }, (_, k) => values.slice(k * most, (k + 1) * most));
