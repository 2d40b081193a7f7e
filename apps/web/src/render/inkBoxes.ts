import type { EntityId } from '@true-nib/core/kind';
import { intersectBoxes, isEmptyBox, type Box, type Matrix } from '@true-nib/core/math';
import type { InkIndex } from './inkIndex';
import type { Context2D } from './inkPaint';
import { paintStack, readyIn, type InHand } from './stackPaint';

/** Ms that one may spend on outlines besides, which takes nobody else: where lines lie close and none is made yet, they take long. */
const OUTLINES_MS = 6;

/** What is being drawn: all of it, and the device-px box that it takes. */
type WholeInHand = InHand & { readonly whole: Box };

/** Paints boxes of device px of the ink canvas anew, exactly, with what is being drawn as a part of a layer. */
export class InkBoxes {
  private inHand: WholeInHand | undefined;

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly index: InkIndex,
    /** Page px to device px, as the canvas has it now. */
    private readonly map: () => Matrix,
  ) {}

  /** All that the canvas shows. */
  get whole(): Box {
    const { width, height } = this.context.canvas;
    return { minX: 0, minY: 0, maxX: width, maxY: height };
  }

  /** Paints boxes anew; answers those that are left beyond `budget` ms. */
  paint(boxes: readonly Box[], budget = Infinity): Box[] {
    const start = performance.now();
    for (const [k, box] of boxes.entries()) {
      if (performance.now() - start > budget) return boxes.slice(k);
      const known = budget < Infinity ? readyIn(this.index, this.map(), box, start + OUTLINES_MS) : undefined;
      if (budget < Infinity && !known) return boxes.slice(k);
      this.paintBox(box, { known, inHand: this.inHand });
    }
    return [];
  }

  /**
   * Paints a box anew with something that is being drawn as a part of its layer; without it where none is given. `all` of it is
   * kept, so that pictures which come meanwhile show it too.
   */
  paintWithin(box: Box, inHand: InHand | undefined, all?: WholeInHand): void {
    this.inHand = all;
    const onBoard = intersectBoxes(box, this.whole);
    if (!isEmptyBox(onBoard)) this.paintBox(onBoard, { inHand });
  }

  /** What was being drawn is about to be a part of the page: its pixels stay until that is painted. */
  letInHandGo(): void {
    this.inHand = undefined;
  }

  /** A picture has been put on the canvas: what is being drawn comes back on it. */
  showInHand(): void {
    if (this.inHand) this.paintWithin(this.inHand.whole, this.inHand, this.inHand);
  }

  /** Paints what lies over a layer, within a box: on what a context already shows, not beside it. */
  paintAbove(context: Context2D, layerId: EntityId, box: Box): void {
    context.globalCompositeOperation = 'source-atop';
    paintStack(context, this.index, this.map(), box, { aboveRank: this.index.rankOf(layerId) });
    context.globalCompositeOperation = 'source-over';
  }

  private paintBox(box: Box, part: Parameters<typeof paintStack>[4]): void {
    const { context } = this;
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
    context.beginPath();
    context.rect(box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
    context.clip();
    paintStack(context, this.index, this.map(), box, part);
    context.restore();
  }
}
