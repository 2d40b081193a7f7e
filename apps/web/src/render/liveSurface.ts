import { allMarks, laidAs, markBox, shownUnder, type MarkShape, type Thing } from '@true-nib/core/drawn';
import type { LiveStroke } from '@true-nib/core/ink';
import type { EntityId, LaidBase } from '@true-nib/core/kind';
import { emptyBox, growBox, mapBox, uniteBoxes, type Box, type Matrix, type Matrix3x3 } from '@true-nib/core/math';
import type { InkStyle } from '@true-nib/core/nib';
import { nodesOf, stackOf, type Page } from '@true-nib/core/page';
import { contextOf } from './anew';
import { paintMarks } from './inkPaint';
import type { Shown } from './inkEdits';
import type { InkSurface } from './inkSurface';
import { LiveInk, wholePx } from './liveInk';
import { clearOverlay } from './overlay';
import type { InHand } from './stackPaint';

/** The SVG filter of the document that leaves no px half covered. */
export const HARD_EDGE = 'hard-edge';

/** The canvas of what is being drawn: the stroke in hand, or whole things that are shown before they are part of the page. */
export class LiveSurface {
  private live: { readonly ink: LiveInk; readonly layerId: EntityId } | undefined;
  /** They stay in their places when the view moves. */
  private things: { readonly things: readonly Thing[]; readonly layerId: EntityId } | undefined;

  /** The panel that what is shown was begun in. */
  panelId: EntityId | undefined;

  /** Where what is shown lies among the inks, device px. */
  private within: Box | undefined;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly inks: InkSurface,
    private readonly lie: () => { readonly page: Page; readonly map: Matrix },
  ) {}

  /** Begins to show a stroke and, where it has any, its symmetric copies: `copies` are their maps, itself first. */
  begin(live: LiveStroke, layerId: EntityId, copies?: readonly (Matrix | Matrix3x3)[]): void {
    this.end();
    const { map } = this.lie();
    const { inks } = this;
    const target = contextOf(this.canvas);
    const paintAbove = (box: Box) => inks.boxes.paintAbove(target, layerId, box);
    const within = (box: Box, lay: InHand['lay']) => {
      this.within = ink.whole;
      const all: InHand = { layerId, lay: (context, to) => ink.layAll(context, to) };
      inks.boxes.paintWithin(box, { layerId, lay }, { ...all, whole: ink.whole });
    };
    const style = this.dress(layerId);
    const ink: LiveInk = new LiveInk(live, target, map, {
      ...{ paintAbove, style, copies },
      within: this.isFaded(layerId) ? within : undefined,
      clip: this.clipFor(layerId),
    });
    this.live = { layerId, ink };
  }

  /** Shows whole things that are not part of the page yet, in place of the last ones; none takes them away. */
  show(things: readonly Thing[], layerId: EntityId): void {
    this.live = undefined;
    this.things = things.length > 0 ? { things, layerId } : undefined;
    const target = contextOf(this.canvas);
    clearOverlay(target);
    this.clearWithin();
    const style = this.dress(layerId);
    if (things.length === 0) return;
    const { inks, panelId } = this;
    const { map } = this.lie();
    const place: LaidBase = { id: 'live', layerId, order: 'a0', ...(panelId !== undefined && { panelId }) };
    const shown = things.map((thing) => shownUnder(laidAs(thing, place), style));
    const marks = allMarks(shown, inks.index.frames);
    const box = shown.reduce((whole, entity) => uniteBoxes(whole, markBox(entity)), emptyBox);
    const onDevice = wholePx(growBox(mapBox(map, box), 2));
    const cuts = marks.some((mark) => mark.cuts);
    if (cuts || this.isFaded(layerId)) {
      const lay: InHand['lay'] = (context, to) => paintMarks(context, marks, to);
      const inHand: InHand = { layerId, lay, cuts };
      this.within = onDevice;
      this.inks.boxes.paintWithin(onDevice, inHand, { ...inHand, whole: onDevice });
      return;
    }
    paintMarks(target, marks, map);
    target.setTransform(1, 0, 0, 1, 0, 0);
    this.inks.boxes.paintAbove(target, layerId, onDevice);
  }

  /** What shows of anything in hand on a layer: all of it where nothing is answered. */
  clipFor(layerId: EntityId): MarkShape | undefined {
    return this.inks.index.frames.clipFor({ layerId, panelId: this.panelId });
  }

  /** Paints what the stroke in hand has gained. */
  paint(): void {
    this.live?.ink.paint();
  }

  /** Shows the whole things where the view has them now. */
  follow(): void {
    if (this.things) this.show(this.things.things, this.things.layerId);
  }

  /** Paints all of it anew, on a canvas that has another size. */
  again(): void {
    if (this.live) this.begin(this.live.ink.live, this.live.layerId, this.live.ink.copies);
    this.paint();
  }

  /**
   * Ends by `commit`, which is told where what it makes part of the page is shown: its pixels stay. Where nothing came of it they
   * are taken off.
   */
  layDown(commit: (shown: Shown) => boolean): void {
    this.inks.boxes.letInHandGo();
    if (commit(this.within ? 'in place' : this.canvas)) this.within = undefined;
    this.end();
  }

  end(): void {
    this.live = undefined;
    this.things = undefined;
    clearOverlay(contextOf(this.canvas));
    this.clearWithin();
  }

  /** Takes what is shown among the inks off their canvas again. */
  private clearWithin(): void {
    if (this.within) this.inks.boxes.paintWithin(this.within, undefined);
    this.within = undefined;
  }

  /** Whether what is drawn on a layer shows through: it is put together with what lies there, and with its groups, as it will be kept. */
  private isFaded(layerId: EntityId): boolean {
    return nodesOf(stackOf(this.lie().page)).some(
      (node) => node.layer.opacity < 1 && nodesOf([node]).some(({ layer }) => layer.id === layerId),
    );
  }

  /** Gives the canvas the edge of a layer; answers its style. */
  private dress(layerId: EntityId): InkStyle | undefined {
    const style = this.inks.index.styleOf(layerId);
    this.canvas.style.filter = style?.edge === 'hard' ? `url(#${HARD_EDGE})` : '';
    return style;
  }
}
