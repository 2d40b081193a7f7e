import type { Point } from '@true-nib/core/math';
import { type Board, useDesk } from '../board';
import {
  aligned,
  centredAt,
  flippedAt,
  isFlipped,
  panned,
  turnedAt,
  turnOf,
  withinReach,
  zoomedAt,
  zoomOf,
  type View,
} from '../render';

/** ms after the last move of a wheel when the panels hear of the view. */
const REST_MS = 120;
/** CSS px of a line that a wheel tells in lines. */
const LINE = 16;

/** Moves the page under the hand. It lies still while something is being drawn. */
export class ViewHand {
  private telling: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly board: Pick<Board, 'picture' | 'session' | 'desk'>,
    private readonly isBusy: () => boolean,
  ) {}

  dispose(): void {
    clearTimeout(this.telling);
  }

  get view(): View {
    return this.board.picture.view;
  }

  show(view: View, isMoving = false): void {
    if (this.isBusy()) return;
    const reached = withinReach(view, this.board.session.page.size, this.middle());
    this.board.picture.show(isMoving ? reached : aligned(reached), isMoving);
    // The panels hear of the view when it rests: a wheel that turns is no time to draw them anew.
    clearTimeout(this.telling);
    if (isMoving) this.telling = setTimeout(() => this.tell(), REST_MS);
    else this.tell();
  }

  zoomBy(factor: number, at = this.middle()): void {
    this.show(zoomedAt(this.view, at, factor));
  }

  zoomTo(zoom: number): void {
    this.zoomBy(zoom / zoomOf(this.view));
  }

  turnBy(angle: number): void {
    this.show(turnedAt(this.view, this.middle(), angle));
  }

  panBy(dx: number, dy: number): void {
    this.show(panned(this.view, dx, dy));
  }

  flip(): void {
    this.show(flippedAt(this.view, this.middle()));
  }

  centre(): void {
    this.show(centredAt(this.view, this.board.session.page.size, this.middle()));
  }

  /** A wheel zooms where the pointer is, with Shift it moves the page, with Alt it turns it. `at` in CSS px of the board. */
  wheel(event: WheelEvent, at: Point): void {
    const lines = event.deltaMode === WheelEvent.DOM_DELTA_LINE ? LINE : 1;
    if (event.shiftKey) this.show(panned(this.view, -(event.deltaX || event.deltaY) * lines, 0), true);
    else if (event.altKey) this.show(turnedAt(this.view, at, (event.deltaY * lines * Math.PI) / 1800), true);
    else this.show(zoomedAt(this.view, at, Math.exp(-event.deltaY * lines * (event.ctrlKey ? 0.01 : 0.002))), true);
  }

  private tell(): void {
    const [zoom, turn, flipped] = [zoomOf(this.view), turnOf(this.view), isFlipped(this.view)];
    const desk = this.board.desk();
    if (zoom !== desk.zoom || turn !== desk.turn || flipped !== desk.flipped) useDesk.setState({ zoom, turn, flipped });
  }

  private middle(): Point {
    const { width, height } = this.board.picture.free;
    return { x: width / 2, y: height / 2 };
  }
}
