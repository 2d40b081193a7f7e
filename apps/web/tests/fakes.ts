import { makeSpine } from '@true-nib/core/curve';
import { applyChange, newLayer, newPage, type Change, type Page } from '@true-nib/core/page';
import { unpackChange } from '@true-nib/core/wire';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { Offline, ApiProblem } from '../src/api/request';
import type { PageCard } from '../src/api/shelf';
import type { Outbox, PackedChange } from '../src/session/outbox';
import { PageSession } from '../src/session/pageSession';
import type { Stand, Transport } from '../src/session/transport';

export const inks = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });

export const stroke = (id: string, x = 0, order = 'a0'): StrokeEntity => ({
  kind: 'stroke',
  id,
  layerId: 'inks',
  order,
  spine: makeSpine(Float64Array.of(x, 10, 6, x + 20, 10, 6, x + 40, 30, 6, x + 60, 30, 6)),
  nib: { name: 'Liner', size: 6, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' },
  ends: ['round', 'round'],
});

const SIZE = { width: 1000, height: 800, ppi: 300 };

/** A server in memory that can be switched off, can lose its answers, and can refuse. */
export class FakeServer implements Transport {
  isDown = false;
  losesAnswers = false;
  refusesBlobs = false;
  /** How many changes it tells of at a time. */
  atMost = 1_000;
  /** The page lies in the bin. */
  isDeleted = false;
  journal: Change[] = [
    { id: 'start', by: 'demo', label: 'Inks', at: 0, needs: [], edits: [{ before: null, after: inks }] },
  ];
  readonly sentBlobs: string[] = [];

  get page(): Page {
    return this.journal.reduce(applyChange, newPage(SIZE));
  }

  private answer(): void {
    if (this.isDown) throw new Offline();
    if (this.isDeleted) throw new ApiProblem(404, 'There is no such page', 'It may have been deleted.');
  }

  private requireStand(revision: number, lastId: string | undefined): void {
    if (revision > 0 && this.journal[revision - 1]?.id !== lastId)
      throw new ApiProblem(412, 'This revision is another one', '');
  }

  async load(pageId: string) {
    this.answer();
    const card: PageCard = {
      ...SIZE,
      id: pageId,
      folioId: 'f',
      name: 'Quay',
      revision: this.journal.length,
      thumbnail: null,
    };
    return { card, entities: [...this.page.entities] };
  }
  async headers() {
    this.answer();
    return this.journal.map(({ id, by, label, undoes }) => ({ id, by, label, undoes }));
  }
  async since(_pageId: string, { revision, lastId }: Stand) {
    this.answer();
    this.requireStand(revision, lastId);
    return { revision: this.journal.length, changes: this.journal.slice(revision, revision + this.atMost) };
  }
  async change(_pageId: string, changeId: string) {
    this.answer();
    return this.journal.find(({ id }) => id === changeId)!;
  }
  async send(_pageId: string, { revision: since, lastId }: Stand, changes: readonly Change[]) {
    this.answer();
    this.requireStand(since, lastId);
    const fresh = changes.filter(({ id }) => this.journal.every((known) => known.id !== id));
    const missed = this.journal.slice(since).some(({ id }) => changes.every((own) => own.id !== id));
    if (missed || (fresh.length > 0 && since < this.journal.length))
      return {
        outcome: 'stale',
        revision: this.journal.length,
        between: this.journal.slice(since, since + this.atMost),
      } as const;
    try {
      fresh.reduce(applyChange, this.page);
    } catch (error) {
      throw new ApiProblem(409, 'The page has changed meanwhile', error instanceof Error ? error.message : '');
    }
    this.journal.push(...fresh);
    if (this.losesAnswers) {
      this.losesAnswers = false;
      throw new Offline();
    }
    return { outcome: 'saved', revision: this.journal.length } as const;
  }
  async sendBlob(sha256: string) {
    this.answer();
    if (this.refusesBlobs) throw new ApiProblem(422, 'The picture is cut short', 'Copy it again.');
    this.sentBlobs.push(sha256);
  }
  async blob(): Promise<Blob> {
    this.answer();
    return new Blob(['from the server']);
  }
}

/** An outbox in memory: what a tab leaves in it, the next one finds. */
const bytesIn = async (packed: Blob): Promise<Uint8Array> => new Uint8Array(await packed.arrayBuffer());

export class FakeOutbox implements Outbox {
  changes: { pageId: string; change: Change }[] = [];
  /** Marks that wait to become pixels. */
  waiting: { pageId: string; change: Change }[] = [];
  kept = new Map<string, Blob>();

  async add(pageId: string, _changeId: string, packed: PackedChange) {
    const bytes = packed instanceof Blob ? await bytesIn(packed) : packed;
    this.changes.push({ pageId, change: unpackChange(bytes) });
  }
  async pages() {
    return [...new Set([...this.changes, ...this.waiting].map(({ pageId }) => pageId))];
  }
  async pending(pageId: string) {
    return this.changes.filter((row) => row.pageId === pageId).map(({ change }) => change);
  }
  async remove(_pageId: string, ids: ReadonlySet<string>) {
    this.changes = this.changes.filter(({ change }) => !ids.has(change.id));
  }
  async addMarks(pageId: string, _changeId: string, packed: PackedChange) {
    const bytes = packed instanceof Blob ? await bytesIn(packed) : packed;
    this.waiting.push({ pageId, change: unpackChange(bytes) });
  }
  async marks(pageId: string) {
    return this.waiting.filter((row) => row.pageId === pageId).map(({ change }) => change);
  }
  async removeMarks(_pageId: string, ids: ReadonlySet<string>) {
    this.waiting = this.waiting.filter(({ change }) => !ids.has(change.id));
  }
  async addBlob(sha256: string, bytes: Blob) {
    this.kept.set(sha256, bytes);
  }
  async blob(sha256: string) {
    return this.kept.get(sha256);
  }
  async blobs() {
    return [...this.kept].map(([sha256, bytes]) => ({ sha256, bytes }));
  }
  async removeBlob(sha256: string) {
    this.kept.delete(sha256);
  }
}

let ids = 0;
export async function openSession(server: FakeServer, outbox: FakeOutbox = new FakeOutbox(), author = 'me') {
  const session = await PageSession.open('p', {
    transport: server,
    outbox,
    author,
    newId: () => `id-${++ids}`,
    now: () => 1,
  });
  const notices: string[] = [];
  session.onNotice((message) => notices.push(message));
  return { session, notices, outbox };
}

export const draw = (session: PageSession, id: string, x = 0): boolean =>
  session.commit('Stroke', [{ before: null, after: stroke(id, x) }], ['inks']);
