import { unpackChange } from '@true-nib/core/wire';
import type { Change } from '@true-nib/core/page';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A change as packed bytes; a large one is put together out of parts. */
export type PackedChange = Uint8Array | Blob;

/** A change as it waits, or marks that are to become one; earlier versions kept it as it was. */
type WaitingRow = { readonly pageId: string } & (
  { readonly id: string; readonly bytes: PackedChange; readonly isMarks?: boolean } | { readonly change: Change }
);

/** Marks and the change that comes of them have one id; what waits of them has not. */
const marksId = (changeId: string): string => `marks:${changeId}`;

const idOf = (row: WaitingRow): string => ('change' in row ? row.change.id : row.id);

interface OutboxSchema extends DBSchema {
  changes: { key: number; value: WaitingRow; indexes: { pageId: string } };
  blobs: { key: string; value: { readonly sha256: string; readonly bytes: Blob } };
}

/** What is drawn but not yet on the server. It is written here first, so that neither tab nor network can lose it. */
export interface Outbox {
  /** Keeps a change, packed: cloning thousands of edits would hold up the hand. */
  add(pageId: string, changeId: string, bytes: PackedChange): Promise<void>;
  /** The pages for which something waits. */
  pages(): Promise<readonly string[]>;
  pending(pageId: string): Promise<Change[]>;
  remove(pageId: string, changeIds: ReadonlySet<string>): Promise<void>;
  /** Keeps marks that are to become pixels, packed as a change that would lay them down as lines. */
  addMarks(pageId: string, changeId: string, bytes: PackedChange): Promise<void>;
  marks(pageId: string): Promise<Change[]>;
  removeMarks(pageId: string, changeIds: ReadonlySet<string>): Promise<void>;
  addBlob(sha256: string, bytes: Blob): Promise<void>;
  blob(sha256: string): Promise<Blob | undefined>;
  blobs(): Promise<readonly { readonly sha256: string; readonly bytes: Blob }[]>;
  removeBlob(sha256: string): Promise<void>;
}

type Database = IDBPDatabase<OutboxSchema>;

let opened: Promise<Database> | undefined;

/** Throws where the browser lets us keep nothing; asked again, it may. */
function database(): Promise<Database> {
  opened ??= open().catch(() => {
    opened = undefined;
    throw new Error(
      'This browser lets us keep nothing. Allow this address to store data, or stay while the server answers.',
    );
  });
  return opened;
}

// Where cookies are barred, even asking for it throws: a rejection like any other.
const open = async (): Promise<Database> =>
  openDB<OutboxSchema>('true-nib-outbox', 1, {
    upgrade(db) {
      db.createObjectStore('changes', { autoIncrement: true }).createIndex('pageId', 'pageId');
      db.createObjectStore('blobs', { keyPath: 'sha256' });
    },
    // The browser has closed it, when its data was cleared: the next to ask opens it anew.
    terminated() {
      opened = undefined;
      // They count from one again.
      keys.clear();
    },
  });

/** What `look` finds, or `none` where nothing can be kept: there nothing waits. */
async function found<T>(none: T, look: (db: Database) => Promise<T>): Promise<T> {
  const db = await database().catch(() => undefined);
  return db ? look(db) : none;
}

/** Where the changes of this tab lie: those can be removed without looking through all of them. */
const keys = new Map<string, number>();

const unpacked = async (bytes: PackedChange): Promise<Change> =>
  unpackChange(bytes instanceof Blob ? new Uint8Array(await bytes.arrayBuffer()) : bytes);

const STRICT = { durability: 'strict' } as const;

async function addRow(row: WaitingRow): Promise<void> {
  const write = (await database()).transaction('changes', 'readwrite', STRICT);
  const added = write.store.add(row);
  // Committed at once, and not when the page has heard that it was added: by then the page may be gone.
  write.commit();
  const [key] = await Promise.all([added, write.done]);
  keys.set(idOf(row), key);
}

async function rowsOf(pageId: string, isWanted: (row: WaitingRow) => boolean): Promise<Change[]> {
  const rows = await found([], (db) => db.getAllFromIndex('changes', 'pageId', pageId));
  return Promise.all(rows.filter(isWanted).map((row) => ('change' in row ? row.change : unpacked(row.bytes))));
}

async function removeRows(db: Database, pageId: string, ids: ReadonlySet<string>): Promise<void> {
  const write = db.transaction('changes', 'readwrite', STRICT);
  const own = [...ids].flatMap((id) => keys.get(id) ?? []);
  if (own.length === ids.size) await Promise.all(own.map((key) => write.store.delete(key)));
  else {
    let cursor = await write.store.index('pageId').openCursor(pageId);
    while (cursor) {
      if (ids.has(idOf(cursor.value))) await cursor.delete();
      cursor = await cursor.continue();
    }
  }
  await write.done;
  for (const id of ids) keys.delete(id);
}

const isMarks = (row: WaitingRow): boolean => 'isMarks' in row && row.isMarks === true;

export const indexedDbOutbox: Outbox = {
  add: (pageId, id, bytes) => addRow({ pageId, id, bytes }),
  pages: () =>
    found([], async (db) => {
      const ids: string[] = [];
      let cursor = await db.transaction('changes').store.index('pageId').openKeyCursor(undefined, 'nextunique');
      while (cursor) {
        ids.push(cursor.key);
        cursor = await cursor.continue();
      }
      return ids;
    }),
  pending: (pageId) => rowsOf(pageId, (row) => !isMarks(row)),
  remove: (pageId, ids) => found(undefined, (db) => removeRows(db, pageId, ids)),
  addMarks: (pageId, id, bytes) => addRow({ pageId, id: marksId(id), bytes, isMarks: true }),
  marks: (pageId) => rowsOf(pageId, isMarks),
  removeMarks: (pageId, ids) => found(undefined, (db) => removeRows(db, pageId, new Set([...ids].map(marksId)))),
  async addBlob(sha256, bytes) {
    const write = (await database()).transaction('blobs', 'readwrite', STRICT);
    const put = write.store.put({ sha256, bytes });
    write.commit();
    await Promise.all([put, write.done]);
  },
  blob: (sha256) => found(undefined, async (db) => (await db.get('blobs', sha256))?.bytes),
  blobs: () => found([], (db) => db.getAll('blobs')),
  removeBlob: (sha256) => found(undefined, (db) => db.delete('blobs', sha256)),
};
