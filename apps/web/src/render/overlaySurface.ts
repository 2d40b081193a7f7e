import { scaleOf, type Matrix, type Point } from '@true-nib/core/math';
import type { PageSize, PictureEntity } from '@true-nib/core/page';
import { anew } from './anew';
import { drawArea, drawPictureGrips, drawPixelGrid, drawRing, type OverlayColours } from './overlay';
import { SelectionPicture, type ShownSelection } from './selectionPicture';

/**
 * Draws over the page, in device px; `map` takes page px there, `ratio` is device px per CSS px. One that has much to draw
 * draws some of it, and asks to be drawn `again` with the next frame.
 */
export type Sketch = (
  context: CanvasRenderingContext2D,
  map: Matrix,
  ratio: number,
  colours: OverlayColours,
  again: () => void,
) => void;

export interface Ring {
  readonly at: Point;
  /** Page px. */
  readonly radius: number;
}

/** How the page lies on the board. */
export interface Lie {
  readonly map: Matrix;
  readonly ratio: number;
  readonly size: PageSize;
  readonly colours: OverlayColours;
}

interface Shown {
  /** The picture that is held by its corners. */
  readonly grips?: PictureEntity;
  /** The area that is being drawn to select by, page px: a closed loop. */
  readonly area?: readonly Point[];
  readonly ring?: Ring;
  /** What a tool draws over the page while it is in hand: handles, rubber bands, rings. */
  readonly sketch?: Sketch;
  /** The edges of the page's px, from a zoom on at which they can be told apart. */
  readonly pxGrid?: boolean;
}

/** The uppermost canvas: all that is shown over the page and is no part of it. */
export class OverlaySurface {
  private shown: Shown = {};
  private readonly selection = new SelectionPicture();
  private frame = 0;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly lie: () => Lie,
  ) {}

  dispose(): void {
    cancelAnimationFrame(this.frame);
  }

  set(change: Shown): void {
    this.shown = { ...this.shown, ...change };
    this.paintSoon();
  }

  setSelection(selection: ShownSelection | undefined): void {
    this.selection.set(selection);
    this.paintSoon();
  }

  paint(isMoving = false): void {
    const { map, ratio, size, colours } = this.lie();
    const { grips, sketch, area, ring, pxGrid } = this.shown;
    const hasGrid = pxGrid === true && scaleOf(map) / ratio >= GRID_ZOOM;
    const target = anew(this.canvas, [hasGrid, grips, sketch, area, ring, this.selection.isShown].some(Boolean));
    if (!target) return;
    if (hasGrid) drawPixelGrid(target, size, map, ratio);
    if (grips) drawPictureGrips(target, grips, map, ratio, colours);
    this.selection.paint(target, map, ratio, colours.raised, isMoving);
    sketch?.(target, map, ratio, colours, () => this.paintSoon());
    if (area) drawArea(target, area, map, ratio);
    if (!ring) return;
    drawRing(target, { x: ring.at.x * ratio, y: ring.at.y * ratio }, ring.radius * scaleOf(map), ratio);
  }

  get hasRing(): boolean {
    return this.shown.ring !== undefined;
  }

  private paintSoon(): void {
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(() => this.paint());
  }
}

/** CSS px per page px from which the px themselves can be told apart. */
const GRID_ZOOM = 8;
