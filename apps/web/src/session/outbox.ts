import { unpackChange, type Change } from '@true-nib/core/page';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A change as packed bytes; a large one is put together out of parts. */
export type PackedChange = Uint8Array | Blob;

/** A change as it waits; earlier versions kept it as it was. */
type WaitingRow = { readonly pageId: string } & (
  { readonly id: string; readonly bytes: PackedChange } | { readonly change: Change }
);

const idOf = (row: WaitingRow): string => ('change' in row ? row.change.id : row.id);

interface OutboxSchema extends DBSchema {
  changes: { key: number; value: WaitingRow; indexes: { pageId: string } };
  blobs: { key: string; value: { readonly sha256: string; readonly bytes: Blob } };
}

/** What is drawn but not yet on the server. It is written here first, so that neither tab nor network can lose it. */
export interface Outbox {
  /** Keeps a change, packed: cloning thousands of edits would hold up the hand. */
  add(pageId: string, changeId: string, bytes: PackedChange): Promise<void>;
  pending(pageId: string): Promise<Change[]>;
  remove(pageId: string, changeIds: ReadonlySet<string>): Promise<void>;
  addBlob(sha256: string, bytes: Blob): Promise<void>;
  blob(sha256: string): Promise<Blob | undefined>;
  blobs(): Promise<readonly { readonly sha256: string; readonly bytes: Blob }[]>;
  removeBlob(sha256: string): Promise<void>;
}

let opened: Promise<IDBPDatabase<OutboxSchema>> | undefined;

function database(): Promise<IDBPDatabase<OutboxSchema>> {
  opened ??= openDB<OutboxSchema>('true-nib-outbox', 1, {
    upgrade(db) {
      db.createObjectStore('changes', { autoIncrement: true }).createIndex('pageId', 'pageId');
      db.createObjectStore('blobs', { keyPath: 'sha256' });
    },
  });
  return opened;
}

/** Where the changes of this tab lie: those can be removed without looking through all of them. */
const keys = new Map<string, number>();

const unpacked = async (bytes: PackedChange): Promise<Change> =>
  unpackChange(bytes instanceof Blob ? new Uint8Array(await bytes.arrayBuffer()) : bytes);

const STRICT = { durability: 'strict' } as const;

export const indexedDbOutbox: Outbox = {
  async add(pageId, id, bytes) {
    const write = (await database()).transaction('changes', 'readwrite', STRICT);
    const added = write.store.add({ pageId, id, bytes });
    // Committed at once, and not when the page has heard that it was added: by then the page may be gone.
    write.commit();
    const [key] = await Promise.all([added, write.done]);
    keys.set(id, key);
  },
  async pending(pageId) {
    const rows = await (await database()).getAllFromIndex('changes', 'pageId', pageId);
    return Promise.all(rows.map((row) => ('change' in row ? row.change : unpacked(row.bytes))));
  },
  async remove(pageId, changeIds) {
    const write = (await database()).transaction('changes', 'readwrite', STRICT);
    const own = [...changeIds].flatMap((id) => keys.get(id) ?? []);
    if (own.length === changeIds.size) await Promise.all(own.map((key) => write.store.delete(key)));
    else {
      let cursor = await write.store.index('pageId').openCursor(pageId);
      while (cursor) {
        if (changeIds.has(idOf(cursor.value))) await cursor.delete();
        cursor = await cursor.continue();
      }
    }
    await write.done;
    for (const id of changeIds) keys.delete(id);
  },
  async addBlob(sha256, bytes) {
    const write = (await database()).transaction('blobs', 'readwrite', STRICT);
    const put = write.store.put({ sha256, bytes });
    write.commit();
    await Promise.all([put, write.done]);
  },
  blob: async (sha256) => (await (await database()).get('blobs', sha256))?.bytes,
  blobs: async () => (await database()).getAll('blobs'),
  removeBlob: async (sha256) => (await database()).delete('blobs', sha256),
};
