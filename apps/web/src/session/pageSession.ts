import {
  applyChange,
  EntityMap,
  historyOf,
  invertChange,
  remember,
  shortened,
  type Change,
  type ChangeHeader,
  type Edit,
  type Entity,
  type History,
  type Page,
} from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { ApiProblem, isRefusal, Offline, type PageCard } from '../api';
import { breath, Listeners } from '../base';
import { BATCH, BATCH_EDITS, batchOf } from './batch';
import type { Outbox } from './outbox';
import { differences, labelsOf, laidOn } from './rebase';
import { sendBlobs } from './sendLeft';
import { isPutBack, type PartsListener, type Stand, type Transport } from './transport';
import { Waiting } from './waiting';

/** Unsaved: the server answers, and says no. */
export type SaveState = 'saved' | 'saving' | 'offline' | 'unsaved';

export interface SessionState {
  readonly save: SaveState;
  /** How many changes the server does not have yet. */
  readonly waiting: number;
  readonly history: History;
  readonly revision: number;
}

/** Whether what is drawn waits here, and nobody knows for how long. */
export const isHeldUp = ({ save }: SessionState): boolean => save === 'offline' || save === 'unsaved';

interface SessionOptions {
  readonly transport: Transport;
  readonly outbox: Outbox;
  readonly author: string;
  readonly newId: () => string;
  readonly now: () => number;
  readonly onParts?: PartsListener;
}

const RETRY_MS = 2_000;
const PUT_BACK = 'The server was put back to an earlier state of this page.';
const DISAGREED = 'This page was loaded anew, since it was no longer what the server has.';

/**
 * One page while it is open: its value, what is still to be saved, and what can be undone. Every change is applied at
 * once, written to the outbox, then sent; what other tabs did meanwhile is put beneath one's own changes.
 */
export class PageSession {
  private confirmed: Page;
  private pending: Change[] = [];
  private journal: ChangeHeader[] = [];
  private bodies = new Map<string, Change>();
  private current: SessionState;
  private sending: Promise<void> | undefined;
  private startingOver: Promise<void> | undefined;
  private writing: Promise<unknown> = Promise.resolve();
  private readonly waiting: Waiting;
  private leftMarks: readonly Change[] = [];
  private retry: ReturnType<typeof setTimeout> | undefined;
  private steps: Promise<unknown> = Promise.resolve();
  private isClosed = false;
  /** What was said before anybody listened. */
  private readonly unheard: string[] = [];
  /** Changes that the browser would not keep. */
  private readonly unkept = new Set<string>();
  /** Why nothing could be saved, as it was said last. */
  private toldWhy: string | undefined;
  private readonly stateListeners = new Listeners<[]>();
  private readonly pageListeners = new Listeners<[]>();
  private readonly editListeners = new Listeners<[page: Page, edits: readonly Edit[]]>();
  private readonly noticeListeners = new Listeners<[message: string]>();
  page: Page;
  /** What is done along with every change that is made here: the other lines of a set that is awake. */
  companions: (page: Page, edits: readonly Edit[]) => readonly Edit[] = () => [];

  private constructor(
    readonly card: PageCard,
    page: Page,
    private readonly options: SessionOptions,
  ) {
    this.waiting = new Waiting(card.id, options.outbox);
    this.confirmed = this.page = page;
    this.current = { save: 'saved', waiting: 0, history: { done: [], undone: [] }, revision: card.revision };
  }

