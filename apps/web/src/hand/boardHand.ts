import { pressureOf, type PenSample } from '@true-nib/core/hand';
import { distance, type Point } from '@true-nib/core/math';
import {
  begunSlot,
  type Board,
  type Hand,
  type Press,
  useDesk,
  type Desk,
  type Gesture,
  type Modifiers,
  workbench,
} from '../board';
import { sayAt } from '../look';
import { toPage, type View } from '../render';
import { Dab, PEN_WITHIN, settle } from './dab';
import { PageMove } from './pageMove';
import { ViewHand } from './viewHand';

/** A finger that has gone less far than this, CSS px, has not begun to draw when a second one comes down. */
const DRAW_SLOP = 24;
/** A second finger within so many ms shows that the first one was not meant to draw. */
const FINGER_WITHIN = 150;
/** The button that the far end of a pen reports (W3C Pointer Events, chorded button interactions). */
const ERASER_END = 5;

interface Held {
  readonly pointer: number;
  readonly gesture: Gesture;
  readonly startedAt: number;
  readonly from: Point;
}

/**
 * Turns pointers on the board into gestures: a pen, a mouse or one finger uses the tool in hand, two fingers, the wheel
 * and the middle button move the page. A pen seen once leaves fingers to move the page.
 */
export class BoardHand implements Hand {
  private held: Held | undefined;
  private readonly dab = new Dab();
  private readonly view: ViewHand;
  private readonly pageMove: PageMove;
  private origin: Point = { x: 0, y: 0 };
  private holdsMoveKey = false;
  private holdsZoomKey = false;
  private modifiers: Modifiers = { shiftKey: false, altKey: false };
  private readonly stop: () => void;

  constructor(
    private readonly element: HTMLElement,
    private readonly board: Omit<Board, 'hand'>,
  ) {
    this.view = new ViewHand(board, () => this.isBusy);
    this.pageMove = new PageMove(this.view);
    this.stop = this.listen();
  }

  dispose(): void {
    this.view.dispose();
    this.dab.keep();
    this.cancel();
    this.stop();
  }

