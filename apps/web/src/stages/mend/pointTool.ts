import {
  type PageKeep,
  type Desk,
  isInHand,
  type PageSlot,
  hiddenInWords,
  refuse,
  still,
  type Gesture,
  type Modifiers,
  type Board,
  nodeInHand,
} from '../../board';
import {
  cornerNode,
  handleAt,
  insertNode,
  isSmooth,
  moveHandle,
  nearestOnSpine,
  nodeAt,
  nodeCount,
  setNodeWidth,
  smoothNode,
  type Side,
  type Spine,
} from '@true-nib/core/curve';
import { boxOfPoints, distance, growBox, type Point } from '@true-nib/core/math';
import {
  alignNodes,
  distributeNodes,
  edgeNamed,
  editedCourse,
  lineNamed,
  nearestLine,
  moveNodes,
  nodesWithin,
  removeNodes,
  withoutEdges,
} from '@true-nib/core/mend';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { Listeners } from '../../base';
import { linesOn } from '../../hand';
import { zoomOf } from '../../render';
import { breakLine, joinEnd } from './dividing';
import { SIDE_GAP, sidesOf, sketchOf } from './pointSketch';

/** CSS px that a hand may miss a point or a line by: a finger's. */
const REACH = 22;
const SLOP = 4;
const corners = (a: Point, b: Point): Point[] => [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }];

/** What the points of the line in hand can be told. */
export interface PointsInHand {
  readonly count: number;
  readonly chosen: number | undefined;
  /** How many are picked, the chosen one among them. */
  readonly picked: number;
  readonly isSmooth: boolean;
  readonly width: number;
}

type Grip =
  | { readonly part: 'node'; readonly node: number }
  | { readonly part: 'handle'; readonly node: number; readonly side: Side }
  | { readonly part: 'width'; readonly node: number };

/**
 * Edits the nodes of one line: a touch takes the line, or adds a node to the one in hand; nodes, handles and sides are
 * dragged. Every edit is a change of its own.
 */
export class PointTool implements PageKeep {
  private strokeId: string | undefined;
  private chosen: number | undefined;
  /** All that are picked: what is done to the chosen one is done to them. */
  private picked: ReadonlySet<number> = new Set();
  private isVisible = false;
  private readonly listeners = new Listeners<[]>();
  private readonly stop: () => void;
  private known: PointsInHand | undefined;

  constructor(private readonly board: Board) {
    this.stop = board.session.onEdits(() => this.show());
  }

  dispose(): void {
    this.stop();
  }

  onChange = (listener: () => void): (() => void) => {
    return this.listeners.add(listener);
  };

  /** The points in hand, the same value while nothing of them changes. */
  inHand = (): PointsInHand | undefined => this.known;

  /** Its points are seen while the tool is in hand; a line of a layer that is left is let go of. */
  follow(desk: Desk, before: Desk | undefined): void {
    this.setVisible(isInHand(desk, 'points'));
    if (before && desk.layerId !== before.layerId) this.letGo();
  }

  private setVisible(isVisible: boolean): void {
    if (this.isVisible === isVisible) return;
    this.isVisible = isVisible;
    this.show();
  }

  /** Lets go of the line. Answers whether there was one. */
  letGo(): boolean {
    const had = this.stroke !== undefined;
    this.strokeId = undefined;
    this.pick();
    this.show();
    return had;
  }

  private get stroke(): StrokeEntity | undefined {
    return this.strokeId === undefined ? undefined : lineNamed(this.board.session.page, this.strokeId);
  }

  begin(at: Point, modifiers: () => Modifiers): Gesture {
    const { board } = this;
    const node = nodeInHand(board);
    if (node?.layer.medium !== 'ink') return refuse(board.notice, 'Points are on lines: take an Ink layer in hand.');
    if (node.isLocked) return refuse(board.notice, `${node.layer.name} is locked.`);
    if (node.isHidden) return refuse(board.notice, hiddenInWords(board.session.page, node.layer));
    const reach = REACH / zoomOf(board.picture.view);
    const { stroke } = this;
    const grip = stroke && this.gripAt(stroke, at, reach);
    const isMore = modifiers().shiftKey || this.picksMore;
    if (stroke && grip) {
      this.pick(grip.node, isMore && grip.part === 'node', this.picked.has(grip.node));
      this.show();
      return this.chosen === undefined ? still : this.beginDrag(stroke, grip, at, modifiers);
    }
    if (stroke) {
      const place = nearestOnSpine(stroke.spine, at);
      if (place.distance <= Math.max(reach / 2, place.width / 2)) return this.beginAdding(stroke, place, at);
    }
    const nearest = this.nearest(node.layer.id, at, reach);
    if (stroke && (!nearest || isMore)) return this.beginBox(stroke, at, isMore);
    this.take(nearest);
    return still;
  }

