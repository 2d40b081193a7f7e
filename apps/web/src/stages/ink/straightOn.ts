import { lineSpine, straightened as by15 } from '@true-nib/core/shapes';
import { inked } from '@true-nib/core/stroke';
import type { Point } from '@true-nib/core/math';
import { type Board, type PageKeep, type PageSlot, isInHand, drawnLayer } from '../../board';
import { withCopies } from '../../guiding';
import { lastEndSlot } from '../../hand';
import { nibFor } from '../../nibs';
import { useShapeChoice } from './shapeChoice';

/** While its key is held, the next line goes straight on from the end of the last one; it is shown before the pen comes down. */
export class StraightOn implements PageKeep {
  isHeld = false;
  private at: Point | undefined;

  constructor(private readonly board: Board) {}

  setHeld(isHeld: boolean): void {
    this.isHeld = isHeld;
    if (!isHeld && !this.board.hand.isBusy) this.board.picture.endLive();
    if (isHeld && this.at) this.show(this.at);
  }

  hovers(at: Point | undefined): void {
    this.at = at;
    if (this.isHeld && at) this.show(at);
  }

  private show(to: Point): void {
    const { session, picture, hand } = this.board;
    const desk = this.board.desk();
    const { at: from } = this.board.of(lastEndSlot);
    const target = drawnLayer(session.page, desk.layerId);
    if (!isInHand(desk, 'nib') || !from || typeof target === 'string') return;
    const isStepped = useShapeChoice.getState().settings.regular !== hand.isShifted;
    const straight = inked(lineSpine(from, isStepped ? by15(from, to) : to), nibFor(session.page));
    picture.showThings(withCopies(session.page, target.layer.id, [straight]), target.layer.id);
  }
}

/** Whether the next line on the open page goes straight on. */
export const straightOnSlot: PageSlot<StraightOn> = { open: (board) => new StraightOn(board) };
