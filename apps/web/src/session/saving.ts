import { PageError } from '@true-nib/core/gate';
import type { Change, ChangeHeader } from '@true-nib/core/page';
import { ApiProblem, isRefusal, Offline } from '../api';
import { BATCH, batchOf } from './batch';
import type { Ledger } from './ledger';
import { loadWhole } from './load';
import type { Outbox } from './outbox';
import { labelsOf } from './rebase';
import type { Sayings } from './sayings';
import { sendBlobs } from './sendLeft';
import { isPutBack, type Stand, type Transport } from './transport';
import type { Waiting } from './waiting';

/** Unsaved: the server answers, and says no. */
export type SaveState = 'saved' | 'saving' | 'offline' | 'unsaved';

/** How what is saved is told to whoever shows the page. */
interface Told {
  /** The page was laid anew by `lay`, which answers the changes that no longer fit. */
  rebuild(lay: () => readonly Change[]): void;
  /** What is saved, or what the server knows, has changed. */
  changed(): void;
}

interface Parts {
  readonly transport: Transport;
  readonly outbox: Outbox;
  readonly ledger: Ledger;
  readonly waiting: Waiting;
  readonly sayings: Sayings;
}

const RETRY_MS = 2_000;
const PUT_BACK = 'The server was put back to an earlier state of this page.';
const DISAGREED = 'This page was loaded anew, since it was no longer what the server has.';

/**
 * Brings one's own changes to the server and the changes of others back, until both have the same page; tries again while the
 * server does not answer.
 */
export class Saving {
  private sending: Promise<void> | undefined;
  private startingOver: Promise<void> | undefined;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private writing: Promise<unknown> = Promise.resolve();
  private isClosed = false;
  /** Changes that the browser would not keep. */
  private readonly unkept = new Set<string>();
  private saveState: SaveState = 'saved';
  private known: number;

  constructor(
    private readonly pageId: string,
    revision: number,
    private readonly parts: Parts,
    private readonly told: Told,
  ) {
    this.known = revision;
  }

  get state(): SaveState {
    return this.saveState;
  }

  /** How many changes the server has. */
  get revision(): number {
    return this.known;
  }

  /** Whether what is not saved yet is nowhere but in this tab. */
  get wouldBeLost(): boolean {
    return this.pending.some(({ id }) => this.unkept.has(id));
  }

  /** All that is being written to the outbox. */
  get written(): Promise<unknown> {
    return this.writing;
  }

  /** Ends it. What is on its way is still sent, as long as nothing is wrong with it. */
  close(): void {
    this.isClosed = true;
    clearTimeout(this.retry);
  }

  /** Keeps a change that was just made, and sends it. Outbox first: only what is safe here is sent. */
  keep(change: Change): void {
    this.saveState = 'saving';
    this.writing = Promise.all([this.writing, this.parts.waiting.write(change)])
      .catch(() => this.tellUnkept(change))
      .finally(() => {
        void this.flush();
      });
  }

  /** Takes up what an earlier session had left unsent. */
  resume(): void {
    this.saveState = this.pending.length > 0 ? 'saving' : 'saved';
    if (this.pending.length > 0) void this.flush();
  }

