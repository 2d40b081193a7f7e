import { distance, type Point } from '@true-nib/core/math';
import { panned, pinched, levelled, zoomedAt } from '../render';
import type { ViewHand } from './viewHand';

/** Two fingers nearer than this, CSS px, tell no turn and no zoom. */
const LEAST_PINCH = 10;
/** Zoom per CSS px of a sideways drag with the zoom key held: 200 px are some three times. */
const SCRUB = 0.006;

/** Moves of the page by pointers: one that drags it, or two fingers that pinch it. All places in CSS px of the board. */
export class PageMove {
  private readonly fingers = new Map<number, Point>();
  private panning: { readonly pointer: number; readonly zoomsAt: Point | undefined; last: Point } | undefined;
  private pinching = false;

  constructor(private readonly view: ViewHand) {}

  get isPinching(): boolean {
    return this.pinching;
  }

  get isPanning(): boolean {
    return this.panning !== undefined;
  }

  get count(): number {
    return this.fingers.size;
  }

  has(pointer: number): boolean {
    return this.fingers.has(pointer);
  }

  /** The finger that came down first, and where it is. */
  get first(): readonly [pointer: number, at: Point] | undefined {
    return this.fingers.entries().next().value;
  }

  down(finger: number, at: Point): void {
    this.fingers.set(finger, at);
  }

  forget(): void {
    this.fingers.clear();
  }

  /** `isZooming`: dragging sideways zooms where the pointer came down. */
  beginPan(pointer: number, at: Point, isZooming: boolean): void {
    this.panning = { pointer, last: at, zoomsAt: isZooming ? at : undefined };
  }

  beginPinch(): void {
    this.panning = undefined;
    this.pinching = true;
  }

  /** Follows a pointer. Answers whether that moved the page. */
  move(pointer: number, at: Point): boolean {
    const before = this.fingers.get(pointer);
    if (before) this.fingers.set(pointer, at);
    if (before && this.pinching) {
      const other = [...this.fingers].find(([id]) => id !== pointer)?.[1];
      if (other && distance(before, other) > LEAST_PINCH)
        this.view.show(pinched(this.view.view, [before, other], [at, other]), true);
      return true;
    }
    if (this.panning?.pointer !== pointer) return false;
    const { last, zoomsAt } = this.panning;
    this.panning.last = at;
    const { view } = this.view;
    if (zoomsAt) this.view.show(zoomedAt(view, zoomsAt, Math.exp((at.x - last.x) * SCRUB)), true);
    else this.view.show(panned(view, at.x - last.x, at.y - last.y), true);
    return true;
  }

  /** A pointer is off: what it moved rests. Only when both fingers are: the last one to leave must not begin to draw. */
  up(pointer: number, at: Point): void {
    if (this.panning?.pointer === pointer || (this.pinching && this.fingers.size === 0)) this.rest(at);
  }

  lift(finger: number): void {
    this.fingers.delete(finger);
  }

  /** Ends a move of the page, with the view as it is to be drawn on. */
  rest(at: Point): void {
    const { pinching, panning } = this;
    this.pinching = false;
    this.panning = undefined;
    if (pinching) this.view.show(levelled(this.view.view, at));
    else if (panning) this.view.show(this.view.view);
  }
}
