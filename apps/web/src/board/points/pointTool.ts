import {
  cornerNode,
  handleAt,
  insertNode,
  isSameCourse,
  isSmooth,
  moveHandle,
  moveNode,
  nearestOnSpine,
  nodeAt,
  nodeCount,
  removeNode,
  setNodeWidth,
  smoothNode,
  type Side,
  type Spine,
} from '@true-nib/core/curve';
import { apply, distance, growBox, type Point } from '@true-nib/core/math';
import { find, type StrokeEntity } from '@true-nib/core/page';
import { drawKnot, strokeBoth } from '../../render/overlay';
import type { Sketch } from '../../render/boardPicture';
import { zoomOf } from '../../render/view';
import { useDesk } from '../desk';
import { layerInHand, refuse, type Board, type Gesture } from '../inkHand';
import type { Modifiers } from '../select/selectHand';

/** CSS px that a hand may miss a point or a line by: a finger's. */
const REACH = 22;
const SLOP = 4;

/** What the points of the line in hand can be told. */
export interface PointsInHand {
  readonly count: number;
  readonly chosen: number | undefined;
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
export class PointTool {
  private strokeId: string | undefined;
  private chosen: number | undefined;
  private isVisible = false;
  private readonly listeners = new Set<() => void>();
  private readonly stop: () => void;
  private known: PointsInHand | undefined;

  constructor(private readonly board: Board) {
    this.stop = board.session.onEvents({ edited: () => this.show(), notice: () => undefined });
  }

  dispose(): void {
    this.stop();
  }

  onChange = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** The points in hand, the same value while nothing of them changes. */
  inHand = (): PointsInHand | undefined => this.known;

  setVisible(isVisible: boolean): void {
    if (this.isVisible === isVisible) return;
    this.isVisible = isVisible;
    this.show();
  }

  /** Lets go of the line. Answers whether there was one. */
  letGo(): boolean {
    const had = this.stroke !== undefined;
    this.strokeId = this.chosen = undefined;
    this.show();
    return had;
  }

  private get stroke(): StrokeEntity | undefined {
    return this.strokeId === undefined ? undefined : find(this.board.session.page, 'stroke', this.strokeId);
  }

  begin(at: Point, modifiers: () => Modifiers): Gesture {
    const { board } = this;
    const node = layerInHand(board.session.page, useDesk.getState().layerId);
    if (node?.layer.medium !== 'ink') return refuse(board.notice, 'Points are on lines: take an Ink layer in hand.');
    if (node.isLocked) return refuse(board.notice, `${node.layer.name} is locked.`);
    if (node.isHidden) return refuse(board.notice, `${node.layer.name} is hidden.`);
    const reach = REACH / zoomOf(board.picture.view);
    const { stroke } = this;
    const grip = stroke && this.gripAt(stroke, at, reach);
    if (stroke && grip) {
      this.chosen = grip.node;
      this.show();
      return this.beginDrag(stroke, grip, at, modifiers);
    }
    if (stroke) {
      const place = nearestOnSpine(stroke.spine, at);
      if (place.distance <= Math.max(reach / 2, place.width / 2)) return this.beginAdding(stroke, place, at);
    }
    this.take(this.nearest(node.layer.id, at, reach));
    return { move: () => undefined, end: () => undefined, cancel: () => undefined };
  }

  private take(stroke: StrokeEntity | undefined): void {
    this.strokeId = stroke?.id;
    this.chosen = undefined;
    this.show();
  }

