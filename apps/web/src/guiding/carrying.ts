import PQueue from 'p-queue';
import { checkMove, moveGuide, tetheredCount, tetheredLinesOf, type TetheredLines } from '@true-nib/core/tethers';
import { find, ofKind, type Edit, type Page } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { GuideEntity, GuideShape } from '@true-nib/core/guides';
import { breath } from '../base';
import { say } from '../look';
import type { Board } from '../board';
import { useDepth } from './depthStore';

/** Tethered lines beyond which they are carried beside the main thread, and shown by their courses alone until then. */
export const MANY = 150;
/** The same while a hand drags: at every move of it each of them would be painted anew. */
export const MANY_DRAGGED = 40;
/** Lines that come over from the worker in one go. */
const EACH = 400;

export const areMany = (page: Page, guide: GuideEntity, most = MANY): boolean =>
  guide.tethers && tetheredCount(page, guide.id) > most;

/** The lines that are tethered to a guide where they are very many: looked up once while the guide is moved. */
export class ManyTethered {
  private known: { readonly page: Page; readonly id: EntityId; readonly most: number } | undefined;
  private lines: TetheredLines | undefined;

  /** Answers nothing where there are no more than `most`. */
  of(page: Page, guide: GuideEntity, most: number): TetheredLines | undefined {
    const { known } = this;
    if (known?.page === page && known.id === guide.id && known.most === most) return this.lines;
    this.known = { page, id: guide.id, most };
    this.lines = areMany(page, guide, most) ? tetheredLinesOf(page, guide) : undefined;
    return this.lines;
  }
}

/**
 * What giving a guide another shape does to it and to all that is tethered to it: many lines are carried in the worker, with a
 * figure that says how far it is. Rejects with a PageError where it cannot be moved, or the page changes meanwhile.
 */
async function carried({ session, picture }: Board, id: EntityId, shape: GuideShape): Promise<Edit[]> {
  const { page } = session;
  const { following } = useDepth.getState();
  const guide = checkMove(page, id, shape);
  say('Carrying the lines…');
  const count = await picture.inks.beside.tether(ofKind(page, 'guide'), guide, shape, following);
  const edits: Edit[] = [{ before: guide, after: { ...guide, shape } }];
  for (let from = 0; from < count; from += EACH) {
    for (const after of await picture.inks.beside.tethered(from, from + EACH)) {
      const before = find(page, after.kind, after.id);
      if (before) edits.push({ before, after });
    }
    say(`Carrying the lines: ${Math.round((100 * Math.min(count, from + EACH)) / count)} %`);
    await breath();
  }
  if (session.page !== page) throw new PageError('The page changed meanwhile: nothing was moved. Try once more.');
  return edits;
}

/** What a guide is to become. */
interface Move {
  readonly id: EntityId;
  readonly shape: GuideShape;
  readonly label: string;
}

/** Keeps moves of guides with all that is tethered to them: at once, or many lines beside the hand, one move after the other. */
export class GuideMoves {
  private readonly waiting = new Set<Move>();
  private readonly queue = new PQueue({ concurrency: 1 });
  /** The page when they were asked for, but for what they did to it: whether something else was done since. */
  private asOf: Page | undefined;

  constructor(private readonly board: Board) {}

  keepAtOnce({ id, shape, label }: Move): void {
    const { session, notice } = this.board;
    try {
      const { edits } = moveGuide(session.page, id, shape, label, useDepth.getState().following);
      session.commit(label, edits);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      notice(error.message);
    }
  }

  /** Keeps a move that takes a while; calls `ended` when it is done with, right before it is kept. Steps back wait for it. */
  keepInTime(move: Move, ended: () => void): void {
    if (this.waiting.size === 0) this.asOf = this.board.session.page;
    this.waiting.add(move);
    this.board.session.waitFor(this.queue.add(() => this.carry(move, ended)));
  }

  private async carry(move: Move, ended: () => void): Promise<void> {
    const { session, notice } = this.board;
    try {
      const edits = this.waiting.has(move) ? await carried(this.board, move.id, move.shape) : [];
      // It may have been kept at once meanwhile.
      if (!this.waiting.delete(move)) return;
      ended();
      session.commit(move.label, edits);
      this.asOf = session.page;
      say(`${edits.length - 1} lines went along.`);
    } catch (error) {
      if (!this.waiting.delete(move)) return;
      ended();
      notice(error instanceof Error ? error.message : 'The guide could not be moved.');
    }
  }

  /**
   * Gives up the last move that is not kept yet, if nothing else was done since. Answers it, and the one of its guide before it
   * that waits, too.
   */
  giveUpLast(): { readonly last: Move; readonly before: Move | undefined } | undefined {
    const last = [...this.waiting].at(-1);
    if (!last || this.board.session.page !== this.asOf) return undefined;
    this.waiting.delete(last);
    return { last, before: [...this.waiting].findLast(({ id }) => id === last.id) };
  }

  /** Keeps at once, whatever it costs, all that is waiting: for when the page is left. */
  finish(): void {
    for (const move of this.waiting) this.keepAtOnce(move);
    this.waiting.clear();
  }
}