  private listen(): () => void {
    const { element } = this;
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      listener: (event: HTMLElementEventMap[K]) => void,
      options?: AddEventListenerOptions,
    ) => {
      element.addEventListener(type, listener, options);
      return () => element.removeEventListener(type, listener, options);
    };
    const stops = [
      on('pointerdown', (event) => this.down(event)),
      on('pointermove', (event) => this.move(event)),
      on('pointerup', (event) => this.up(event, false)),
      on('pointercancel', (event) => this.up(event, true)),
      // A pointer that is taken away without either, as by a dialog of the browser.
      on('lostpointercapture', (event) => this.up(event, true)),
      on('pointerenter', () => this.findPlace()),
      on('pointerleave', () => {
        this.board.picture.setRing(undefined);
        for (const keep of this.board.keeps) keep.hovers?.(undefined);
      }),
      on('wheel', (event) => this.wheel(event), { passive: false }),
      on('touchstart', touched, { passive: false }),
      on('contextmenu', (event) => event.preventDefault()),
    ];
    return () => stops.forEach((stop) => stop());
  }

  // What keys and buttons ask of it.

  setMoveKey(isHeld: boolean): void {
    this.holdsMoveKey = isHeld;
  }

  setZoomKey(isHeld: boolean): void {
    this.holdsZoomKey = isHeld;
  }

  setCornering(isHeld: boolean): void {
    if (isHeld) this.held?.gesture.corner?.();
  }

  setModifiers({ shiftKey, altKey }: Modifiers): void {
    this.modifiers = { shiftKey, altKey };
  }

  get isShifted(): boolean {
    return this.modifiers.shiftKey;
  }

  get isBusy(): boolean {
    return this.held !== undefined;
  }

  keep(): void {
    this.dab.keep();
    this.taken()?.gesture.end();
  }

  cancel(): boolean {
    const held = this.taken();
    held?.gesture.cancel();
    return held !== undefined;
  }

  show = (view: View): void => this.view.show(view);
  zoomBy = (factor: number): void => this.view.zoomBy(factor);
  zoomTo = (zoom: number): void => this.view.zoomTo(zoom);
  turnBy = (angle: number): void => this.view.turnBy(angle);
  panBy = (dx: number, dy: number): void => this.view.panBy(dx, dy);
  flip = (): void => this.view.flip();
  centre = (): void => this.view.centre();

  private taken(): Held | undefined {
    const { held } = this;
    if (held) useDesk.setState({ isDrawing: false });
    this.held = undefined;
    return held;
  }

  private findPlace(): void {
    const { left, top } = this.element.getBoundingClientRect();
    this.origin = { x: left, y: top };
  }

  private down(event: PointerEvent): void {
    this.findPlace();
    this.setModifiers(event);
    const at = this.place(event);
    const isTouch = event.pointerType === 'touch';
    // A palm that comes down while the pen draws is not meant at all.
    if (isTouch && this.held && !this.pageMove.has(this.held.pointer)) return;
    if (isTouch) this.pageMove.down(event.pointerId, at);
    else if (event.pointerType === 'pen') this.penDown(event.timeStamp, at);
    capture(this.element, event.pointerId);
    if (isTouch && this.pageMove.count === 2) return this.beginPinch(event.timeStamp);
    if (isTouch && (this.pageMove.count > 2 || this.pageMove.isPinching)) return;
    if (this.held || this.pageMove.isPanning) return;
    this.dab.keep();
    const gesture = this.begin(event, this.board.desk());
    if (!gesture) return this.pageMove.beginPan(event.pointerId, at, this.holdsZoomKey);
    this.held = { pointer: event.pointerId, gesture, startedAt: event.timeStamp, from: at };
    useDesk.setState({ isDrawing: true });
    gesture.move([this.sample(event)]);
  }

  /** Fingers that lay there before give way to the pen: what they drew just now was its palm. */
  private penDown(now: number, at: Point): void {
    this.dab.withdraw(now);
    if (this.held && this.pageMove.has(this.held.pointer)) {
      const { gesture, startedAt } = this.held;
      this.taken();
      settle(gesture, now - startedAt < PEN_WITHIN);
    }
    this.pageMove.forget();
    this.pageMove.rest(at);
    if (!this.board.desk().penSeen) useDesk.setState({ penSeen: true, fingerDraws: false });
  }

  /** The gesture that a pointer begins; nothing where it moves the page. */
  private begin(event: PointerEvent, desk: Desk): Gesture | undefined {
    const stage = workbench.stage(desk.stage);
    const press = this.press(event);
    const isMoving = this.holdsMoveKey || this.holdsZoomKey || event.button === 1 || event.button === 2;
    if (isMoving || !stage || workbench.isPlain(desk)) return undefined;
    // While the pen draws, a finger on an edge or a tag takes hold of it; anywhere else it moves the page.
    if (event.pointerType === 'touch' && desk.penSeen && !desk.fingerDraws)
      return stage.begin ? undefined : firstOf(this.board.keeps, (keep) => keep.hold?.(press));
    const board: Board = { ...this.board, hand: this, notice: press.notice };
    board.of(begunSlot).begin(press.at);
    const tool = event.button === ERASER_END ? workbench.tools.find((one) => one.isEraserEnd) : undefined;
    const own = () =>
      stage.begin && !tool ? stage.begin(board, press) : (tool ?? workbench.tool(desk.tool))?.begin(board, press);
    // Whatever has a say before the tool does, the last one first.
    const begin = this.board.keeps.reduce((next, keep) => (keep.seize ? () => keep.seize?.(press, next) : next), own);
    return begin();
  }

  private press(event: PointerEvent): Press {
    const tip = { x: event.clientX, y: event.clientY };
    return {
      at: this.page(event),
      place: this.place(event),
      modifiers: () => this.modifiers,
      isMoving: () => this.holdsMoveKey || this.pageMove.count > 1,
      notice: (message) => sayAt(message, tip),
    };
  }

  /** A second finger: what the first one had hardly begun was meant to move the page. */
  private beginPinch(now: number): void {
    const [first, at] = this.pageMove.first ?? [];
    const { held } = this;
    if (held && held.pointer !== first) return;
    if (held && at && now - held.startedAt > FINGER_WITHIN && distance(held.from, at) > DRAW_SLOP) return;
    this.cancel();
    this.pageMove.beginPinch();
  }

  private move(event: PointerEvent): void {
    const at = this.place(event);
    if (event.pointerType !== 'touch') this.hovers(event);
    if (this.pageMove.move(event.pointerId, at) || this.held?.pointer !== event.pointerId) return;
    const events = event.getCoalescedEvents?.() ?? [];
    this.held.gesture.move((events.length > 0 ? events : [event]).map((one) => this.sample(one)));
  }

  private up(event: PointerEvent, isCancelled: boolean): void {
    this.pageMove.lift(event.pointerId);
    if (this.held?.pointer !== event.pointerId) return this.pageMove.up(event.pointerId, this.place(event));
    const { gesture, startedAt } = this.held;
    this.taken();
    const isTouch = event.pointerType === 'touch';
    const left = PEN_WITHIN - (event.timeStamp - startedAt);
    // A touch that is taken away was a palm, or meant for the system; a pen's line is kept as it stands.
    if (isTouch && isCancelled) gesture.cancel();
    else if (isTouch && left > 0) this.dab.wait(gesture, startedAt, left);
    else gesture.end();
  }

  private wheel(event: WheelEvent): void {
    event.preventDefault();
    this.findPlace();
    this.view.wheel(event, this.place(event));
  }

  /** Shows the tool's true size under a pen or mouse that hovers, and lets whatever follows it know. */
  private hovers(event: PointerEvent): void {
    const desk = this.board.desk();
    const tool = workbench.tool(desk.tool);
    const isHome = tool !== undefined && workbench.homeOf(tool.id)?.id === desk.stage;
    const radius = isHome && (!this.held || tool.ringStays) ? tool.ring?.(this.board.session.page) : undefined;
    this.board.picture.setRing(radius === undefined ? undefined : { at: this.place(event), radius });
    if (this.held) return;
    const at = this.page(event);
    for (const keep of this.board.keeps) keep.hovers?.(at);
  }

  private place(event: MouseEvent): Point {
    return { x: event.clientX - this.origin.x, y: event.clientY - this.origin.y };
  }

  private page(event: MouseEvent): Point {
    return toPage(this.board.picture.view, this.place(event));
  }

  private sample(event: PointerEvent): PenSample {
    const { x, y } = this.page(event);
    return {
      x,
      y,
      pressure: pressureOf(event.pointerType, event.pressure),
      tiltX: event.tiltX || 0,
      tiltY: event.tiltY || 0,
      twist: event.twist || 0,
      time: event.timeStamp - (this.held?.startedAt ?? event.timeStamp),
    };
  }
}

function firstOf<T, R>(things: readonly T[], asked: (thing: T) => R | undefined): R | undefined {
  for (const thing of things) {
    const answer = asked(thing);
    if (answer !== undefined) return answer;
  }
  return undefined;
}

/**
 * What a finger draws must not be taken for a fling, which swallows the touch of the button that follows it.
 * A browser told so leaves the focus where it was: a number being typed is taken as it stands.
 */
function touched(event: TouchEvent): void {
  event.preventDefault();
  const { activeElement } = document;
  if (activeElement instanceof HTMLInputElement) activeElement.blur();
}

/** Some browsers refuse the capture of a pointer that is already gone. */
function capture(element: HTMLElement, pointer: number): void {
  try {
    element.setPointerCapture(pointer);
  } catch {
    // The gesture then ends where the pointer leaves the board.
  }
}
