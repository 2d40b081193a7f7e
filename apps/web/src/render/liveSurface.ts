import { strokeBox } from '@true-nib/core/drawn';
import type { LiveStroke } from '@true-nib/core/ink';
import type { EntityId } from '@true-nib/core/kind';
import { emptyBox, growBox, mapBox, uniteBoxes, type Box, type Matrix, type Matrix3x3 } from '@true-nib/core/math';
import type { InkStyle } from '@true-nib/core/nib';
import { find, type Page } from '@true-nib/core/page';
import { styledStroke, type Stroke } from '@true-nib/core/stroke';
import { contextOf } from './anew';
import { paintStrokes } from './inkPaint';
import type { InkSurface } from './inkSurface';
import { LiveInk, wholePx } from './liveInk';
import { clearOverlay } from './overlay';

/** The SVG filter of the document that leaves no px half covered. */
export const HARD_EDGE = 'hard-edge';

/** The canvas of what is being drawn: the stroke in hand, or whole strokes that are shown before they are part of the page. */
export class LiveSurface {
  private live: { readonly ink: LiveInk; readonly layerId: EntityId } | undefined;
  /** They stay in their places when the view moves. */
  private strokes: { readonly strokes: readonly Stroke[]; readonly layerId: EntityId } | undefined;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly inks: InkSurface,
    private readonly lie: () => { readonly page: Page; readonly map: Matrix },
  ) {}

  /** Begins to show a stroke and, where it has any, its symmetric copies: `copies` are their maps, itself first. */
  begin(live: LiveStroke, layerId: EntityId, copies?: readonly (Matrix | Matrix3x3)[]): void {
    this.end();
    const { map } = this.lie();
    const target = contextOf(this.canvas);
    const paintAbove = (box: Box) => this.inks.paintAbove(target, layerId, box);
    this.live = { layerId, ink: new LiveInk(live, target, map, { paintAbove, style: this.dress(layerId), copies }) };
  }

  /** Shows whole strokes that are not part of the page yet, in place of the last ones; none takes them away. */
  show(strokes: readonly Stroke[], layerId: EntityId): void {
    this.live = undefined;
    this.strokes = strokes.length > 0 ? { strokes, layerId } : undefined;
    const target = contextOf(this.canvas);
    clearOverlay(target);
    const style = this.dress(layerId);
    if (strokes.length === 0) return;
    const { map } = this.lie();
    const styled = strokes.map((stroke) => styledStroke(stroke, style));
    paintStrokes(target, styled, map);
    target.setTransform(1, 0, 0, 1, 0, 0);
    const box = strokes.reduce((whole, stroke) => uniteBoxes(whole, strokeBox(stroke)), emptyBox);
    this.inks.paintAbove(target, layerId, wholePx(growBox(mapBox(map, box), 2)));
  }

  /** Paints what the stroke in hand has gained. */
  paint(): void {
    this.live?.ink.paint();
  }

  /** Shows the whole strokes where the view has them now. */
  follow(): void {
    if (this.strokes) this.show(this.strokes.strokes, this.strokes.layerId);
  }

  /** Paints all of it anew, on a canvas that has another size. */
  again(): void {
    if (this.live) this.begin(this.live.ink.live, this.live.layerId, this.live.ink.copies);
    this.paint();
  }

  end(): void {
    this.live = undefined;
    this.strokes = undefined;
    clearOverlay(contextOf(this.canvas));
  }

  /** Gives the canvas the look of a layer; answers its style. */
  private dress(layerId: EntityId): InkStyle | undefined {
    const style = this.inks.index.styleOf(layerId);
    this.canvas.style.opacity = String(find(this.lie().page, 'layer', layerId)?.opacity ?? 1);
    this.canvas.style.filter = style?.edge === 'hard' ? `url(#${HARD_EDGE})` : '';
    return style;
  }
}
