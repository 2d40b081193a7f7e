import { applyChange, historyOf, type Change, type ChangeHeader, type History, type Page } from '@true-nib/core/page';
import { headerOf, type Loaded } from './load';
import { laidOn } from './rebase';

/**
 * What is known of a page: what the server has of it, the changes made here that wait to be saved, and the page after both. It
 * answers the waiting changes that no longer fit whenever the ground under them changes.
 */
export class Ledger {
  private confirmed: Page;
  private readonly journal: ChangeHeader[] = [];
  private waiting: Change[] = [];
  private now: Page;

  constructor({ page, headers }: Pick<Loaded, 'page' | 'headers'>) {
    this.confirmed = this.now = page;
    this.journal.push(...headers);
  }

  /** The page with all that was done to it. */
  get page(): Page {
    return this.now;
  }

  /** What the server does not have yet, oldest first. */
  get pending(): readonly Change[] {
    return this.waiting;
  }

  /** The last change that the server has. */
  get lastId(): string | undefined {
    return this.journal.at(-1)?.id;
  }

  history(author: string): History {
    return historyOf([...this.journal, ...this.waiting], author);
  }

  /** Makes a change part of the page. Throws a PageError where it does not fit. */
  append(change: Change): void {
    this.now = applyChange(this.now, change);
    this.waiting.push(change);
  }

  /** The first waiting changes are saved now. */
  confirm(batch: readonly Change[]): void {
    this.waiting = this.waiting.slice(batch.length);
    // With nothing left to save, the page is what the server has.
    this.confirmed = this.waiting.length === 0 ? this.now : batch.reduce(applyChange, this.confirmed);
    this.journal.push(...batch.map(headerOf));
  }

  /** Puts changes of others beneath one's own, of which `left` are still to be saved. Throws a PageError where they do not fit. */
  putBeneath(changes: readonly Change[], left: readonly Change[]): readonly Change[] {
    this.confirmed = changes.reduce(applyChange, this.confirmed);
    this.journal.push(...changes.map(headerOf));
    return this.lay(left);
  }

  /** Begins anew from what the server has. */
  startOver({ page, headers }: Pick<Loaded, 'page' | 'headers'>, left: readonly Change[]): readonly Change[] {
    this.confirmed = page;
    this.journal.splice(0, this.journal.length, ...headers);
    return this.lay(left);
  }

  /** Lays waiting changes on what is confirmed. */
  lay(waiting: readonly Change[]): readonly Change[] {
    const { page, fitting, lost } = laidOn(this.confirmed, waiting);
    this.now = page;
    this.waiting = fitting;
    return lost;
  }
}
