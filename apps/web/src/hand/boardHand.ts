import { pressureOf, type PenSample } from '@true-nib/core/hand';
import { distance, type Point } from '@true-nib/core/math';
import { inked } from '@true-nib/core/stroke';
import { lineSpine, straightened as by15 } from '@true-nib/core/shapes';
import {
  aligned,
  centredAt,
  flippedAt,
  isFlipped,
  panned,
  pinched,
  straightened,
  toPage,
  turnedAt,
  turnOf,
  withinReach,
  zoomedAt,
  zoomOf,
  type View,
} from '../render/view';
import { sayAt } from '../look/notices';
import { useDesk, type Desk } from '../board/desk';
import { withCopies } from '../guiding/bearing';
import { useGuides } from '../guiding/guideStore';
import type { GuideTool } from '../stages/guides/guideTool';
import { beginRake } from '../stages/guides/raking';
import { beginErasing, drawnLayer, type Board, type Gesture } from './inkHand';
import { lastEnd } from './lastEnd';
import { nibFor, rubSizeFor } from '../nibs/rackStore';
import { isMending, type MendTool } from '../stages/mend/mendTool';
import type { DepthTool } from '../stages/depth/depthTool';
import type { PointTool } from '../stages/mend/pointTool';
import { beginPlacing } from '../stages/rough/roughHand';
import { beginSelecting, type Modifiers } from '../select/selectHand';
import type { Selection } from '../select/selection';
import type { PathTool } from '../stages/ink/pathTool';
import { beginShape, settingsWith } from '../stages/ink/shapeHand';
import { beginStroke } from '../stages/ink/strokeHand';

/** A finger that has gone less far than this, CSS px, has not begun to draw when a second one comes down. */
const DRAW_SLOP = 24;
/** A second finger within so many ms, or a pen, shows that the first finger was not meant to draw. */
const FINGER_WITHIN = 150;
const PEN_WITHIN = 500;
/** Two fingers nearer than this, CSS px, tell no turn and no zoom. */
const LEAST_PINCH = 10;
/** Zoom per CSS px of a sideways drag with the zoom key held: 200 px are some three times. */
const SCRUB = 0.006;
/** The button that the far end of a pen reports (W3C Pointer Events, chorded button interactions). */
const ERASER_END = 5;

/**
 * Turns pointers on the board into gestures: a pen, a mouse or one finger uses the tool in hand, two fingers, the wheel
 * and the middle button move the page. A pen seen once leaves fingers to move the page.
 */
export class BoardHand {
  private gesture:
    | { readonly pointer: number; readonly gesture: Gesture; readonly startedAt: number; readonly from: Point }
    | undefined;
  /** What a finger drew in less time than a pen may need to follow its palm. */
  private dab:
    | { readonly gesture: Gesture; readonly startedAt: number; readonly timer: ReturnType<typeof setTimeout> }
    | undefined;
  private readonly fingers = new Map<number, Point>();
  private panning: { readonly pointer: number; readonly zoomsAt: Point | undefined; last: Point } | undefined;
  private isPinching = false;
  private telling: ReturnType<typeof setTimeout> | undefined;
  private origin: Point = { x: 0, y: 0 };
  private isStraightOn = false;
  /** Where a pen or mouse hovers, page px. */
  private hover: Point | undefined;
  private holdsMoveKey = false;
  private holdsZoomKey = false;
  private modifiers: Modifiers = { shiftKey: false, altKey: false };
  private readonly stop: () => void;

