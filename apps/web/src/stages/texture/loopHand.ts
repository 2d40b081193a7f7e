import {
  apply,
  boxesMeet,
  boxOfPoints,
  distance,
  isInLoop,
  ringArea,
  type Matrix,
  type Point,
} from '@true-nib/core/math';
import { seedNow } from '../../base';
import { refuse, type Gesture, type Press } from '../../board';
import type { LineTarget } from '../../hand';
import { strokeBoth, zoomOf, type TextureAsked } from '../../render';
import { loopsOf, outlineAt, outlineOfSelected } from './bounds';
import { traceLine } from './trace';
import { TextureHand } from './textureHand';

/** CSS px that a hand goes at least before it drags. */
const TAP = 6;
/** CSS px² that a loop goes round at least. */
const LEAST_LOOP = 60;

/** What a loop is filled with, as long as it is under way. */
export interface Filled {
  readonly rings: readonly (readonly Point[])[];
  /** The same seed fills the same. */
  readonly seed: number;
  /** The way of the tone, once it was drawn. */
  readonly ramp?: { readonly from: Point; readonly to: Point };
}

/** A drag within the loop: what becomes of it, and what the next drag is for. */
export interface LoopDrag {
  move(from: Point, to: Point): void;
  end(): void;
}

/**
 * A loop that is filled with rows or dots: drawn, or taken over from an area, a region or a selection. Until it is laid down,
 * drags within it set how it is filled; a touch beside it lays it down.
 */
export abstract class LoopHand extends TextureHand {
  protected filled: Filled | undefined;
  /** Takes the drags within the loop back, the last one last. */
  private before: (() => void)[] = [];
  private dragged: readonly [Point, Point] | undefined;
  private isAsking = false;

  /** What is asked of the worker. */
  protected abstract asked(filled: Filled): TextureAsked | string;
  /** Answers how to put back the settings that a drag may change. */
  protected abstract settingsNow(): () => void;
  /** What a drag within the loop does. */
  protected abstract drag(from: Point): LoopDrag;
  /** What a drag that begins where nothing is filled does, where that is no loop. */
  protected beginOtherwise?(press: Press, target: LineTarget): Gesture | undefined;

  /** Takes the last drag within the loop back, and the loop before all others. */
  takeBack(): boolean {
    if (!this.filled) return false;
    const last = this.before.pop();
    if (last) last();
    else this.letGo();
    return true;
  }

  protected isBegun(): boolean {
    return this.filled !== undefined;
  }

  protected forget(): void {
    this.filled = undefined;
    this.before = [];
  }

  /** What is under way is made anew: a setting has changed. */
  protected changed(): void {
    if (this.filled) this.fill(this.filled);
  }

  /** Fills the outline of what is selected. */
  fillSelected(): void {
    const target = this.takeTarget();
    if (typeof target === 'string') return this.board.notice(target);
    const rings = outlineOfSelected(this.board);
    if (rings.length === 0) return this.board.notice('What is selected goes round nothing.');
    this.settle();
    this.start(loopsOf(rings), target);
  }

  begin(press: Press): Gesture {
    const { board, filled } = this;
    const target = this.takeTarget();
    if (typeof target === 'string') return refuse(board.notice, target);
    const { at } = press;
    if (filled && this.holds(filled, at)) return this.beginDrag(at);
    const other = filled ? undefined : this.beginOtherwise?.(press, target);
    return other ?? this.beginLoop(at, target);
  }

  private holds({ rings }: Filled, at: Point): boolean {
    return rings.reduce((inside, ring) => (isInLoop(ring, at) ? !inside : inside), false);
  }

  private beginDrag(at: Point): Gesture {
    const drag = this.drag(at);
    const { filled } = this;
    const putBack = this.settingsNow();
    const back = () => {
      putBack();
      if (filled) this.fill(filled);
    };
    const least = TAP / zoomOf(this.board.picture.view);
    let to = at;
    return {
      move: (samples) => {
        to = samples.at(-1) ?? to;
        // A touch within it sets nothing.
        if (!this.dragged && distance(at, to) < least) return;
        this.dragged = [at, { x: to.x, y: to.y }];
        drag.move(at, to);
      },
      end: () => {
        if (!this.dragged) return;
        this.dragged = undefined;
        this.before.push(back);
        drag.end();
        this.show();
      },
      cancel: () => {
        this.dragged = undefined;
        back();
      },
    };
  }

  private beginLoop(at: Point, target: LineTarget): Gesture {
    const { picture, notice } = this.board;
    const zoom = zoomOf(picture.view);
    const loop: Point[] = [];
    const clear = () => picture.setArea(undefined);
    return {
      move: (samples) => {
        loop.push(...samples.map(({ x, y }) => ({ x, y })));
        picture.setArea(loop);
      },
      end: () => {
        clear();
        const hadSome = this.settle();
        const { minX, minY, maxX, maxY } = boxOfPoints([at, ...loop]);
        if (Math.max(maxX - minX, maxY - minY) * zoom < TAP) return hadSome ? undefined : void this.fillAt(at, target);
        const area = Math.abs(ringArea(loop.flatMap(({ x, y }) => [x, y]))) * zoom ** 2;
        if (loop.length < 3 || area < LEAST_LOOP) return notice('Draw a loop: what it goes round is filled.');
        this.start([loop], target);
      },
      cancel: clear,
    };
  }

  /** Fills what is touched: an area, or a region between lines. */
  private async fillAt(at: Point, target: LineTarget): Promise<void> {
    if (this.isAsking) return;
    this.isAsking = true;
    try {
      const rings = await outlineAt(this.board, target.layer.id, at);
      if (!this.isHeld) return;
      if (!rings) return this.board.notice('There is nothing here to fill: touch a black or a region, or draw a loop.');
      this.start(loopsOf(rings), target);
    } finally {
      this.isAsking = false;
    }
  }

  protected start(rings: readonly (readonly Point[])[], target: LineTarget): void {
    this.before = [];
    this.target = target;
    this.fill({ rings, seed: seedNow() });
  }

  protected fill(filled: Filled): void {
    this.filled = filled;
    this.want(this.asked(filled));
  }

  protected beside(context: CanvasRenderingContext2D, map: Matrix, ratio: number): void {
    if (this.filled) outline(context, map, ratio, this.filled, this.dragged);
  }
}

/** The loop, the way of its tone, and the drag that is under way. */
function outline(
  context: CanvasRenderingContext2D,
  map: Matrix,
  ratio: number,
  { rings, ramp }: Filled,
  dragged: readonly [Point, Point] | undefined,
): void {
  const { width, height } = context.canvas;
  const seen = rings.filter((ring) =>
    boxesMeet(boxOfPoints(ring.map((p) => apply(map, p))), { minX: 0, minY: 0, maxX: width, maxY: height }),
  );
  strokeBoth(
    context,
    ratio,
    () => {
      for (const ring of seen) traceLine(context, map, [...ring, ring[0]]);
    },
    true,
  );
  const way = dragged ?? (ramp && [ramp.from, ramp.to]);
  if (way) strokeBoth(context, ratio, () => traceLine(context, map, way));
}