  private nearest(layerId: string, at: Point, reach: number): StrokeEntity | undefined {
    const box = growBox({ minX: at.x, minY: at.y, maxX: at.x, maxY: at.y }, reach);
    let best: { readonly stroke: StrokeEntity; readonly gap: number } | undefined;
    for (const stroke of this.board.picture.strokesOn(layerId, box)) {
      const place = nearestOnSpine(stroke.spine, at);
      const gap = Math.max(0, place.distance - place.width / 2);
      if (gap <= reach && (!best || gap < best.gap)) best = { stroke, gap };
    }
    return best?.stroke;
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
        spine = dragged(stroke.spine, grip, from, to, modifiers().altKey, this.perCss);
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
        if (spine) this.preview(stroke, stroke.spine);
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
        this.chosen = place.segment + 1;
        this.commit(stroke, insertNode(stroke.spine, place), 'Add a point');
      },
      cancel: () => undefined,
    };
  }

  /** Does something to the chosen node. */
  change(what: 'smooth' | 'corner' | 'remove'): void {
    const { stroke, chosen, board } = this;
    if (!stroke || chosen === undefined) return board.notice('Touch a point of the line first.');
    if (what === 'smooth') return this.commit(stroke, smoothNode(stroke.spine, chosen), 'Smooth a point');
    if (what === 'corner') return this.commit(stroke, cornerNode(stroke.spine, chosen), 'Corner at a point');
    try {
      const spine = removeNode(stroke.spine, chosen);
      this.chosen = undefined;
      this.commit(stroke, spine, 'Remove a point');
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      board.notice(error.message);
    }
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
    const shown = find(this.board.picture.shownPage, 'stroke', stroke.id) ?? stroke;
    this.board.picture.preview([{ before: shown, after: { ...stroke, spine } }]);
    this.show(spine);
  }

  private commit(stroke: StrokeEntity, spine: Spine, label: string): void {
    const { origin } = stroke;
    // A course that is bent by hand has left its guide; one that is only weighed anew has not.
    const { guide: _left, ...free } = stroke;
    const after: StrokeEntity = {
      ...(isSameCourse(stroke.spine, spine) ? stroke : free),
      spine,
      ...(origin && { origin: { ...origin, left: origin.left ?? 'edited' } }),
    };
    this.board.session.commit(label, [{ before: stroke, after }], [stroke.layerId]);
    this.show();
  }

  private show(spine = this.stroke?.spine): void {
    if (this.chosen !== undefined && (!spine || this.chosen >= nodeCount(spine))) this.chosen = undefined;
    const { chosen } = this;
    this.known =
      spine && this.isVisible
        ? {
            count: nodeCount(spine),
            chosen,
            isSmooth: chosen !== undefined && isSmooth(spine, chosen),
            width: chosen === undefined ? 0 : nodeAt(spine, chosen).width,
          }
        : undefined;
    this.listeners.forEach((listener) => listener());
    if (this.isVisible || this.strokeId !== undefined)
      this.board.picture.setSketch(spine && this.isVisible ? sketchOf(spine, chosen) : undefined);
  }
}

function dragged(spine: Spine, grip: Grip, from: Point, to: Point, isBroken: boolean, perCss: number): Spine {
  if (grip.part === 'node') return moveNode(spine, grip.node, { x: to.x - from.x, y: to.y - from.y });
  if (grip.part === 'handle') return moveHandle(spine, grip.node, grip.side, to, isBroken);
  const away = distance(nodeAt(spine, grip.node), to) - SIDE_GAP * perCss;
  return setNodeWidth(spine, grip.node, Math.max(0, 2 * away));
}

/** CSS px between a line's edge and the grip that widens it. */
const SIDE_GAP = 12;

/** Grips on both sides of a node, a little off the edge of the line there. */
function sidesOf(spine: Spine, node: number, perCss: number): Point[] {
  const at = nodeAt(spine, node);
  const before = handleAt(spine, node, 'in') ?? at;
  const after = handleAt(spine, node, 'out') ?? at;
  const [dx, dy] = [after.x - before.x, after.y - before.y];
  const length = Math.hypot(dx, dy) || 1;
  const away = at.width / 2 + SIDE_GAP * perCss;
  return [1, -1].map((side) => ({ x: at.x - (side * dy * away) / length, y: at.y + (side * dx * away) / length }));
}

/** The course, its nodes, and of the chosen node the handles and sides. */
function sketchOf(spine: Spine, chosen: number | undefined): Sketch {
  return (context, map, ratio, colours) => {
    const on = (p: Point) => apply(map, p);
    const p = spine.points;
    const trace = () => {
      const start = on({ x: p[0], y: p[1] });
      context.moveTo(start.x, start.y);
      for (let i = 0; i + 9 < p.length; i += 9) {
        const [b, c, d] = [3, 6, 9].map((k) => on({ x: p[i + k], y: p[i + k + 1] }));
        context.bezierCurveTo(b.x, b.y, c.x, c.y, d.x, d.y);
      }
    };
    // A hairline along the middle: the line itself stays to be judged.
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.lineWidth = ratio;
    context.strokeStyle = colours.seal;
    context.beginPath();
    trace();
    context.stroke();
    if (chosen !== undefined) {
      const at = on(nodeAt(spine, chosen));
      for (const side of ['in', 'out'] as const) {
        const handle = handleAt(spine, chosen, side);
        if (!handle) continue;
        const to = on(handle);
        strokeBoth(context, ratio, () => {
          context.moveTo(at.x, at.y);
          context.lineTo(to.x, to.y);
        });
        drawKnot(context, to, 'handle', false, ratio, colours);
      }
      const perCss = ratio / Math.hypot(map[0], map[1]);
      const [left, right] = sidesOf(spine, chosen, perCss).map(on);
      strokeBoth(context, ratio, () => {
        for (const side of [left, right]) {
          context.moveTo(side.x + 4 * ratio, side.y);
          context.arc(side.x, side.y, 4 * ratio, 0, 2 * Math.PI);
        }
      });
    }
    for (let node = 0; node < nodeCount(spine); node++)
      drawKnot(
        context,
        on(nodeAt(spine, node)),
        isSmooth(spine, node) ? 'smooth' : 'corner',
        node === chosen,
        ratio,
        colours,
      );
  };
}