  constructor(
    private readonly element: HTMLElement,
    private readonly board: Board & {
      readonly selection: Selection;
      readonly path: PathTool;
      readonly points: PointTool;
      readonly guides: GuideTool;
      readonly depth: DepthTool;
      readonly mend: MendTool;
    },
  ) {
    const listen = <K extends keyof HTMLElementEventMap>(
      type: K,
      listener: (event: HTMLElementEventMap[K]) => void,
      options?: AddEventListenerOptions,
    ) => {
      element.addEventListener(type, listener, options);
      return () => element.removeEventListener(type, listener, options);
    };
    const stops = [
      listen('pointerdown', (event) => this.down(event)),
      listen('pointermove', (event) => this.move(event)),
      listen('pointerup', (event) => this.up(event, false)),
      listen('pointercancel', (event) => this.up(event, true)),
      // A pointer that is taken away without either, as by a dialog of the browser.
      listen('lostpointercapture', (event) => this.up(event, true)),
      listen('pointerenter', () => this.findPlace()),
      listen('pointerleave', () => {
        this.board.picture.setRing(undefined);
        this.board.path.hovers(undefined);
        this.board.mend.hovers(useDesk.getState().tool, undefined);
      }),
      listen('wheel', (event) => this.wheel(event), { passive: false }),
      listen('touchstart', (event) => this.touched(event), { passive: false }),
      listen('contextmenu', (event) => event.preventDefault()),
    ];
    this.stop = () => stops.forEach((stop) => stop());
  }

  dispose(): void {
    clearTimeout(this.telling);
    this.keepDab();
    this.cancel();
    this.stop();
  }

  /** While held, any pointer moves the page. */
  setMoveKey(isHeld: boolean): void {
    this.holdsMoveKey = isHeld;
  }

  /** While held, dragging sideways zooms at the place where the pointer came down. */
  setZoomKey(isHeld: boolean): void {
    this.holdsZoomKey = isHeld;
  }

  /** While held, the next line goes straight on from the end of the last one; it is shown before the pen comes down. */
  setStraightOn(isHeld: boolean): void {
    this.isStraightOn = isHeld;
    if (!isHeld && !this.gesture) this.board.picture.endLive();
    if (isHeld && this.hover) this.showStraightOn(this.hover);
  }

  /** Takes the line under way to the next guide that could bear it, or turns a corner in one that is towed. */
  setCornering(isHeld: boolean): void {
    if (isHeld) this.gesture?.gesture.corner?.();
  }

  /** What is held beside a pointer or a key: it bends what the tool in hand does. */
  setModifiers({ shiftKey, altKey }: Modifiers): void {
    this.modifiers = { shiftKey, altKey };
  }

  get isShifted(): boolean {
    return this.modifiers.shiftKey;
  }

  /** Ends what is under way as if the hand had lifted here: the page is left, or the system takes the pointer away. */
  keep(): void {
    this.keepDab();
    if (!this.gesture) return;
    const { gesture } = this.gesture;
    this.letGo();
    gesture.end();
  }

  /** Gives up the gesture under way, leaving no trace. Answers whether there was one. */
  cancel(): boolean {
    if (!this.gesture) return false;
    const { gesture } = this.gesture;
    this.letGo();
    gesture.cancel();
    return true;
  }

  private letGo(): void {
    this.gesture = undefined;
    useDesk.setState({ isDrawing: false });
  }

  get isBusy(): boolean {
    return this.gesture !== undefined;
  }

  // Moves of the page that have no pointer: keys and buttons. They wait while something is being drawn.

  show(view: View, isMoving = false): void {
    if (this.gesture) return;
    const reached = withinReach(view, this.board.session.page.size, this.middle());
    this.board.picture.show(isMoving ? reached : aligned(reached), isMoving);
    // The panels hear of the view when it rests: a wheel that turns is no time to draw them anew.
    clearTimeout(this.telling);
    if (isMoving) this.telling = setTimeout(() => this.tell(), 120);
    else this.tell();
  }

  private tell(): void {
    const { view } = this.board.picture;
    const [zoom, turn, flipped] = [zoomOf(view), turnOf(view), isFlipped(view)];
    const desk = useDesk.getState();
    if (zoom !== desk.zoom || turn !== desk.turn || flipped !== desk.flipped) useDesk.setState({ zoom, turn, flipped });
  }

  zoomBy(factor: number, at = this.middle()): void {
    this.show(zoomedAt(this.board.picture.view, at, factor));
  }

  /** Zooms to `zoom` CSS px per page px about the middle of the board. */
  zoomTo(zoom: number): void {
    this.zoomBy(zoom / zoomOf(this.board.picture.view));
  }

