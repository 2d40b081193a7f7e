import { isLarge, pack, packedInParts } from '@true-nib/core/wire';
import type { Change } from '@true-nib/core/page';
import { breath } from '../base';
import type { Outbox, PackedChange } from './outbox';

/** Writes what is done to a page to the outbox: small changes at once, large ones with a breath between their parts. */
export class Waiting {
  private readonly packed = new WeakMap<Change, PackedChange>();
  /** Changes that are still being packed, and the promise of the last large one. */
  private readonly unwritten = new Set<Change>();
  private packing: Promise<void> | undefined;
  /** Marks that are still being packed, and those that are being kept, by the change that they are to be. */
  private readonly unmarked = new Set<Change>();
  private readonly marks = new Map<string, Promise<unknown>>();
  /** Whether the page is about to go: then nothing is left for later. */
  private isLeaving = false;

  constructor(
    private readonly pageId: string,
    private readonly outbox: Outbox,
  ) {}

  /** Does what is to be kept before the page goes, and writes all of it at once, whatever it costs. */
  beforeLeaving(work: () => void): void {
    for (const change of this.unwritten) void this.outbox.add(this.pageId, change.id, pack(change));
    for (const change of this.unmarked) void this.outbox.addMarks(this.pageId, change.id, pack(change));
    this.unwritten.clear();
    this.unmarked.clear();
    this.isLeaving = true;
    try {
      work();
    } finally {
      this.isLeaving = false;
    }
  }

  /** Writes a change; those that come while a large one is packed wait for their turn. */
  write(change: Change): Promise<void> {
    this.unwritten.add(change);
    const add = async (bytes: PackedChange) => {
      this.packed.set(change, bytes);
      if (this.unwritten.delete(change)) await this.outbox.add(this.pageId, change.id, bytes);
    };
    if (this.isLeaving || (!isLarge(change.edits) && !this.packing)) return add(pack(change));
    const turn = (this.packing ?? Promise.resolve()).then(() => packedSlowly(change)).then(add);
    const done = turn
      .catch(() => undefined)
      .then(() => {
        if (this.packing === done) this.packing = undefined;
      });
    this.packing = done;
    return turn;
  }

  /** A change as it was written, to be sent. */
  bytesOf(change: Change): PackedChange {
    return this.packed.get(change) ?? pack(change);
  }

  /** Keeps marks until they have become pixels: as a change that would lay them down as lines. */
  keepMarks(change: Change): void {
    this.unmarked.add(change);
    const add = async (bytes: PackedChange) => {
      if (this.unmarked.delete(change)) await this.outbox.addMarks(this.pageId, change.id, bytes);
    };
    const isSlow = isLarge(change.edits) && !this.isLeaving;
    const kept = isSlow ? packedSlowly(change).then(add) : add(pack(change));
    this.marks.set(
      change.id,
      kept.catch(() => undefined),
    );
  }

  /** Lets marks go that have become the change of that id, once `written`, or cannot become any. */
  forgetMarks(id: string, written: Promise<unknown>): void {
    const kept = this.marks.get(id);
    this.marks.delete(id);
    void Promise.all([kept, written])
      .then(() => this.outbox.removeMarks(this.pageId, new Set([id])))
      .catch(() => undefined);
  }
}

/** A large change, packed with a breath before each of its parts. */
async function packedSlowly(change: Change): Promise<Blob> {
  const parts: Blob[] = [];
  for (const part of packedInParts(change)) {
    await breath();
    // Each part leaves the memory of this thread at once; putting them together copies nothing.
    parts.push(new Blob([new Uint8Array(part)]));
  }
  return new Blob(parts);
}