  /** Sends what is waiting; resolves when all is saved or the server cannot be reached. */
  flush(): Promise<void> {
    clearTimeout(this.retry);
    this.sending ??= this.sendAll().finally(() => {
      this.sending = undefined;
      // What was drawn just as the last batch was answered.
      if (this.pending.length > 0 && this.saveState === 'saving') void this.flush();
    });
    return this.sending;
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

  /** Tells in one sentence what will never be saved. */
  giveUp(lost: readonly Change[], why: string): void {
    if (lost.length === 0) return;
    this.parts.sayings.say(`${why}: ${labelsOf(lost)}.`);
    this.takeOff(lost);
  }

  private get pending(): readonly Change[] {
    return this.parts.ledger.pending;
  }

  private get stand(): Stand {
    return { revision: this.known, lastId: this.parts.ledger.lastId };
  }

  private get isBusy(): boolean {
    return this.sending !== undefined || this.pending.length > 0;
  }

  /** Answers whether there are no more, or others will bring them. */
  private async fetchNews(): Promise<boolean> {
    const { known } = this;
    const { revision, changes } = await this.parts.transport.since(this.pageId, this.stand);
    if (this.isBusy || this.isClosed || this.known !== known) return true;
    if (changes.length > 0) this.putBeneath(changes, known + changes.length);
    return changes.length === 0 || known + changes.length >= revision;
  }

  private async sendAll(): Promise<void> {
    const { transport, waiting, sayings } = this.parts;
    await this.writing;
    let most = BATCH;
    while (this.pending.length > 0) {
      const batch = batchOf(this.pending, most);
      try {
        await sendBlobs(this.parts, ({ message }) => sayings.say(message));
        const bytes = batch.map((change) => waiting.bytesOf(change));
        const sent = await transport.send(this.pageId, this.stand, batch, bytes);
        if (sent.outcome === 'saved') this.confirm(batch, sent.revision);
        else if (this.isClosed) return this.tryLater();
        // It may be the first of more: what is sent next brings those.
        else this.putBeneath(sent.between, this.known + sent.between.length);
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
    if (this.pending.length === 0) this.become('saved');
  }

  private confirm(batch: readonly Change[], revision: number): void {
    this.parts.ledger.confirm(batch);
    this.takeOff(batch);
    this.parts.sayings.forget('saving');
    this.known = revision;
    this.told.changed();
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
    const { transport, ledger, sayings } = this.parts;
    const loaded = await loadWhole(transport, this.pageId);
    this.rebuild(loaded.card.revision, () => ledger.startOver(loaded, this.withoutSaved(loaded.headers)));
    sayings.say(`${why} What the server did not have yet lies on top.`);
  }

  /** Puts changes of others beneath one's own. Own changes among them were saved before their answer was lost. */
  private putBeneath(changes: readonly Change[], revision: number): void {
    this.rebuild(revision, () => this.parts.ledger.putBeneath(changes, this.withoutSaved(changes)));
  }

  private rebuild(revision: number, lay: () => readonly Change[]): void {
    this.told.rebuild(() => {
      const lost = lay();
      this.known = revision;
      return lost;
    });
  }

  /** Takes what the server has off the outbox. Answers what is left to be saved. */
  private withoutSaved(changes: readonly ChangeHeader[]): readonly Change[] {
    const saved = new Set(changes.map(({ id }) => id));
    this.takeOff(this.pending.filter(({ id }) => saved.has(id)));
    return this.pending.filter(({ id }) => !saved.has(id));
  }

  private setAside(change: Change, reason: string): void {
    const { ledger, sayings } = this.parts;
    sayings.say(`"${change.label}" could not be saved and was taken back: ${reason}`);
    this.takeOff([change]);
    this.told.rebuild(() => ledger.lay(this.pending.filter((other) => other !== change)));
  }

  private takeOff(changes: readonly Change[]): void {
    if (changes.length > 0) void this.parts.outbox.remove(this.pageId, new Set(changes.map(({ id }) => id)));
  }

  private tryLater(why?: unknown): void {
    const isRefused = why instanceof ApiProblem;
    if (isRefused) this.tellWhy(why);
    this.become(isRefused ? 'unsaved' : 'offline');
    if (!this.isClosed) this.retry = setTimeout(() => void this.flush(), RETRY_MS);
  }

  private become(state: SaveState): void {
    this.saveState = state;
    this.told.changed();
  }

  /** Says once why nothing can be saved, though the server answers. */
  private tellWhy({ message }: ApiProblem): void {
    const ended = message.replace(/\.?$/, '.');
    this.parts.sayings.sayOnce('saving', `${ended} What you draw is kept in this browser until it can be saved.`);
  }

  /** Says once that changes are not kept here. */
  private tellUnkept({ id }: Change): void {
    const words = 'This browser keeps nothing for us. Strokes are saved only while the server answers.';
    this.parts.sayings.sayOnce('keeping', words);
    this.unkept.add(id);
  }
}