  turnBy(angle: number): void {
    this.show(turnedAt(this.board.picture.view, this.middle(), angle));
  }

  panBy(dx: number, dy: number): void {
    this.show(panned(this.board.picture.view, dx, dy));
  }

  flip(): void {
    this.show(flippedAt(this.board.picture.view, this.middle()));
  }

  centre(): void {
    this.show(centredAt(this.board.picture.view, this.board.session.page.size, this.middle()));
  }

  private middle(): Point {
    const { width, height } = this.board.picture.free;
    return { x: width / 2, y: height / 2 };
  }

  private findPlace(): void {
    const { left, top } = this.element.getBoundingClientRect();
    this.origin = { x: left, y: top };
  }

  private down(event: PointerEvent): void {
    this.findPlace();
    this.setModifiers(event);
    const at = this.place(event);
    const desk = useDesk.getState();
    if (event.pointerType === 'touch') {
      // A palm that comes down while the pen draws is not meant at all.
      if (this.gesture && !this.fingers.has(this.gesture.pointer)) return;
      this.fingers.set(event.pointerId, at);
    } else if (event.pointerType === 'pen') {
      // And one that lay there before gives way to the pen.
      this.withdrawTouch(event.timeStamp, PEN_WITHIN);
      this.fingers.clear();
      this.rest(at);
      if (!desk.penSeen) useDesk.setState({ penSeen: true, fingerDraws: false });
    }
    capture(this.element, event.pointerId);
    if (event.pointerType === 'touch') {
      if (this.fingers.size === 2) return this.beginPinch(event.timeStamp);
      if (this.fingers.size > 2 || this.isPinching) return;
      if (desk.penSeen && !desk.fingerDraws && !this.slideUnder(event, desk)) return this.beginPan(event.pointerId, at);
    }
    if (this.gesture || this.panning) return;
    this.keepDab();
    const isMoving = this.holdsMoveKey || this.holdsZoomKey || event.button === 1 || event.button === 2;
    const slide = event.pointerType === 'touch' && desk.penSeen && !desk.fingerDraws;
    const gesture = isMoving ? undefined : slide ? this.slideUnder(event, desk) : this.begin(desk, event);
    if (!gesture) return this.beginPan(event.pointerId, at);
    this.gesture = { pointer: event.pointerId, gesture, startedAt: event.timeStamp, from: at };
    useDesk.setState({ isDrawing: true });
    gesture.move([this.sample(event)]);
  }

  /**
   * What a finger has drawn is meant only when no pen follows: what began less than `within` ms ago leaves no trace, also
   * when the finger is off again; what began before is kept as it stands.
   */
  private withdrawTouch(now: number, within: number): void {
    const { dab } = this;
    this.forgetDab();
    if (dab && now - dab.startedAt < within) dab.gesture.cancel();
    else dab?.gesture.end();
    if (!this.gesture || !this.fingers.has(this.gesture.pointer)) return;
    const { gesture, startedAt } = this.gesture;
    this.letGo();
    if (now - startedAt < within) gesture.cancel();
    else gesture.end();
  }

  /** Keeps a dab that waits for a pen which did not come. */
  keepDab(): void {
    const { dab } = this;
    this.forgetDab();
    dab?.gesture.end();
  }

  private forgetDab(): void {
    clearTimeout(this.dab?.timer);
    this.dab = undefined;
  }

  private begin(desk: Desk, event: PointerEvent): Gesture | undefined {
    if (desk.stage === 'finish') return undefined;
    return (
      this.board.guides.beginTag(this.place(event), () => this.beginTool(desk, event)) ?? this.beginTool(desk, event)
    );
  }