  /** Opens a page: what the server has, and on top of it what an earlier session could not send. */
  static async open(pageId: string, options: SessionOptions): Promise<PageSession> {
    const [{ card, entities, headers }, left, marks] = await Promise.all([
      loadWhole(options.transport, pageId, options.onParts),
      options.outbox.pending(pageId),
      options.outbox.marks(pageId),
    ]);
    const session = new PageSession(card, pageOf(card, entities), options);
    session.journal = [...headers];
    const known = new Set(headers.map((header) => header.id));
    session.resume(left.filter((change) => !known.has(change.id)));
    // What the server has, though its answer never came.
    const saved = left.flatMap(({ id }) => (known.has(id) ? [id] : []));
    if (saved.length > 0) void options.outbox.remove(pageId, new Set(saved));
    for (const { id } of left) known.add(id);
    session.leftMarks = marks.filter(({ id }) => !known.has(id));
    const turned = marks.flatMap(({ id }) => (known.has(id) ? [id] : []));
    if (turned.length > 0) void options.outbox.removeMarks(pageId, new Set(turned));
    return session;
  }

  /** Marks that an earlier session had no time to turn into pixels, as changes that would lay them down; told once. */
  takeLeftMarks(): readonly Change[] {
    const left = this.leftMarks;
    this.leftMarks = [];
    return left;
  }

  /** Keeps marks until they have become pixels. Answers the id of the change that this is to be. */
  keepMarks(label: string, layerId: EntityId, marks: readonly StrokeEntity[]): string {
    const { newId, author, now } = this.options;
    const edits = marks.map((after) => ({ before: null, after }));
    const change: Change = { id: newId(), by: author, label, at: now(), needs: [layerId], edits };
    this.waiting.keepMarks(change);
    return change.id;
  }

  /** Lets marks go: they are pixels now, or cannot be any. */
  forgetMarks(id: string): void {
    this.waiting.forgetMarks(id, this.writing);
  }

  /** Does what is to be kept before the page goes, and writes all of it at once, whatever it costs. */
  beforeLeaving(work: () => void): void {
    this.waiting.beforeLeaving(work);
  }

  /** What was done to the page since it was loaded; for right after opening, when it is only what had been left unsent. */
  get unsentEdits(): readonly Edit[] {
    return this.pending.flatMap(({ edits }) => edits);
  }

  /** Whether what is not saved yet is nowhere but in this tab. */
  get wouldBeLost(): boolean {
    return this.pending.some(({ id }) => this.unkept.has(id));
  }

  get state(): SessionState {
    return this.current;
  }

  onState(listener: () => void): () => void {
    return this.stateListeners.add(listener);
  }

  /** Calls back whenever the page has become another value, a moment later after a large change. Answers how to stop. */
  onPage(listener: () => void): () => void {
    return this.pageListeners.add(listener);
  }

  /** Calls back at once when the page has become another one by some edits. Answers how to stop. */
  onEdits(listener: (page: Page, edits: readonly Edit[]) => void): () => void {
    return this.editListeners.add(listener);
  }

  /** Calls back with what the artist should know, in a sentence. Answers how to stop. */
  onNotice(listener: (message: string) => void): () => void {
    for (const message of this.unheard.splice(0)) listener(message);
    return this.noticeListeners.add(listener);
  }

  /** Ends it. What is on its way is still sent, as long as nothing is wrong with it. */
  close(): void {
    this.isClosed = true;
    clearTimeout(this.retry);
  }

  /** Makes edits part of the page, under a label for the history. Answers false, and says why, when they do not fit. */
  commit(
    label: string,
    edits: readonly Edit[],
    needs: readonly EntityId[] = [],
    id: string = this.options.newId(),
  ): boolean {
    if (edits.length === 0) return false;
    const { author, now } = this.options;
    const all = [...edits, ...this.companions(this.page, edits)];
    return this.append({ id, by: author, label: shortened(label), at: now(), needs, edits: all });
  }

  /** Makes a drafted change part of the page, signed by this author. Answers false, and says why, when it does not fit. */
  make({ label, edits, needs }: Change, id?: string): boolean {
    return this.commit(label, edits, needs, id);
  }

  /** Makes what `draft` answers part of the page; a change that cannot be is said in its own words. */
  attempt(draft: (page: Page) => Change, id?: string): boolean {
    try {
      return this.make(draft(this.page), id);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      this.notify(error.message);
      return false;
    }
  }

