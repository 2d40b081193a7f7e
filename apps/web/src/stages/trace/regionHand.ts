import { flatRing } from '@true-nib/core/area';
import { framesOf } from '@true-nib/core/drawn';
import { apply, invert, ringPoints, then, type Matrix, type Point } from '@true-nib/core/math';
import { find, ofKind } from '@true-nib/core/page';
import {
  isInHand,
  still,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
  type Press,
} from '../../board';
import { loopGesture } from '../../hand';
import { strokeBoth, type Sketch } from '../../render';
import { tracingSlot } from './tracingDesk';
import { setTrace, useTrace, useTraceChoice } from './traceStore';
import type { ShownTrace } from './trace.worker';

/** CSS px² that a loop goes round at least. */
const LEAST_LOOP = 400;
/** ms after a change until the view is traced as exactly as it can be, and px of the part that is. */
const REST_MS = 450;
const EXACT_PX = 3e6;

interface Seen {
  readonly bitmap: ImageBitmap;
  readonly map: Matrix;
}

/** Says what is traced, a loop or a panel, and shows what the settings come to where one looks. */
export class TraceRegion implements PageKeep {
  private isHeld = false;
  private seen: Seen | undefined;
  /** A quick preview is under way. */
  private isBusy = false;
  private round = 0;
  private isWanted = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.stops = [
      useTraceChoice.subscribe(() => this.isHeld && this.preview()),
      useTrace.subscribe((now, before) => {
        if (!this.isHeld) return;
        if (now.loop !== before.loop) this.preview();
        if (now.share === undefined && before.share !== undefined) this.preview();
      }),
      board.session.onEdits((_page, edits) => {
        if (this.isHeld && edits.some(({ before, after }) => (after ?? before)?.kind === 'picture')) this.preview();
      }),
      board.picture.onView(() => this.isHeld && this.previewSoon()),
    ];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.isHeld = false;
    clearTimeout(this.timer);
    this.seen?.bitmap.close();
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, 'trace');
    if (isHeld === this.isHeld) return;
    this.isHeld = isHeld;
    if (isHeld) this.preview();
    else this.forget();
  }

  /** Escape: stops a tracing that is under way, then lets the loop go. */
  letGo(): boolean {
    if (this.board.of(tracingSlot).stop()) return true;
    if (!this.isHeld || !useTrace.getState().loop) return false;
    setTrace({ loop: undefined, panelId: undefined });
    return true;
  }

  /** Enter: traces. */
  settle(): boolean {
    if (!this.isHeld) return false;
    void this.board.of(tracingSlot).trace();
    return true;
  }

  begin({ at }: Press): Gesture | undefined {
    const { where } = useTraceChoice.getState();
    if (where === 'loop') return this.beginLoop();
    if (where === 'panel') return this.takePanel(at);
    return undefined;
  }

  private takePanel(at: Point): Gesture {
    const { session, notice } = this.board;
    const panelId = framesOf(session.page).panelAt(at)?.id;
    const panel = panelId === undefined ? undefined : find(session.page, 'panel', panelId);
    if (!panel) notice(ofKind(session.page, 'panel').length === 0 ? 'This page has no panels.' : 'Touch a panel.');
    else {
      const loop = ringPoints(flatRing(panel.ring, 0.5));
      setTrace({ loop, panelId });
    }
    return still;
  }

  private beginLoop(): Gesture {
    return loopGesture(this.board, (loop, area) => {
      if (area < LEAST_LOOP) return this.board.notice('Draw a loop round what is to be traced.');
      setTrace({ loop, panelId: undefined });
    });
  }

  private forget(): void {
    clearTimeout(this.timer);
    this.seen?.bitmap.close();
    this.seen = undefined;
    this.board.picture.setSketch(undefined);
    setTrace({ previewed: undefined });
  }

  private previewSoon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.work(EXACT_PX), REST_MS);
    this.show();
  }

  /** From few px at once, and exactly once the hand rests. */
  private preview(): void {
    this.show();
    void this.work();
    this.previewSoon();
  }

  /** Quick ones wait for each other; one that takes long is given up for them. */
  private async work(most?: number): Promise<void> {
    if (this.isBusy) {
      this.isWanted = true;
      return;
    }
    const isQuick = most === undefined;
    this.isBusy = isQuick;
    const own = ++this.round;
    const { board } = this;
    const { map } = board.picture;
    let shown: ShownTrace | undefined;
    try {
      shown = await board.of(tracingSlot).preview({ map, ...deviceSize(board) }, SHOWN, most);
    } catch {
      // A blank picture is said when it is to be traced; a worker that is gone, then as well.
      setTrace({ previewed: undefined });
    }
    if (isQuick) this.isBusy = false;
    if (!this.isHeld || own !== this.round) shown?.bitmap.close();
    else if (shown) {
      this.seen?.bitmap.close();
      this.seen = { bitmap: shown.bitmap, map };
      setTrace({ previewed: shown.lines });
      this.show();
    }
    if (!isQuick || !this.isWanted) return;
    this.isWanted = false;
    void this.work();
  }

  private show(): void {
    const { loop } = useTrace.getState();
    const { where } = useTraceChoice.getState();
    this.board.picture.setSketch(sketchOf(this.seen, where === 'page' ? undefined : loop));
  }
}

/** What is traced shows in this, told from ink and from blue roughs alike. */
const SHOWN = '#b8402a';

const deviceSize = ({ picture }: Board) => {
  const { width, height } = picture.size;
  return {
    width: Math.max(1, Math.round(width * picture.pxRatio)),
    height: Math.max(1, Math.round(height * picture.pxRatio)),
  };
};

const sketchOf =
  (seen: Seen | undefined, loop: readonly Point[] | undefined): Sketch =>
  (context, map, ratio) => {
    if (seen) {
      context.setTransform(...then(invert(seen.map), map));
      context.drawImage(seen.bitmap, 0, 0);
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
    if (!loop) return;
    const at = loop.map((place) => apply(map, place));
    strokeBoth(
      context,
      ratio,
      () => {
        for (const [k, { x, y }] of at.entries()) (k === 0 ? context.moveTo : context.lineTo).call(context, x, y);
        context.closePath();
      },
      true,
    );
  };

export const regionSlot: PageSlot<TraceRegion> = { open: (board) => new TraceRegion(board) };