  private beginTool(desk: Desk, event: PointerEvent): Gesture | undefined {
    const { guides } = this.board;
    if (useGuides.getState().isSliding) return guides.beginSlide(this.page(event));
    if (desk.stage === 'rough')
      return desk.roughId
        ? beginPlacing(this.board, desk.roughId, this.page(event), () => this.modifiers.shiftKey)
        : undefined;
    const tip = { x: event.clientX, y: event.clientY };
    const board = { ...this.board, notice: (message: string) => sayAt(message, tip) };
    if (event.button === ERASER_END) return beginErasing(board, { ...desk, tool: 'rub' });
    if (desk.tool === 'guide') return guides.begin(this.page(event), () => this.modifiers);
    if (desk.tool === 'rake') return beginRake(this.board);
    if (desk.tool === 'depth') return this.board.depth.begin(this.page(event), () => this.modifiers);
    if (desk.tool === 'select') return beginSelecting(board, desk, this.page(event), () => this.modifiers);
    const isPoly = desk.tool === 'shape' && desk.shape === 'poly-line';
    if (desk.tool === 'path' || isPoly) return this.board.path.begin(this.page(event), () => this.modifiers);
    if (desk.tool === 'points') return this.board.points.begin(this.page(event), () => this.modifiers);
    if (isMending(desk.tool)) return this.board.mend.begin(desk.tool, this.page(event), board.notice);
    const keys = { modifiers: () => this.modifiers, isMoving: () => this.holdsMoveKey || this.fingers.size > 1 };
    if (desk.tool === 'shape' && desk.shape !== 'poly-line') return beginShape(board, desk, desk.shape, keys);
    if (desk.tool !== 'nib') return beginErasing(board, desk);
    return this.isStraightOn ? beginShape(board, desk, 'line', keys, lastEnd()) : beginStroke(board, desk);
  }

  /** While the pen draws, a finger on an edge or a tag takes hold of it; anywhere else it moves the page. */
  private slideUnder(event: PointerEvent, desk: Desk): Gesture | undefined {
    const { guides } = this.board;
    if (desk.stage === 'finish' || desk.stage === 'rough') return undefined;
    return guides.beginTag(this.place(event), () => undefined) ?? guides.beginSlide(this.page(event));
  }

  private move(event: PointerEvent): void {
    const at = this.place(event);
    if (event.pointerType !== 'touch') this.hovers(event);
    const before = this.fingers.get(event.pointerId);
    if (before && this.isPinching) return this.pinch(event.pointerId, before, at);
    if (before) this.fingers.set(event.pointerId, at);
    if (this.gesture?.pointer === event.pointerId) {
      const events = event.getCoalescedEvents?.() ?? [];
      this.gesture.gesture.move((events.length > 0 ? events : [event]).map((one) => this.sample(one)));
    } else if (this.panning?.pointer === event.pointerId) {
      const { last } = this.panning;
      const { zoomsAt } = this.panning;
      const { view } = this.board.picture;
      this.panning.last = at;
      if (zoomsAt) this.show(zoomedAt(view, zoomsAt, Math.exp((at.x - last.x) * SCRUB)), true);
      else this.show(panned(view, at.x - last.x, at.y - last.y), true);
    }
  }

  private up(event: PointerEvent, isCancelled: boolean): void {
    this.fingers.delete(event.pointerId);
    if (this.gesture?.pointer === event.pointerId) {
      const { gesture, startedAt } = this.gesture;
      this.letGo();
      const left = PEN_WITHIN - (event.timeStamp - startedAt);
      // A touch that is taken away was a palm, or meant for the system; a pen's line is kept as it stands.
      if (isCancelled && event.pointerType === 'touch') gesture.cancel();
      else if (event.pointerType === 'touch' && left > 0) {
        gesture.lifted?.();
        this.dab = { gesture, startedAt, timer: setTimeout(() => this.keepDab(), left) };
      } else gesture.end();
    } else if (this.panning?.pointer === event.pointerId || (this.isPinching && this.fingers.size === 0)) {
      // Only when both fingers are off: the last one to leave must not begin to draw.
      this.rest(this.place(event));
    }
  }

  /** Ends a move of the page, with the view as it is to be drawn on. */
  private rest(at: Point): void {
    const { isPinching, panning } = this;
    const { view } = this.board.picture;
    this.isPinching = false;
    this.panning = undefined;
    if (isPinching) this.show(straightened(view, at));
    else if (panning) this.show(view);
  }