  /** Fingers have no key to hold: touches pick further points while this is on. */
  private picksMore = false;

  get isPickingMore(): boolean {
    return this.picksMore;
  }

  setPicksMore(picksMore: boolean): void {
    this.picksMore = picksMore;
    this.show();
  }

  /** Picks a point: alone, or with those that are picked; one that `was` picked already is dropped from them. */
  private pick(node?: number, isMore = false, was = false): void {
    if (node === undefined) {
      this.picked = new Set();
      this.chosen = undefined;
    } else if (isMore && was) {
      this.picked = new Set([...this.picked].filter((one) => one !== node));
      this.chosen = [...this.picked].at(-1);
    } else {
      this.picked = isMore || was ? new Set([...this.picked, node]) : new Set([node]);
      this.chosen = node;
    }
  }

  /** A box over points of the line in hand picks them; a touch beside it lets go of the line. */
  private beginBox(stroke: StrokeEntity, from: Point, isMore: boolean): Gesture {
    const { picture } = this.board;
    let to: Point | undefined;
    return {
      move: (samples) => {
        const last = samples[samples.length - 1];
        if (!last || (!to && distance(from, last) < SLOP * this.perCss)) return;
        to = last;
        picture.setArea(corners(from, to));
      },
      end: () => {
        picture.setArea(undefined);
        if (!to) return this.take(undefined);
        const found = nodesWithin(stroke.spine, boxOfPoints([from, to]));
        this.picked = new Set([...(isMore ? this.picked : []), ...found]);
        this.chosen = [...this.picked].at(-1);
        this.show();
      },
      cancel: () => picture.setArea(undefined),
    };
  }

  private take(stroke: StrokeEntity | undefined): void {
    this.strokeId = stroke?.id;
    this.pick();
    this.show();
  }

  private nearest(layerId: string, at: Point, reach: number): StrokeEntity | undefined {
    const near = linesOn(this.board, layerId, growBox(boxOfPoints([at]), reach));
    return nearestLine(near, (stroke) => stroke, at, reach)?.line;
  }

  private gripAt({ spine }: StrokeEntity, at: Point, reach: number): Grip | undefined {
    const grips: { readonly grip: Grip; readonly place: Point }[] = [];
    const { chosen } = this;
    if (chosen !== undefined && chosen < nodeCount(spine)) {
      for (const side of ['in', 'out'] as const) {
        const place = handleAt(spine, chosen, side);
        if (place) grips.push({ grip: { part: 'handle', node: chosen, side }, place });
      }
      for (const place of sidesOf(spine, chosen, this.perCss))
        grips.push({ grip: { part: 'width', node: chosen }, place });
    }
    for (let node = 0; node < nodeCount(spine); node++)
      grips.push({ grip: { part: 'node', node }, place: nodeAt(spine, node) });
    let best: (typeof grips)[number] | undefined;
    for (const one of grips)
      if (distance(one.place, at) <= reach * 0.7 && (!best || distance(one.place, at) < distance(best.place, at)))
        best = one;
    return best?.grip;
  }

  private get perCss(): number {
    return 1 / zoomOf(this.board.picture.view);
  }

  private beginDrag(stroke: StrokeEntity, grip: Grip, from: Point, modifiers: () => Modifiers): Gesture {
    const slop = SLOP * this.perCss;
    let spine: Spine | undefined;
    return {
      move: (samples) => {
        const to = samples[samples.length - 1];
        if (!to || (!spine && distance(from, to) < slop)) return;
        spine =
          grip.part === 'node' && this.picked.size > 1
            ? moveNodes(stroke.spine, this.picked, { x: to.x - from.x, y: to.y - from.y })
            : dragged(stroke.spine, grip, { from, to }, modifiers().altKey, this.perCss);
        this.preview(stroke, spine);
      },
      end: () => {
        if (spine)
          this.commit(
            stroke,
            spine,
            { node: 'Move a point', handle: 'Bend at a point', width: 'Weigh a point' }[grip.part],
          );
      },
      cancel: () => {
        if (spine) this.letBe(stroke);
      },
    };
  }

  private beginAdding(
    stroke: StrokeEntity,
    place: { readonly segment: number; readonly t: number },
    at: Point,
  ): Gesture {
    let isDrag = false;
    return {
      move: (samples) => {
        isDrag ||= samples.some((sample) => distance(sample, at) > SLOP * this.perCss);
      },
      end: () => {
        if (isDrag) return;
        this.pick(place.segment + 1);
        this.commit(stroke, insertNode(stroke.spine, place), 'Add a point');
      },
      cancel: () => undefined,
    };
  }

