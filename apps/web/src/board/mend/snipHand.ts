import type { Point } from '@true-nib/core/math';
import { Snipper } from '@true-nib/core/mend';
import type { Page, PenSample } from '@true-nib/core/page';
import { zoomOf } from '../../render/view';
import { newId } from '../../session/ids';
import { refuse, type Board, type Gesture } from '../inkHand';
import { goingSketch } from './mendSketch';
import { useMend } from './mendStore';
import { FINGER, linesNear, reachedLayers, type Reached } from './reach';

/** Snips pieces off lines: shown under the hover, or under the finger, before they go. */
export class SnipHand {
  /** What was found on the page as it stands; a page that changed is looked at anew. */
  private seen: { readonly page: Page; readonly settings: string; readonly snipper: Snipper } | undefined;
  private isShowing = false;

  constructor(private readonly board: Board) {}

  hovers(at: Point | undefined): void {
    const { picture, session } = this.board;
    const reached = reachedLayers(session.page);
    const found = at && typeof reached !== 'string' ? this.look(reached).under(at, this.reach) : undefined;
    if (found && found !== 'meets nothing' && typeof reached !== 'string') {
      picture.setSketch(goingSketch(this.look(reached).shown(found)));
      this.isShowing = true;
    } else this.clear();
  }

  clear(): void {
    if (this.isShowing) this.board.picture.setSketch(undefined);
    this.isShowing = false;
  }

  begin(at: Point): Gesture {
    const { board } = this;
    const { picture, session, notice } = board;
    const reached = reachedLayers(session.page);
    if (typeof reached === 'string') return refuse(notice, reached);
    const snipper = this.make(reached);
    const first = snipper.under(at, this.reach);
    if (first && first !== 'meets nothing') snipper.take(first);
    const show = () => {
      picture.setSketch(goingSketch(snipper.shown()));
      this.isShowing = true;
    };
    show();
    let last: PenSample | undefined;
    let isDrag = false;
    return {
      move: (samples) => {
        for (const sample of samples) {
          if (last) {
            isDrag = true;
            for (const found of snipper.across(last, sample)) snipper.take(found);
          }
          last = sample;
        }
        snipper.prepare();
        show();
      },
      end: () => {
        this.clear();
        if (snipper.count === 0) {
          if (first === 'meets nothing') notice('This line meets no other. Lift takes it whole.');
          else if (!isDrag) notice('There is no line to snip here.');
          return;
        }
        const count = snipper.count;
        session.commit(count === 1 ? 'Snip' : `Snip ${count} pieces`, snipper.edits(newId), reached.changing.slice());
      },
      cancel: () => this.clear(),
    };
  }

  private get reach(): number {
    return FINGER / zoomOf(this.board.picture.view);
  }

  /** What a hover asks again and again is found once for a page. */
  private look(reached: Reached): Snipper {
    const { page } = this.board.session;
    const { gap } = useMend.getState();
    const settings = JSON.stringify([reached, gap]);
    if (this.seen?.page !== page || this.seen.settings !== settings)
      this.seen = { page, settings, snipper: this.make(reached) };
    return this.seen.snipper;
  }

  private make({ changing, met }: Reached): Snipper {
    const { gap } = useMend.getState();
    return new Snipper((box) => linesNear(this.board, met, box), {
      gap,
      mayCut: ({ layerId }) => changing.includes(layerId),
    });
  }
}