  /** Takes back one's own last change. Steps queue up, so fast ones are not lost. */
  undo(): Promise<boolean> {
    return this.step((history) => history.done.at(-1));
  }

  redo(): Promise<boolean> {
    return this.step((history) => history.undone.at(-1));
  }

  /** Lets steps back and forth wait for a change that is still being made. */
  waitFor(making: Promise<unknown>): void {
    this.steps = Promise.all([this.steps, making]).catch(() => undefined);
  }

  /** Keeps a picture's bytes before the change that needs them. */
  async keepBlob(sha256: string, bytes: Blob): Promise<void> {
    await this.options.outbox.addBlob(sha256, bytes);
  }

  /** Sends a picture's bytes right away. Throws what the transport throws. */
  sendBlob(sha256: string, bytes: Blob): Promise<void> {
    return this.options.transport.sendBlob(sha256, bytes);
  }

  /** The bytes of a picture, from the outbox while they wait there. */
  async blob(sha256: string): Promise<Blob> {
    return (await this.options.outbox.blob(sha256)) ?? this.options.transport.blob(sha256);
  }

  /** Fetches what others saved since; safe at any time. */
  async refresh(): Promise<void> {
    if (this.isBusy) return this.flush();
    try {
      // The server answers with so many changes at a time.
      while (!(await this.fetchNews()));
    } catch (error) {
      const left = await this.goOnFrom(error);
      if (left instanceof ApiProblem) this.tellWhy(left);
      else if (left !== undefined && !(left instanceof Offline)) throw left;
    }
  }

  private get stand(): Stand {
    return { revision: this.current.revision, lastId: this.journal.at(-1)?.id };
  }

  private get isBusy(): boolean {
    return this.sending !== undefined || this.pending.length > 0;
  }

  /** Answers whether there are no more, or others will bring them. */
  private async fetchNews(): Promise<boolean> {
    const known = this.current.revision;
    const { revision, changes } = await this.options.transport.since(this.card.id, this.stand);
    if (this.isBusy || this.isClosed || this.current.revision !== known) return true;
    if (changes.length > 0) this.putBeneath(changes, known + changes.length);
    return changes.length === 0 || known + changes.length >= revision;
  }

  /** Sends what is waiting; resolves when all is saved or the server cannot be reached. */
  flush(): Promise<void> {
    clearTimeout(this.retry);
    this.sending ??= this.sendAll().finally(() => {
      this.sending = undefined;
      // What was drawn just as the last batch was answered.
      if (this.pending.length > 0 && this.current.save === 'saving') void this.flush();
    });
    return this.sending;
  }

  private step(pick: (history: History) => ChangeHeader | undefined): Promise<boolean> {
    const next = this.steps.then(() => this.takeBack(pick(this.current.history)));
    this.steps = next.catch(() => undefined);
    return next;
  }

  private async takeBack(header: ChangeHeader | undefined): Promise<boolean> {
    if (!header) return false;
    try {
      const change = this.bodies.get(header.id) ?? (await this.options.transport.change(this.card.id, header.id));
      this.bodies.set(change.id, change);
      const { newId, author, now } = this.options;
      const isTaken = this.append(invertChange(change, { id: newId(), by: author, at: now() }));
      // A step that no longer fits must not bar the way to the ones before it.
      if (!isTaken) this.setState({ history: without(this.current.history, header.id) });
      return isTaken;
    } catch (error) {
      if (!(error instanceof Offline)) throw error;
      this.notify('This step back is not in this browser, and the server does not answer. Try again when it is back.');
      return false;
    }
  }

  private append(change: Change): boolean {
    let page: Page;
    try {
      page = applyChange(this.page, change);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      this.notify(error.message);
      return false;
    }
    this.page = page;
    this.pending.push(change);
    this.bodies.set(change.id, change);
    this.setState({ save: 'saving', history: remember(this.current.history, change) });
    this.emitEdited(change.edits);
    // Outbox first: only what is safe here is sent.
    this.writing = Promise.all([this.writing, this.waiting.write(change)])
      .catch(() => this.tellUnkept(change))
      .finally(() => {
        void this.flush();
      });
    return true;
  }

