import { seedNow, Listeners } from '../../base';
import { nearestOnSpine, type Spine, type SpinePlace } from '@true-nib/core/curve';
import type { Thing } from '@true-nib/core/drawn';
import { apply, distance, type Point } from '@true-nib/core/math';
import {
  bentPath,
  closedPath,
  emptyPath,
  pathCourse,
  straightened,
  withClosingHandle,
  withCorner,
  withHandle,
  withoutLast,
  withoutOut,
  type Path,
} from '@true-nib/core/shapes';
import { inked } from '@true-nib/core/stroke';
import type { EntityId } from '@true-nib/core/kind';
import { drawKnot, strokeBoth, type Sketch, zoomOf } from '../../render';
import {
  begunSlot,
  type Board,
  type PageKeep,
  type PageSlot,
  isInHand,
  type Desk,
  refuse,
  type Gesture,
  type Modifiers,
  drawnLayer,
  nodeInHand,
} from '../../board';
import { useShapeChoice } from './shapeChoice';
import { straightWay, thingsWithCopies } from '../../guiding';
import { nibFor } from '../../nibs';
import { layDown } from '../../hand';

/** CSS px that a hand may miss a node or the line by. */
const REACH = 14;
/** CSS px from which a press has become a drag, and ms after which a still one asks for the alternative. */
const SLOP = 5;
const LONG_PRESS = 550;

/**
 * Builds a line node by node: a touch makes a corner, a drag a smooth node; the last node drops its outgoing handle, the
 * first closes the line, a drag on the line bends it. Poly-lines are the same without handles. A long press
 * ends the line.
 */
export class PathTool implements PageKeep {
  private path: Path = emptyPath;
  private hover: Point | undefined;
  private seed = 0;
  /** The layer that the line was begun on: it goes there, whatever is in hand when it ends. */
  private layerId: EntityId | undefined;
  /** The panel that the line was begun in. */
  private panelId: EntityId | undefined;
  private readonly listeners = new Listeners<[]>();

  constructor(
    private readonly board: Board,
    private readonly built: Built = LINES,
  ) {}

  /** How many nodes the line has so far. */
  get size(): number {
    return this.path.nodes.length;
  }

  onChange(listener: () => void): () => void {
    return this.listeners.add(listener);
  }

  /** Enter and Escape both end the line, as it is. */
  settle(): boolean {
    return this.finish();
  }

  letGo(): boolean {
    return this.finish();
  }

  leave(): void {
    this.finish();
  }

  /** Another tool or layer ends the line; a borrowed tool leaves it as it is. */
  follow(desk: Desk, before: Desk | undefined): void {
    if (before && (desk.layerId !== before.layerId || (this.built.isInHand(before) && !this.built.isInHand(desk))))
      this.finish();
  }

  /** Makes the line part of the page. Answers whether there was one under way. */
  finish(): boolean {
    const { path } = this;
    if (path.nodes.length === 0) return false;
    const target = drawnLayer(this.board.session.page, this.layerId);
    const course = pathCourse(path);
    // Locked or hidden meanwhile: the line waits, nothing of it is lost.
    if (course && typeof target === 'string') {
      this.board.notice(target);
      return true;
    }
    this.path = emptyPath;
    this.board.of(begunSlot).take(this.panelId);
    if (course && typeof target !== 'string') {
      const things = [this.built.make(this.board, course, this.seed)];
      this.board.picture.showThings(
        thingsWithCopies(this.board.session.page, target.layer.id, things),
        target.layer.id,
      );
      layDown(this.board, target, this.built.label(this.board, path), things);
    } else this.board.picture.endLive();
    this.show();
    return true;
  }

  /** Takes the last node back. Answers whether there was one. */
  takeBack(): boolean {
    if (this.path.nodes.length === 0) return false;
    this.path = withoutLast(this.path);
    this.show();
    return true;
  }

  /** Shows where the next stretch would go. */
  hovers(at: Point | undefined): void {
    if (this.path.nodes.length === 0 && !this.hover) return;
    this.hover = at && this.guided(this.path.nodes.at(-1), at, false);
    this.show();
  }

  /** A press on the board: what it does depends on what lies there. */
  begin(at: Point, modifiers: () => Modifiers): Gesture {
    const { board } = this;
    if (this.path.nodes.length === 0) {
      this.seed = seedNow();
      this.layerId = nodeInHand(board)?.layer.id;
      this.panelId = board.of(begunSlot).panelId;
    }
    const target = drawnLayer(board.session.page, this.layerId);
    if (typeof target === 'string') return refuse(board.notice, target);
    if (target.layer.holdsShape)
      return refuse(board.notice, `${target.layer.name} holds its shape: draw over what is there to colour it.`);
    const perCss = 1 / zoomOf(board.picture.view);
    const before = this.path;
    const act = this.pressed(at, perCss, modifiers().shiftKey);
    let from: Point | undefined;
    let isDrag = false;
    const timer = setTimeout(() => {
      if (isDrag) return;
      // What a second button would do is not there under a finger: a long press ends the line.
      this.path = before.nodes.length > 0 ? before : this.path;
      this.finish();
      act.isOver = true;
    }, LONG_PRESS);
    return {
      move: (samples) => {
        if (act.isOver) return;
        for (const sample of samples) {
          from ??= sample;
          isDrag ||= distance(from, sample) > SLOP * perCss;
          if (isDrag) act.drag(modifiers().shiftKey ? straightened(at, sample) : sample);
        }
        this.hover = undefined;
        this.show();
      },
      end: () => {
        clearTimeout(timer);
        if (act.isOver) return;
        if (!isDrag) act.tap();
        if (this.path.closed) this.finish();
        this.show();
      },
      cancel: () => {
        clearTimeout(timer);
        if (!act.isOver) this.path = before;
        this.show();
      },
    };
  }

