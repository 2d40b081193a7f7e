import type { Point } from '@true-nib/core/math';
import { Snipper, withoutEdges } from '@true-nib/core/mend';
import type { PenSample } from '@true-nib/core/hand';
import { breath } from '../../base';
import { zoomOf } from '../../render';
import { newId } from '../../session';
import { refuse, type Gesture, type Board } from '../../board';
import { goingSketch } from './mendSketch';
import { useMend } from './mendStore';
import { FINGER, linesNear, reachedLayers, type Reached } from '../../hand';

/** Lines of which is worked out in one go what is left: a frame's work. */
const MOST_AT_ONCE = 6;

/** Snips pieces off lines: shown under the hover, or under the finger, before they go. */
export class SnipHand {
  /** What was found on the page as it stands; a page that changed is looked at anew. */
  private seen: { readonly key: readonly unknown[]; readonly snipper: Snipper | undefined } | undefined;
  private isShowing = false;

  constructor(private readonly board: Board) {}

  hovers(at: Point | undefined): void {
    const { picture } = this.board;
    const snipper = at && this.look();
    const found = at && snipper?.under(at, this.reach);
    if (snipper && found && found !== 'meets nothing') {
      picture.setSketch(goingSketch(snipper.shown(found)));
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
    const reached = reachedLayers(session.page, useMend.getState().reach);
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
        snipper.prepare(MOST_AT_ONCE);
        show();
      },
      end: () => {
        if (snipper.count === 0) {
          this.clear();
          if (first === 'meets nothing') notice('This line meets no other. Lift takes it whole.');
          else if (!isDrag) notice('There is no line to snip here.');
          return;
        }
        if (snipper.prepare(MOST_AT_ONCE)) this.keep(snipper);
        else session.waitFor(this.keepInTime(snipper));
      },
      cancel: () => this.clear(),
    };
  }

  /** A quick hand may have gone across more than is worked out at once. */
  private async keepInTime(snipper: Snipper): Promise<void> {
    while (!snipper.prepare(MOST_AT_ONCE)) await breath();
    this.keep(snipper);
  }

  private keep(snipper: Snipper): void {
    const { count } = snipper;
    this.clear();
    const { session } = this.board;
    session.commit(count === 1 ? 'Snip' : `Snip ${count} pieces`, withoutEdges(session.page, snipper.edits(newId)));
  }

  private get reach(): number {
    return FINGER / zoomOf(this.board.picture.view);
  }

  /** What a hover asks again and again is found once for a page as it stands and is reached. */
  private look(): Snipper | undefined {
    const { page } = this.board.session;
    const key = [page, useMend.getState(), this.board.desk()];
    if (!this.seen || this.seen.key.some((one, k) => one !== key[k])) {
      const reached = reachedLayers(page, useMend.getState().reach);
      this.seen = { key, snipper: typeof reached === 'string' ? undefined : this.make(reached) };
    }
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