  /** Does something to the picked nodes. */
  change(what: 'smooth' | 'corner' | 'remove' | 'level' | 'upright' | 'distribute'): void {
    const { stroke, chosen, picked, board } = this;
    if (!stroke || chosen === undefined) return board.notice('Touch a point of the line first.');
    const each = (change: (spine: Spine, node: number) => Spine) => [...picked].reduce(change, stroke.spine);
    if (what === 'smooth') return this.commit(stroke, each(smoothNode), 'Smooth a point');
    if (what === 'corner') return this.commit(stroke, each(cornerNode), 'Corner at a point');
    if (what === 'level' || what === 'upright') {
      if (picked.size < 2) return board.notice('Pick two points at least: a box over them, or Several.');
      return this.commit(stroke, alignNodes(stroke.spine, picked, what), 'Align points');
    }
    if (what === 'distribute') {
      if (picked.size < 3) return board.notice('Pick three points at least: a box over them, or Several.');
      return this.commit(stroke, distributeNodes(stroke.spine, picked), 'Distribute points');
    }
    try {
      const spine = removeNodes(stroke.spine, picked);
      const label = picked.size === 1 ? 'Remove a point' : `Remove ${picked.size} points`;
      this.pick();
      this.commit(stroke, spine, label);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      board.notice(error.message);
    }
  }

  /** Makes two lines of one, or one of two: at the chosen point, or at the crossing nearest to it. */
  divide(how: 'break' | 'cut' | 'join'): void {
    const { stroke, chosen, board } = this;
    if (!stroke || chosen === undefined) return board.notice('Touch a point of the line first.');
    if (edgeNamed(stroke.id)) return board.notice('The edge of an area stays closed. The knife cuts it.');
    const isDone = how === 'join' ? joinEnd(board, stroke, chosen) : breakLine(board, stroke, chosen, how === 'cut');
    if (!isDone) return;
    this.pick();
    this.show();
  }

  /** Gives the chosen node a width, page px; shown until it is settled. */
  weigh(width: number, isSettled: boolean): void {
    const { stroke, chosen } = this;
    if (!stroke || chosen === undefined) return;
    const spine = setNodeWidth(stroke.spine, chosen, width);
    if (isSettled) this.commit(stroke, spine, 'Weigh a point');
    else this.preview(stroke, spine);
  }

  private preview(stroke: StrokeEntity, spine: Spine): void {
    const { picture } = this.board;
    const before = lineNamed(picture.shownPage, stroke.id) ?? stroke;
    picture.preview(withoutEdges(picture.shownPage, [{ before, after: { ...stroke, spine } }]));
    this.show(spine);
  }

  private letBe(stroke: StrokeEntity): void {
    const { picture } = this.board;
    picture.letBe(withoutEdges(picture.shownPage, [{ before: stroke, after: null }]));
    this.show();
  }

  private commit(stroke: StrokeEntity, spine: Spine, label: string): void {
    const after = editedCourse(stroke, spine);
    const { session } = this.board;
    session.commit(label, withoutEdges(session.page, [{ before: stroke, after }]));
    this.show();
  }

  private show(spine = this.stroke?.spine): void {
    if (this.chosen !== undefined && (!spine || [...this.picked].some((node) => node >= nodeCount(spine)))) this.pick();
    const { chosen } = this;
    this.known =
      spine && this.isVisible
        ? {
            count: nodeCount(spine),
            chosen,
            picked: this.picked.size,
            isSmooth: chosen !== undefined && isSmooth(spine, chosen),
            width: chosen === undefined ? 0 : nodeAt(spine, chosen).width,
          }
        : undefined;
    this.listeners.tell();
    if (this.isVisible || this.strokeId !== undefined)
      this.board.picture.setSketch(spine && this.isVisible ? sketchOf(spine, chosen, this.picked) : undefined);
  }
}

function dragged(
  spine: Spine,
  grip: Grip,
  { from, to }: { readonly from: Point; readonly to: Point },
  isBroken: boolean,
  perCss: number,
): Spine {
  if (grip.part === 'node') return moveNodes(spine, new Set([grip.node]), { x: to.x - from.x, y: to.y - from.y });
  if (grip.part === 'handle') return moveHandle(spine, grip.node, grip.side, to, isBroken);
  const away = distance(nodeAt(spine, grip.node), to) - SIDE_GAP * perCss;
  return setNodeWidth(spine, grip.node, Math.max(0, 2 * away));
}

/** The points in hand on the open page. */
export const pointSlot: PageSlot<PointTool> = { open: (board) => new PointTool(board) };