  /** Takes up changes that an earlier session had left unsent. */
  private resume(left: readonly Change[]): void {
    const { page, fitting, lost } = laidOn(this.page, left);
    this.page = page;
    this.pending.push(...fitting);
    for (const change of fitting) this.bodies.set(change.id, change);
    this.giveUp(lost, 'What was still to be saved does not fit this page any more');
    this.setState({ save: this.pending.length > 0 ? 'saving' : 'saved', history: this.readHistory() });
    if (this.pending.length > 0) void this.flush();
  }

  private async sendAll(): Promise<void> {
    await this.writing;
    let most = BATCH;
    while (this.pending.length > 0) {
      const batch = batchOf(this.pending, most);
      try {
        await sendBlobs(this.options, ({ message }) => this.notify(message));
        const sent = await this.options.transport.send(
          this.card.id,
          this.stand,
          batch,
          batch.map((change) => this.waiting.bytesOf(change)),
        );
        if (sent.outcome === 'saved') this.confirm(batch, sent.revision);
        else if (this.isClosed) return this.tryLater();
        else this.putBeneath(sent.between, sent.revision);
        most = BATCH;
      } catch (error) {
        // Nobody would hear what is wrong: it waits for whoever opens the page next.
        if (this.isClosed) return this.tryLater();
        if (isRefusal(error)) {
          // One of them cannot be saved. Find it by sending them one by one.
          if (batch.length > 1) most = 1;
          else this.setAside(batch[0], error.message);
        } else {
          const why = await this.goOnFrom(error);
          if (why !== undefined) return this.tryLater(why);
        }
      }
      await this.writing;
    }
    if (this.pending.length === 0) this.setState({ save: 'saved' });
  }

  private confirm(batch: readonly Change[], revision: number): void {
    this.pending = this.pending.slice(batch.length);
    // With nothing left to save, the page is what the server has.
    this.confirmed = this.pending.length === 0 ? this.page : batch.reduce(applyChange, this.confirmed);
    this.journal.push(...batch.map(headerOf));
    void this.options.outbox.remove(this.card.id, new Set(batch.map((change) => change.id)));
    this.toldWhy = undefined;
    this.setState({ revision });
  }

  /** Begins anew when this tab and the server no longer agree. Answers what is in the way of going on, if anything. */
  private async goOnFrom(error: unknown): Promise<unknown> {
    const why = isPutBack(error) ? PUT_BACK : error instanceof PageError ? DISAGREED : undefined;
    if (why === undefined) return error;
    // Sending and looking for news may find out at the same time.
    this.startingOver ??= this.startOver(why).finally(() => (this.startingOver = undefined));
    return this.startingOver.catch((late: unknown) => late);
  }

  /** Begins anew from what the server has now, with what is not saved yet on top. */
  private async startOver(why: string): Promise<void> {
    const { card, entities, headers } = await loadWhole(this.options.transport, this.card.id);
    this.confirmed = pageOf(card, entities);
    this.journal = [...headers];
    this.rebuild(this.withoutSaved(new Set(headers.map(({ id }) => id))));
    this.setState({ revision: card.revision, history: this.readHistory() });
    this.notify(`${why} What the server did not have yet lies on top.`);
  }

  /** Puts changes of others beneath one's own. Own changes among them were saved before their answer was lost. */
  private putBeneath(changes: readonly Change[], revision: number): void {
    this.confirmed = changes.reduce(applyChange, this.confirmed);
    this.journal.push(...changes.map(headerOf));
    this.rebuild(this.withoutSaved(new Set(changes.map(({ id }) => id))));
    this.setState({ revision, history: this.readHistory() });
  }

