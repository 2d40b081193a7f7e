import PQueue from 'p-queue';
import {
  invertChange,
  needsOf,
  remember,
  shortened,
  type Change,
  type ChangeHeader,
  type Edit,
  type History,
  type Page,
} from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { DrawnEntity } from '@true-nib/core/drawn';
import { Offline, type PageCard } from '../api';
import { breath, Listeners } from '../base';
import { BATCH_EDITS } from './batch';
import { Ledger } from './ledger';
import { loadWhole, type Loaded } from './load';
import type { Outbox } from './outbox';
import { differences } from './rebase';
import { Saving, type SaveState } from './saving';
import { Sayings } from './sayings';
import type { PartsListener, Transport } from './transport';
import { Waiting } from './waiting';

export interface SessionState {
  readonly save: SaveState;
  /** How many changes the server does not have yet. */
  readonly waiting: number;
  readonly history: History;
  readonly revision: number;
}

/** What is done along with every change that is made here: the other lines of a set that is awake. */
type Companions = (page: Page, edits: readonly Edit[]) => readonly Edit[];

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

/**
 * One page while it is open: its value, what is still to be saved, and what can be undone. Every change is applied at
 * once, written to the outbox, then sent; what other tabs did meanwhile is put beneath one's own changes.
 */
export class PageSession {
  private readonly ledger: Ledger;
  private readonly sayings = new Sayings();
  private bodies = new Map<string, Change>();
  private current: SessionState;
  private readonly saving: Saving;
  private readonly waiting: Waiting;
  private leftMarks: readonly Change[] = [];
  /** Steps back and forth, and what they wait for. */
  private readonly steps = new PQueue({ concurrency: 1 });
  private readonly stateListeners = new Listeners<[]>();
  private readonly pageListeners = new Listeners<[]>();
  private readonly editListeners = new Listeners<[page: Page, edits: readonly Edit[]]>();
  private companions: Companions | undefined;
  readonly card: PageCard;

  private constructor(
    loaded: Loaded,
    private readonly options: SessionOptions,
  ) {
    const { card } = loaded;
    this.card = card;
    this.waiting = new Waiting(card.id, options.outbox);
    this.ledger = new Ledger(loaded);
    const { ledger, waiting, sayings } = this;
    this.saving = new Saving(
      card.id,
      card.revision,
      { ...{ transport: options.transport, outbox: options.outbox }, ledger, waiting, sayings },
      { rebuild: (lay) => this.rebuild(lay), changed: () => this.setState() },
    );
    this.current = { save: 'saved', waiting: 0, history: { done: [], undone: [] }, revision: card.revision };
  }

  /** Opens a page: what the server has, and on top of it what an earlier session could not send. */
  static async open(pageId: string, options: SessionOptions): Promise<PageSession> {
    const [loaded, left, marks] = await Promise.all([
      loadWhole(options.transport, pageId, options.onParts),
      options.outbox.pending(pageId),
      options.outbox.marks(pageId),
    ]);
    const session = new PageSession(loaded, options);
    const known = new Set(loaded.headers.map((header) => header.id));
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
  keepMarks(label: string, layerId: EntityId, marks: readonly DrawnEntity[]): string {
    const { newId, author, now } = this.options;
    const edits = marks.map((after) => ({ before: null, after }));
    const change: Change = { id: newId(), by: author, label, at: now(), needs: [layerId], edits };
    this.waiting.keepMarks(change);
    return change.id;
  }

  /** Lets marks go: they are pixels now, or cannot be any. */
  forgetMarks(id: string): void {
    this.waiting.forgetMarks(id, this.saving.written);
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
    return this.saving.wouldBeLost;
  }

  get page(): Page {
    return this.ledger.page;
  }

  private get pending(): readonly Change[] {
    return this.ledger.pending;
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
    return this.sayings.on(listener);
  }

  /** Ends it. What is on its way is still sent, as long as nothing is wrong with it. */
  close(): void {
    this.saving.close();
  }

  /** Lets every change made here be accompanied by further edits. Answers how to stop. */
  accompany(companions: Companions): () => void {
    this.companions = companions;
    return () => {
      if (this.companions === companions) this.companions = undefined;
    };
  }

  /**
   * Makes edits part of the page, under a label for the history. `needs` are the entities that must be there for them, which the
   * edits themselves tell unless said otherwise. Answers false, and says why, when they do not fit.
   */
  commit(
    label: string,
    edits: readonly Edit[],
    needs?: readonly EntityId[],
    id: string = this.options.newId(),
  ): boolean {
    if (edits.length === 0) return false;
    const { author, now } = this.options;
    const all = this.companions ? [...edits, ...this.companions(this.page, edits)] : edits;
    return this.append({
      id,
      by: author,
      label: shortened(label),
      at: now(),
      needs: needs ?? needsOf(all),
      edits: all,
    });
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
    void this.steps.add(() => making.catch(() => undefined));
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
  refresh(): Promise<void> {
    return this.saving.refresh();
  }

  /** Sends what is waiting; resolves when all is saved or the server cannot be reached. */
  flush(): Promise<void> {
    return this.saving.flush();
  }

  private step(pick: (history: History) => ChangeHeader | undefined): Promise<boolean> {
    return this.steps.add(() => this.takeBack(pick(this.current.history)));
  }

  private async takeBack(header: ChangeHeader | undefined): Promise<boolean> {
    if (!header) return false;
    try {
      const change = this.bodies.get(header.id) ?? (await this.options.transport.change(this.card.id, header.id));
      this.bodies.set(change.id, change);
      const { newId, author, now } = this.options;
      const isTaken = this.append(invertChange(change, { id: newId(), by: author, at: now() }));
      // A step that no longer fits must not bar the way to the ones before it.
      if (!isTaken) this.setState(without(this.current.history, header.id));
      return isTaken;
    } catch (error) {
      this.notify(
        error instanceof Offline
          ? 'This step back is not in this browser, and the server does not answer. Try again when it is back.'
          : `This step cannot be taken back now. ${error instanceof Error ? error.message : ''}`.trim(),
      );
      return false;
    }
  }

  private append(change: Change): boolean {
    try {
      this.ledger.append(change);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      this.notify(error.message);
      return false;
    }
    this.bodies.set(change.id, change);
    this.saving.keep(change);
    this.setState(remember(this.current.history, change));
    this.emitEdited(change.edits);
    return true;
  }

  /** Takes up changes that an earlier session had left unsent. */
  private resume(left: readonly Change[]): void {
    const lost = this.ledger.lay(left);
    for (const change of this.pending) this.bodies.set(change.id, change);
    this.saving.giveUp(lost, 'What was still to be saved does not fit this page any more');
    this.saving.resume();
    this.setState(this.readHistory());
  }

  /** Lays the page anew, and tells of what no longer fits it. */
  private rebuild(lay: () => readonly Change[]): void {
    const before = this.page;
    this.saving.giveUp(lay(), 'Taken back, since others changed the same');
    this.emitEdited(differences(before, this.page));
    this.setState(this.readHistory());
  }

  private readHistory(): History {
    return this.ledger.history(this.options.author);
  }

  private setState(history = this.current.history): void {
    const { state: save, revision } = this.saving;
    this.current = { history, save, revision, waiting: this.pending.length };
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
    this.sayings.say(message);
  }
}

const without = ({ done, undone }: History, id: string): History => ({
  done: done.filter((change) => change.id !== id),
  undone: undone.filter((change) => change.id !== id),
});