  private beginPan(pointer: number, at: Point): void {
    this.panning = { pointer, last: at, zoomsAt: this.holdsZoomKey ? at : undefined };
  }

  /** A second finger: what the first one had hardly begun was meant to move the page. */
  private beginPinch(time: number): void {
    const [[first, now]] = this.fingers;
    if (this.gesture?.pointer === first) {
      if (time - this.gesture.startedAt > FINGER_WITHIN && distance(this.gesture.from, now) > DRAW_SLOP) return;
      this.cancel();
    } else if (this.gesture) return;
    this.panning = undefined;
    this.isPinching = true;
  }

  private pinch(pointer: number, before: Point, after: Point): void {
    const other = [...this.fingers].find(([id]) => id !== pointer)?.[1];
    this.fingers.set(pointer, after);
    if (other && distance(before, other) > LEAST_PINCH)
      this.show(pinched(this.board.picture.view, [before, other], [after, other]), true);
  }

  /**
   * What a finger draws must not be taken for a fling, which swallows the touch of the button that follows it.
   * A browser told so leaves the focus where it was: a number being typed is taken as it stands.
   */
  private touched(event: TouchEvent): void {
    event.preventDefault();
    const { activeElement } = document;
    if (activeElement instanceof HTMLInputElement) activeElement.blur();
  }

  private wheel(event: WheelEvent): void {
    event.preventDefault();
    const bounds = this.element.getBoundingClientRect();
    const at = { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
    const lines = event.deltaMode === WheelEvent.DOM_DELTA_LINE ? 16 : 1;
    const { view } = this.board.picture;
    if (event.shiftKey) this.show(panned(view, -(event.deltaX || event.deltaY) * lines, 0), true);
    else if (event.altKey) this.show(turnedAt(view, at, (event.deltaY * lines * Math.PI) / 1800), true);
    else this.show(zoomedAt(view, at, Math.exp(-event.deltaY * lines * (event.ctrlKey ? 0.01 : 0.002))), true);
  }

  private hovers(event: PointerEvent): void {
    this.ring(event);
    this.hover = this.page(event);
    if (this.gesture) return;
    this.board.path.hovers(this.hover);
    this.board.depth.hovers(this.hover);
    const { stage, tool } = useDesk.getState();
    if (stage === 'mend') this.board.mend.hovers(tool, this.hover);
    if (this.isStraightOn) this.showStraightOn(this.hover);
  }

  private showStraightOn(to: Point): void {
    const { session, picture } = this.board;
    const desk = useDesk.getState();
    const [from, target] = [lastEnd(), drawnLayer(session.page, desk.layerId)];
    if (desk.tool !== 'nib' || desk.stage !== 'ink' || !from || typeof target === 'string') return;
    const { regular } = settingsWith(desk.shapeSettings, this.modifiers);
    const end = regular ? by15(from, to) : to;
    const straight = inked(lineSpine(from, end), nibFor(session.page));
    picture.showStrokes(withCopies(session.page, target.layer.id, [straight]), target.layer.id);
  }

  /** Shows the tool's true size under a pen or mouse that hovers. */
  private ring(event: PointerEvent): void {
    const desk = useDesk.getState();
    const { page } = this.board.session;
    const isDrawing = desk.stage === 'ink' && desk.tool !== 'select';
    const radius = (desk.tool === 'rub' ? rubSizeFor(page) : nibFor(page).size) / 2;
    const isShown = isDrawing && (desk.tool === 'rub' || !this.gesture);
    this.board.picture.setRing(isShown ? { at: this.place(event), radius } : undefined);
  }

  private place(event: PointerEvent): Point {
    return { x: event.clientX - this.origin.x, y: event.clientY - this.origin.y };
  }

  private page(event: PointerEvent): Point {
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
      time: event.timeStamp - (this.gesture?.startedAt ?? event.timeStamp),
    };
  }
}

/** Some browsers refuse the capture of a pointer that is already gone. */
function capture(element: HTMLElement, pointer: number): void {
  try {
    element.setPointerCapture(pointer);
  } catch {
    // The gesture then ends where the pointer leaves the board.
  }
}