  /** Takes what the server has off the outbox. Answers what is left to be saved. */
  private withoutSaved(saved: ReadonlySet<string>): Change[] {
    const gone = this.pending.filter(({ id }) => saved.has(id));
    if (gone.length > 0) void this.options.outbox.remove(this.card.id, new Set(gone.map(({ id }) => id)));
    return this.pending.filter(({ id }) => !saved.has(id));
  }

  private setAside(change: Change, reason: string): void {
    this.notify(`"${change.label}" could not be saved and was taken back: ${reason}`);
    void this.options.outbox.remove(this.card.id, new Set([change.id]));
    this.rebuild(this.pending.filter((other) => other !== change));
    this.setState({ history: this.readHistory() });
  }

  /** The page anew: what is confirmed, and of the waiting changes those that still fit. */
  private rebuild(waiting: readonly Change[]): void {
    const before = this.page;
    const { page, fitting, lost } = laidOn(this.confirmed, waiting);
    this.page = page;
    this.pending = fitting;
    this.giveUp(lost, 'Taken back, since others changed the same');
    this.emitEdited(differences(before, page));
  }

  /** Tells in one sentence what will never be saved. */
  private giveUp(lost: readonly Change[], why: string): void {
    if (lost.length === 0) return;
    this.notify(`${why}: ${labelsOf(lost)}.`);
    void this.options.outbox.remove(this.card.id, new Set(lost.map(({ id }) => id)));
  }

  private tryLater(why?: unknown): void {
    const isRefused = why instanceof ApiProblem;
    if (isRefused) this.tellWhy(why);
    this.setState({ save: isRefused ? 'unsaved' : 'offline' });
    if (!this.isClosed) this.retry = setTimeout(() => void this.flush(), RETRY_MS);
  }

  /** Says once why nothing can be saved, though the server answers. */
  private tellWhy({ message }: ApiProblem): void {
    if (message !== this.toldWhy)
      this.notify(`${message.replace(/\.?$/, '.')} What you draw is kept in this browser until it can be saved.`);
    this.toldWhy = message;
  }

  /** Says once that changes are not kept here. */
  private tellUnkept({ id }: Change): void {
    if (this.unkept.size === 0)
      this.notify('This browser keeps nothing for us. Strokes are saved only while the server answers.');
    this.unkept.add(id);
  }

  private readHistory(): History {
    return historyOf([...this.journal, ...this.pending], this.options.author);
  }

  private setState(change: Partial<SessionState>): void {
    this.current = { ...this.current, ...change, waiting: this.pending.length };
    this.stateListeners.tell();
  }

  private emitEdited(edits: readonly Edit[]): void {
    if (edits.length === 0) return;
    this.editListeners.tell(this.page, edits);
    // Panels can wait for a breath when thousands of strokes were laid down before them.
    if (edits.length > BATCH_EDITS) void breath().then(() => this.pageListeners.tell());
    else this.pageListeners.tell();
  }

  private notify(message: string): void {
    if (this.noticeListeners.isEmpty) this.unheard.push(message);
    else this.noticeListeners.tell(message);
  }
}

/** A page and its journal as of the same revision, though they are asked for side by side. */
async function loadWhole(transport: Transport, pageId: string, onParts?: PartsListener) {
  const [page, early] = await Promise.all([transport.load(pageId, onParts), transport.headers(pageId)]);
  const { revision } = page.card;
  // Each change is one revision. What was saved between the two answers is news like any other.
  const headers = early.length < revision ? await transport.headers(pageId) : early;
  return { ...page, headers: headers.slice(0, revision) };
}

const pageOf = ({ width, height, ppi }: PageCard, entities: readonly Entity[]): Page => ({
  size: { width, height, ppi },
  entities: EntityMap.of(entities),
});

const headerOf = ({ id, by, label, undoes }: Change): ChangeHeader =>
  undoes === undefined ? { id, by, label } : { id, by, label, undoes };

const without = ({ done, undone }: History, id: string): History => ({
  done: done.filter((change) => change.id !== id),
  undone: undone.filter((change) => change.id !== id),
});
