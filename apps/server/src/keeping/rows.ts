import type { EntityId } from '@true-nib/core/kind';
import { pack } from '@true-nib/core/wire';
import type { Change, ChangeHeader, Entity } from '@true-nib/core/page';
import { QueryTypes } from 'sequelize';
import type { Store } from './store';

// All that is asked for in SQL. The rows of journals and entities come by the thousand: as instances of a model 20,000 of
// them take 3.7 times as long to read (542 ms against 146, median of five), and their bytes need not pass through here at
// all to be counted or copied.

/** SQLite binds at most 999 values in older builds; lists are asked for in parts. */
const PART = 500;
/** Rows that are written in one go: three values each. */
const ROWS = 200;

/** A value that SQLite can bind. */
type Bound = string | number | null | Buffer;

export interface EntityRow {
  readonly id: EntityId;
  readonly bytes: Buffer;
}

const select = <Row extends object>(
  { database, within }: Store,
  sql: string,
  ...values: readonly Bound[]
): Promise<Row[]> => database.query<Row>(sql, { bind: [...values], type: QueryTypes.SELECT, ...within });

async function run({ database, within }: Store, sql: string, ...values: readonly Bound[]): Promise<void> {
  if (!within.transaction) throw new TypeError('A write needs a transaction: see Store.atomically.');
  await database.query(sql, { bind: [...values], ...within });
}

/** $2, $3 … for so many values after the first. */
const marks = (values: readonly unknown[]): string => values.map((_, k) => `$${k + 2}`).join(', ');

const parts = <T>(values: readonly T[], most = PART): T[][] =>
  Array.from({ length: Math.ceil(values.length / most) }, (_, k) => values.slice(k * most, (k + 1) * most));

const sum = async (store: Store, sql: string, ...values: readonly Bound[]): Promise<number> =>
  (await select<{ sum: number | null }>(store, sql, ...values)).at(0)?.sum ?? 0;

// Entities: up to forty thousand rows of a page at once.

/** The entities of a page, or those of them that are asked for, packed. */
export async function entityRows(store: Store, pageId: string, ids?: readonly EntityId[]): Promise<EntityRow[]> {
  if (!ids) return select<EntityRow>(store, 'SELECT id, bytes FROM entities WHERE pageId = $1', pageId);
  const found = await Promise.all(
    parts(ids).map((part) =>
      select<EntityRow>(
        store,
        `SELECT id, bytes FROM entities WHERE pageId = $1 AND id IN (${marks(part)})`,
        ...[pageId, ...part],
      ),
    ),
  );
  return found.flat();
}

/** The entities of some kinds. Those of a row from before kinds were told are among them, whatever they are. */
export const entitiesOfKinds = (store: Store, pageId: string, kinds: readonly string[]): Promise<EntityRow[]> =>
  select<EntityRow>(
    store,
    `SELECT id, bytes FROM entities WHERE pageId = $1 AND kind IN ('', ${marks(kinds)})`,
    ...[pageId, ...kinds],
  );

/** Many rows in one question: each costs the driver as much as a hundred of them. */
export async function putEntities(store: Store, pageId: string, entities: readonly Entity[]): Promise<void> {
  for (const part of parts(entities, ROWS))
    await run(
      store,
      `INSERT OR REPLACE INTO entities (pageId, kind, id, bytes) VALUES ${part.map((_, k) => `($1, $${3 * k + 2}, $${3 * k + 3}, $${3 * k + 4})`).join(', ')}`,
      pageId,
      ...part.flatMap((entity) => [entity.kind, entity.id, Buffer.from(pack(entity))]),
    );
}

export async function dropEntities(store: Store, pageId: string, ids: readonly EntityId[]): Promise<void> {
  for (const part of parts(ids))
    await run(store, `DELETE FROM entities WHERE pageId = $1 AND id IN (${marks(part)})`, pageId, ...part);
}

/** How many entities of a kind a page has. Asked with every change, of an index that holds nothing but these. */
export const countOfKind = (store: Store, pageId: string, kind: string): Promise<number> =>
  sum(store, 'SELECT COUNT(*) AS sum FROM entities WHERE pageId = $1 AND kind = $2', pageId, kind);

// The journal: as long as a page was worked on.

/** So many changes after revision `since`, oldest first, packed. */
export async function changesSince(store: Store, pageId: string, since: number, most: number): Promise<Uint8Array[]> {
  const rows = await select<{ bytes: Buffer }>(
    store,
    'SELECT bytes FROM changes WHERE pageId = $1 AND revision > $2 ORDER BY revision LIMIT $3',
    ...[pageId, since, most],
  );
  return rows.map((row) => row.bytes);
}

/** How many bytes each of so many changes after revision `since` has. */
export async function changeLengths(store: Store, pageId: string, since: number, most: number): Promise<number[]> {
  const rows = await select<{ length: number }>(
    store,
    'SELECT LENGTH(bytes) AS length FROM changes WHERE pageId = $1 AND revision > $2 ORDER BY revision LIMIT $3',
    ...[pageId, since, most],
  );
  return rows.map(({ length }) => length);
}