  private pressed(at: Point, perCss: number, isStraight: boolean): Press {
    const { nodes } = this.path;
    const isOn = (p: Point | undefined) => p !== undefined && distance(p, at) <= REACH * perCss;
    const isPoly = this.isPoly;
    const still = { isOver: false, tap: () => undefined, drag: () => undefined };
    if (nodes.length > 1 && isOn(nodes[0])) {
      this.path = closedPath(this.path);
      return { ...still, drag: (to) => !isPoly && (this.path = withClosingHandle(this.path, to)) };
    }
    if (nodes.length > 0 && isOn(nodes[nodes.length - 1])) {
      const drag = (to: Point) => !isPoly && (this.path = withHandle(this.path, to));
      return { ...still, tap: () => (this.path = withoutOut(this.path)), drag };
    }
    const course = pathCourse(this.path);
    const near = course && nearestOnSpine(course, at);
    if (near && near.distance <= REACH * perCss && !isPoly) {
      const place: SpinePlace = { segment: near.segment, t: near.t };
      const start = this.path;
      return { ...still, drag: (to) => (this.path = bentPath(start, place, to)) };
    }
    const last = nodes[nodes.length - 1];
    this.path = withCorner(this.path, this.guided(last, at, isStraight));
    return { ...still, drag: (to) => (this.path = isPoly ? moved(this.path, to) : withHandle(this.path, to)) };
  }

  /** Where the next corner goes: by 15° while that is held, else along the guide that the stretch would ride. */
  private guided(last: Point | undefined, at: Point, isStraight: boolean): Point {
    if (!last) return at;
    return isStraight ? straightened(last, at) : straightWay(this.board, this.layerId, last, at).to;
  }

  private get isPoly(): boolean {
    return this.built.isPoly(this.board.desk());
  }

  /** Shows the line as it would be inked, its nodes, and the stretch that follows the pointer. */
  private show(): void {
    const { picture, session } = this.board;
    this.listeners.tell();
    if (this.path.nodes.length > 0) this.board.of(begunSlot).take(this.panelId);
    const target = drawnLayer(session.page, this.layerId);
    if (typeof target !== 'string') {
      const course = pathCourse(this.path);
      const things = course ? [this.built.make(this.board, course, this.seed)] : [];
      picture.showThings(thingsWithCopies(session.page, target.layer.id, things), target.layer.id);
    }
    picture.setSketch(this.path.nodes.length > 0 ? this.sketch() : undefined);
  }

  private sketch(): Sketch {
    const { path, hover } = this;
    const { nodes } = path;
    const last = nodes[nodes.length - 1];
    return (context, map, ratio, colours) => {
      const on = (p: Point) => apply(map, p);
      if (hover) {
        const band = pathCourse({ nodes: [last, { x: hover.x, y: hover.y }], closed: false });
        if (band) {
          const [ax, ay, , bx, by, , cx, cy, , dx, dy] = band.points;
          const [a, b, c, d] = [
            { x: ax, y: ay },
            { x: bx, y: by },
            { x: cx, y: cy },
            { x: dx, y: dy },
          ].map(on);
          const trace = () => {
            context.moveTo(a.x, a.y);
            context.bezierCurveTo(b.x, b.y, c.x, c.y, d.x, d.y);
          };
          strokeBoth(context, ratio, trace, true);
        }
      }
      for (const handle of [last.into, last.out]) {
        if (!handle) continue;
        const trace = () => {
          context.moveTo(on(last).x, on(last).y);
          context.lineTo(on(handle).x, on(handle).y);
        };
        strokeBoth(context, ratio, trace);
        drawKnot(context, on(handle), { look: 'handle' }, ratio, colours);
      }
      nodes.forEach((node, k) =>
        drawKnot(
          context,
          on(node),
          { look: node.into ? 'smooth' : 'corner', isChosen: k === nodes.length - 1 },
          ratio,
          colours,
        ),
      );
    };
  }
}

interface Press {
  isOver: boolean;
  readonly tap: () => unknown;
  readonly drag: (to: Point) => unknown;
}

/** The path with its last node elsewhere. */
const moved = ({ nodes, closed }: Path, { x, y }: Point): Path => ({
  nodes: [...nodes.slice(0, -1), { x, y }],
  closed,
});

/** What a tool builds node by node. */
export interface Built {
  /** Whether it is the tool in hand. */
  readonly isInHand: (desk: Desk) => boolean;
  /** Whether it has corners alone. */
  readonly isPoly: (desk: Desk) => boolean;
  /** What a course is made into; `seed` is for its grain. */
  readonly make: (board: Board, course: Spine, seed: number) => Thing;
  /** What is done, for the history. */
  readonly label: (board: Board, path: Path) => string;
}

const hasPolyLine = (): boolean => useShapeChoice.getState().shape === 'poly-line';

/** Lines of the nib in hand. */
const LINES: Built = {
  isInHand: (desk) => isInHand(desk, 'path') || (isInHand(desk, 'shape') && hasPolyLine()),
  isPoly: ({ tool }) => tool === 'shape' && hasPolyLine(),
  make: ({ session }, course, seed) => inked(course, nibFor(session.page), seed),
  label: (_board, { closed }) => (closed ? 'Closed curve' : 'Curve'),
};

/** The line that is being built on the open page. */
export const pathSlot: PageSlot<PathTool> = { open: (board) => new PathTool(board) };
