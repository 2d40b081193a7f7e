import { checkParts, joinParts, pack, unpack, type PackedParts } from '@true-nib/core/wire';
import { editedId, type Edit } from '@true-nib/core/page';
import { getPage, type ListedPage } from './pages';
import type { SnapshotRow } from './models';
import { changedBytes, changesSince, entityBytes, entityRows } from './rows';
import type { Store } from './store';

/** Share of a snapshot that may have changed since: beyond it, reading all rows is quicker. */
const MOST_CHANGED = 1 / 2;

export interface SnapshotOptions {
  /** Bytes of entities, or of changes since the last snapshot, from which another one is worth its while. */
  readonly worth?: number;
  /** Milliseconds without a change after which a page counts as resting. */
  readonly rest?: number;
}

/** All entities of a page in one piece, as they stood at a revision; `ids` are those of the parts, in order. */
interface Snapshot {
  readonly revision: number;
  readonly ids: readonly string[];
  readonly parts: PackedParts;
}

export interface WholePage {
  readonly page: ListedPage;
  /** The packed parts of all its entities. */
  readonly packed: Uint8Array;
}

/**
 * Pages in one piece each, kept beside their rows so that a full page opens fast: forty thousand rows take the driver many times
 * as long as their bytes in one. A snapshot may lag behind its page; whoever opens that gets what has changed since as well.
 */
export class Snapshots {
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private readonly worth: number;
  private readonly rest: number;

  constructor(
    private readonly store: Store,
    { worth = 2 ** 20, rest = 3_000 }: SnapshotOptions = {},
  ) {
    this.worth = worth;
    this.rest = rest;
  }

  /** A page as it stands. Throws a Problem when there is none. */
  open(pageId: string): Promise<WholePage> {
    this.renewSoon(pageId);
    return this.store.atomically(async (inside) => {
      const page = await getPage(inside, pageId);
      const row = await inside.snapshots.findByPk(pageId, inside.within);
      if (row?.revision === page.revision) return { page, packed: row.bytes };
      return { page, packed: pack((await standing(inside, page, row)).parts) };
    });
  }

  /** Lets a page be kept anew when nothing has happened to it for a while: not while somebody draws. */
  renewSoon(pageId: string): void {
    clearTimeout(this.timers.get(pageId));
    const timer = setTimeout(() => {
      this.timers.delete(pageId);
      // Without a snapshot the page is read from its rows, as slowly as before.
      this.renew(pageId).catch(() => undefined);
    }, this.rest);
    this.timers.set(pageId, timer.unref());
  }

  /** Keeps a page as it stands, unless the snapshot that is there still serves. */
  renew(pageId: string): Promise<void> {
    return this.store.atomically(async (inside) => {
      if ((await unkept(inside, pageId)) < this.worth) return;
      const page = await getPage(inside, pageId);
      const { revision, ids, parts } = await standing(
        inside,
        page,
        await inside.snapshots.findByPk(pageId, inside.within),
      );
      await inside.snapshots.upsert(
        { pageId, revision, ids: Buffer.from(pack(ids)), bytes: Buffer.from(pack(parts)) },
        inside.within,
      );
    });
  }
}

/** Bytes of what a page's snapshot lacks: changes since, or all of it when there is none. */
async function unkept(store: Store, pageId: string): Promise<number> {
  const kept = await store.snapshots.findByPk(pageId, { attributes: ['revision'], ...store.within });
  return kept ? changedBytes(store, pageId, kept.revision) : entityBytes(store, pageId);
}

/** A page as it stands now: its snapshot and what has changed since, or its rows where that is quicker. */
async function standing(store: Store, { id, revision }: ListedPage, kept: SnapshotRow | null): Promise<Snapshot> {
  const base =
    kept && (await changedBytes(store, id, kept.revision)) < kept.bytes.length * MOST_CHANGED ? kept : undefined;
  if (!base) return snapshotOf(revision, await entityRows(store, id));
  const changed = await changedIds(store, id, base.revision, revision);
  const rows = unpackRows(base).filter((row) => !changed.has(row.id));
  return snapshotOf(revision, [...rows, ...(await entityRows(store, id, [...changed]))]);
}

const snapshotOf = (revision: number, rows: readonly { id: string; bytes: Uint8Array }[]): Snapshot => ({
  revision,
  ids: rows.map(({ id }) => id),
  parts: joinParts(rows.map(({ bytes }) => bytes)),
});

async function changedIds(store: Store, pageId: string, since: number, until: number): Promise<Set<string>> {
  const changes = await changesSince(store, pageId, since, until - since);
  return new Set(changes.flatMap((bytes) => (unpack(bytes) as { edits: Edit[] }).edits.map(editedId)));
}

function unpackRows({ ids, bytes }: SnapshotRow): { id: string; bytes: Uint8Array }[] {
  const parts = checkParts(unpack(bytes));
  let at = 0;
  return (unpack(ids) as string[]).map((id, k) => ({ id, bytes: parts.bytes.subarray(at, (at += parts.lengths[k])) }));
}