export async function changeById(store: Store, pageId: string, changeId: string): Promise<Uint8Array | undefined> {
  const sql = 'SELECT bytes FROM changes WHERE pageId = $1 AND changeId = $2';
  return (await select<{ bytes: Buffer }>(store, sql, pageId, changeId)).at(0)?.bytes;
}

/** Which change a revision of a page is. */
export async function changeIdAt(store: Store, pageId: string, revision: number): Promise<string | undefined> {
  const sql = 'SELECT changeId FROM changes WHERE pageId = $1 AND revision = $2';
  return (await select<{ changeId: string }>(store, sql, pageId, revision)).at(0)?.changeId;
}

/** Who did what, oldest first. */
export async function headersOf(store: Store, pageId: string): Promise<ChangeHeader[]> {
  const rows = await select<{ id: string; by: string; label: string; undoes: string | null }>(
    store,
    'SELECT changeId AS id, author AS "by", label, undoes FROM changes WHERE pageId = $1 ORDER BY revision',
    pageId,
  );
  return rows.map(({ undoes, ...header }) => (undoes === null ? header : { ...header, undoes }));
}

/** At which revision the journal took those of the changes that it holds already. */
export async function knownRevisions(
  store: Store,
  pageId: string,
  changes: readonly Change[],
): Promise<Map<string, number>> {
  const known = new Map<string, number>();
  for (const part of parts(changes.map((change) => change.id))) {
    const rows = await select<{ changeId: string; revision: number }>(
      store,
      `SELECT changeId, revision FROM changes WHERE pageId = $1 AND changeId IN (${marks(part)})`,
      ...[pageId, ...part],
    );
    for (const { changeId, revision } of rows) known.set(changeId, revision);
  }
  return known;
}

export const putChange = (store: Store, pageId: string, revision: number, change: Change): Promise<void> =>
  run(
    store,
    'INSERT INTO changes (pageId, revision, changeId, author, label, undoes, bytes) VALUES ($1, $2, $3, $4, $5, $6, $7)',
    ...[pageId, revision, change.id, change.by, change.label, change.undoes ?? null, Buffer.from(pack(change))],
  );

/** Changes of all pages, so many at a time, in the order in which they lie. */
export async function* allChanges(store: Store, most: number): AsyncGenerator<Buffer> {
  for (let last = 0; ;) {
    const rows = await select<{ rowid: number; bytes: Buffer }>(
      store,
      'SELECT rowid, bytes FROM changes WHERE rowid > $1 ORDER BY rowid LIMIT $2',
      ...[last, most],
    );
    if (rows.length === 0) return;
    for (const { rowid, bytes } of rows) {
      last = rowid;
      yield bytes;
    }
  }
}

// Bytes that are counted or copied where they lie.

/** Bytes of a page's changes after a revision. */
export const changedBytes = (store: Store, pageId: string, since: number): Promise<number> =>
  sum(store, 'SELECT SUM(LENGTH(bytes)) AS sum FROM changes WHERE pageId = $1 AND revision > $2', pageId, since);

/** Bytes of all entities of a page. */
export const entityBytes = (store: Store, pageId: string): Promise<number> =>
  sum(store, 'SELECT SUM(LENGTH(bytes)) AS sum FROM entities WHERE pageId = $1', pageId);

/** Bytes of all pictures and pixels. */
export const blobBytes = (store: Store): Promise<number> => sum(store, 'SELECT SUM(LENGTH(bytes)) AS sum FROM blobs');

/** The pictures and pixels that were sent last before a time, and how many bytes each has. */
export const blobsBefore = (store: Store, time: number): Promise<{ sha256: string; length: number }[]> =>
  select(store, 'SELECT sha256, LENGTH(bytes) AS length FROM blobs WHERE keptAt < $1', time);

/** Copies all that belongs to a page to another one, which has none of it: entities, journal, small picture and snapshot. */
export async function copyRows(store: Store, from: string, to: string): Promise<void> {
  const copies = {
    entities: 'id, kind, bytes',
    changes: 'revision, changeId, author, label, undoes, bytes',
    thumbnails: 'revision, type, bytes',
    snapshots: 'revision, ids, bytes',
  };
  for (const [table, columns] of Object.entries(copies))
    await run(
      store,
      `INSERT INTO ${table} (pageId, ${columns}) SELECT $1, ${columns} FROM ${table} WHERE pageId = $2`,
      to,
      from,
    );
}

/** Erases the entities and the journal of a page. */
export async function eraseRows(store: Store, pageId: string): Promise<void> {
  for (const table of ['entities', 'changes']) await run(store, `DELETE FROM ${table} WHERE pageId = $1`, pageId);
}
