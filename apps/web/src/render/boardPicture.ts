import type { LiveStroke } from '@true-nib/core/ink';
import { apply, scaling, then, type Box, type Matrix, type Matrix3x3, type Point } from '@true-nib/core/math';
import { isKind, mergeEdits, type Edit, type Page, type PictureEntity } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import type { EntityId } from '@true-nib/core/kind';
import { Listeners } from '../base/listeners';
import { NOTHING, type HandOver } from './inkEdits';
import { InkSurface } from './inkSurface';
import type { PageInWorker } from './inkBeside';
import type { DrawnEntity, MarkShape, Thing } from '@true-nib/core/drawn';
import { Besides } from './besides';
import type { Beneath } from './gridSurface';
import type { OverlayColours } from './overlay';
import { LiveSurface } from './liveSurface';
import { OverlaySurface, type Ring, type Sketch } from './overlaySurface';
import { anew, contextOf } from './anew';
import type { BoardCanvases } from './boardCanvases';
import { ShownPage } from './shownPage';
import { type ShownSelection } from './selectionPicture';
import type { Quad } from '@true-nib/core/select';
import { Pictures, type PictureBytes } from './pictures';
import { drawPaper, drawRoughs, drawTransparencies, drawVeil, roughsUnder, type VeilColours } from './roughSurface';
import { plainLook, type StackLook } from './stackLook';
import { layerPictureOf, thumbnailOf } from './thumbnail';
import { between, devicePx, freeOf, opening, pxRatioOf, type Extent, type View } from './view';

type BoardColours = OverlayColours & VeilColours;

/** Where a board gets what it paints, besides the page; `opened` where a worker has the page already. */
export interface BoardSource {
  readonly pictureBytes: PictureBytes;
  readonly colours: () => BoardColours;
  readonly onError: (message: string) => void;
  readonly opened?: PageInWorker | undefined;
}

/**
 * Everything that is painted on the board, without knowing how it came about: paper and roughs, inks, the stroke in hand,
 * handles and rings. While the view moves, the finished canvases are moved as they are and put together anew now and then.
 */
export class BoardPicture {
  readonly inks: InkSurface;
  readonly besides: Besides;
  view: View;
  private readonly shown: ShownPage;
  private extent: Extent = { width: 0, height: 0 };
  /** CSS px at the bottom of the board that the bench covers. */
  private covered = 0;
  private ratio = 1;
  readonly pictures: Pictures;
  private readonly inHand: LiveSurface;
  private readonly overlay: OverlaySurface;
  private handOver: HandOver = NOTHING;
  /** The views under which the canvases were painted last. */
  private painted: Readonly<Record<Share, View>>;
  private composedAt = 0;
  /** What is painted next while the view moves. */
  private next: Share = 'inks';
  private groundFrame = 0;
  private settleTimer: ReturnType<typeof setTimeout> | undefined;
  private isPeeking = false;
  private look: StackLook = plainLook;
  private guidesFrame = 0;
  private guides: Sketch | undefined;
  private readonly viewListeners = new Listeners<[]>();
  private readonly colours: () => BoardColours;

  constructor(
    private readonly canvases: BoardCanvases,
    page: Page,
    { pictureBytes, colours, onError, opened }: BoardSource,
  ) {
    this.colours = colours;
    this.shown = new ShownPage(page);
    this.inks = new InkSurface(canvases.ink, page, { opened, tileBytes: pictureBytes, onError });
    this.pictures = new Pictures(pictureBytes, () => this.paintRoughs(), onError);
    this.besides = new Besides(canvases, pictureBytes, () => this.paintGuidesSoon());
    this.inHand = new LiveSurface(canvases.live, this.inks, () => ({ page: this.shownPage, map: this.map }));
    this.overlay = new OverlaySurface(canvases.overlay, () => {
      const { map, ratio, shownPage } = this;
      return { map, ratio, size: shownPage.size, colours: colours() };
    });
    this.view = [1, 0, 0, 1, 0, 0];
    this.painted = { inks: this.view, ground: this.view };
  }

  dispose(): void {
    clearTimeout(this.settleTimer);
    this.overlay.dispose();
    cancelAnimationFrame(this.guidesFrame);
    cancelAnimationFrame(this.groundFrame);
    this.inks.dispose();
    this.pictures.dispose();
    this.besides.dispose();
  }

  /**
   * Takes the size of the board in CSS px, and how much of its foot the bench covers; the first time the page is laid out
   * on what is left.
   */
  resize(extent: Extent, covered: number): void {
    const isFirst = this.extent.width === 0;
    this.extent = extent;
    this.covered = covered;
    this.ratio = pxRatioOf(extent);
    for (const canvas of Object.values(this.canvases)) Object.assign(canvas, devicePx(extent));
    this.besides.forget();
    if (isFirst) this.view = opening(this.shownPage.size, this.free);
    this.compose('ground', false);
    this.compose('inks', false);
    this.inHand.again();
  }

  /** The part of the board that nothing covers, from its top left corner. */
  get free(): Extent {
    return freeOf(this.extent, this.covered);
  }

  /** Page px to device px. */
  get map(): Matrix {
    return then(this.view, scaling(this.ratio));
  }

  /** Device px per CSS px. */
  get pxRatio(): number {
    return this.ratio;
  }

  /** The size of the board, CSS px. */
  get size(): Extent {
    return this.extent;
  }

  /** Where a place of the page is seen, CSS px of the window. */
  inWindow(at: Point): Point {
    const { left, top } = this.canvases.overlay.getBoundingClientRect();
    const { x, y } = apply(this.view, at);
    return { x: left + x, y: top + y };
  }

  /** Calls back whenever the page is shown under another view. Answers how to stop. */
  onView(listener: () => void): () => void {
    return this.viewListeners.add(listener);
  }

  /** Shows the page under another view. While it moves, what is painted is carried along. */
  show(view: View, isMoving: boolean): void {
    this.view = view;
    this.viewListeners.tell();
    clearTimeout(this.settleTimer);
    if (!isMoving) return this.settle();
    this.settleTimer = setTimeout(() => this.settle(), SETTLE_MS);
    if (performance.now() - this.composedAt <= COMPOSE_MS) return this.carry();
    this.compose(this.next, true);
    this.next = this.next === 'inks' ? 'ground' : 'inks';
  }

  /** Shows the view as it is: what is inked now, what it lies on with the next frame, since both at once would hold up the hand. */
  private settle(): void {
    this.compose('inks', false);
    cancelAnimationFrame(this.groundFrame);
    this.groundFrame = requestAnimationFrame(() => this.compose('ground', false));
  }

  /**
   * Takes over edits that led to `page`. Those that a preview has shown already cost nothing. `within` is where they change
   * what is to be seen, page px, when that is known to be less than all that they touch.
   */
  edit(page: Page, edits: readonly Edit[], within?: Box): void {
    this.takeOver(this.shown.edit(page, edits), within);
  }

  /** Shows edits that are not part of the page yet, and may be shown differently on the next call. */
  preview(edits: readonly Edit[], within?: Box): void {
    this.takeOver(this.shown.preview(edits), within);
  }

  /** Shows what some edits would change as the page has it, and others in their place. */
  letBe(edits: readonly Edit[], others: readonly Edit[] = []): void {
    if (edits.length + others.length > 0) this.preview(mergeEdits([...this.shown.back(edits), ...others]));
  }

  private takeOver(unseen: readonly Edit[], within?: Box): void {
    if (unseen.length === 0) return;
    const { marks, shown } = this.handOver;
    const all = [...unseen, ...marks];
    this.handOver = { shown, marks: [] };
    this.inks.edit(this.shownPage, all, { shown, within });
    const touchesRoughs = all.some(({ before, after }) =>
      [before, after].some((entity) => entity !== null && ROUGH_KINDS.has(entity.kind)),
    );
    if (touchesRoughs) this.paintRoughs();
  }

  /** Shows marks on a wash layer that are about to become pixels of it. */
  addMarks(marks: readonly DrawnEntity[]): void {
    const edits = marks.map((after) => ({ before: null, after }));
    this.inks.edit(this.shownPage, edits, { shown: this.handOver.shown });
  }

  /** Takes marks away as `commit` makes them part of the page, in one go. Answers what `commit` does. */
  endMarks(marks: readonly DrawnEntity[], commit: () => boolean): boolean {
    return this.inPlaceOf({ shown: undefined, marks: marks.map((before) => ({ before, after: null })) }, () => {
      const isDone = commit();
      // Nothing came of them, or they changed no pixel.
      if (this.handOver.marks.length > 0) this.inks.edit(this.shownPage, this.handOver.marks);
      return isDone;
    });
  }

  /** Runs a commit whose edits take the place of what is shown already. */
  private inPlaceOf<T>(handOver: HandOver, commit: () => T): T {
    this.handOver = handOver;
    try {
      return commit();
    } finally {
      this.handOver = NOTHING;
    }
  }

  get shownPage(): Page {
    return this.shown.now;
  }

  strokesOn(layerId: EntityId, box: Box): StrokeEntity[] {
    return this.drawnOn(layerId, box).filter((entity) => isKind(entity, 'stroke'));
  }

  /** All that the board shows of one layer near `box`, page px. */
  drawnOn(layerId: EntityId, box: Box): DrawnEntity[] {
    return this.inks.drawnOn(layerId, box);
  }

  /** A small picture of one layer alone; nothing when the browser cannot make one. */
  layerPicture(layerId: EntityId, width: number, height: number): Promise<ImageBitmap | undefined> {
    return layerPictureOf(this.shownPage, this.inks, this.pictures, layerId, { width, height });
  }

  // The stroke in hand.

  /** A picture as it looks between four corners of the page: a PNG of the box around them. */
  laidPicture(source: Blob, corners: Quad): Promise<Blob> {
    return this.pictures.laid(source, corners);
  }

  /** Begins to show a stroke and, where it has any, its symmetric copies: `copies` are their maps, itself first. */
  beginLive(live: LiveStroke, layerId: EntityId, copies?: readonly (Matrix | Matrix3x3)[]): void {
    this.inHand.begin(live, layerId, copies);
  }

  /** What is drawn from now on shows only within a panel; anywhere without one. */
  setPanel(panelId: EntityId | undefined): void {
    this.inHand.panelId = panelId;
  }

  /** What shows of anything in hand on a layer: all of it where nothing is answered. */
  clipInHand(layerId: EntityId): MarkShape | undefined {
    return this.inHand.clipFor(layerId);
  }

  /** Shows whole things that are not part of the page yet, in place of the last ones; none takes them away. */
  showThings(things: readonly Thing[], layerId: EntityId): void {
    this.inHand.show(things, layerId);
  }

  /** Paints what the stroke in hand has gained. */
  paintLive(): void {
    this.inHand.paint();
  }

  /** Ends the stroke in hand by `commit`, which makes it part of the page: the very pixels that were shown are kept. */
  layDownLive(commit: () => boolean): void {
    this.inHand.layDown((shown) => this.inPlaceOf({ shown, marks: [] }, commit));
  }

  endLive(): void {
    this.inHand.end();
  }

  /** Shows only some layers, or stand-in colours; none of it is part of the page. */
  setLook(look: StackLook): void {
    this.look = look;
    this.inks.setLook(look);
    this.paintRoughs();
  }

  setPeek(isPeeking: boolean): void {
    if (this.isPeeking === isPeeking) return;
    this.isPeeking = isPeeking;
    this.besides.sets.setPeek(isPeeking);
    this.paintRoughs();
  }

  /** Shows the edges of the page's px where they are large enough. */
  setPxGrid(pxGrid: boolean): void {
    this.overlay.set({ pxGrid });
  }

  setGrips(grips: PictureEntity | undefined): void {
    this.overlay.set({ grips });
  }

  setSelection(selection: ShownSelection | undefined): void {
    this.overlay.setSelection(selection);
  }

  /** Shows the area that is being drawn to select by, page px: a closed loop. */
  setArea(area: readonly Point[] | undefined): void {
    this.overlay.set({ area });
  }

  setRing(ring: Ring | undefined): void {
    if (ring || this.overlay.hasRing) this.overlay.set({ ring });
  }

  /** Shows what a tool draws over the page while it is in hand: handles, rubber bands, rings. */
  setSketch(sketch: Sketch | undefined): void {
    this.overlay.set({ sketch });
  }

  /** Shows the guides of the page, what lines are held to; and what lies beneath them. */
  setGuides(sketch: Sketch | undefined, beneath?: Beneath): void {
    this.guides = sketch;
    this.besides.grids.set(beneath);
    this.paintGuidesSoon();
  }

  private paintGuidesSoon(): void {
    cancelAnimationFrame(this.guidesFrame);
    this.guidesFrame = requestAnimationFrame(() => this.paintGuides());
  }

  private paintGuides(): void {
    this.besides.show(this.shownPage.size, this.map, this.ratio, this.view);
    const target = anew(this.canvases.guides, this.guides !== undefined);
    if (target) this.guides?.(target, this.map, this.ratio, this.colours(), () => this.paintGuidesSoon());
  }

  repaintColours(): void {
    drawVeil(contextOf(this.canvases.veil), this.shownPage, this.map, this.colours());
    this.paintGuides();
    this.overlay.paint();
  }

  /** A small picture of the whole page: paper, roughs and inks. `undefined` when the browser cannot make one. */
  thumbnail(width: number): Promise<Blob | undefined> {
    return thumbnailOf(this.shownPage, this.inks, this.pictures, width);
  }

  /** Puts a share of the canvases together for the view as it is now; the others are carried along. */
  private compose(share: Share, isMoving: boolean): void {
    this.painted = { ...this.painted, [share]: this.view };
    this.composedAt = performance.now();
    this.carry();
    if (share === 'ground') {
      this.paintRoughs();
      drawVeil(contextOf(this.canvases.veil), this.shownPage, this.map, this.colours());
      return;
    }
    this.inks.show(this.map, isMoving, this.ratio);
    this.inHand.follow();
    this.paintGuides();
    this.overlay.paint(isMoving);
  }

  /** Moves the finished canvases by CSS alone to where the view has them. */
  private carry(): void {
    this.besides.carry(this.view);
    for (const [name, canvas] of Object.entries({ ...this.canvases, grids: undefined, sets: undefined })) {
      if (!canvas) continue;
      const from = this.painted[GROUND.has(name) ? 'ground' : 'inks'];
      canvas.style.transform = from === this.view ? '' : `matrix(${between(from, this.view).join(',')})`;
    }
  }

  private paintRoughs(): void {
    if (this.extent.width === 0) return;
    if (this.painted.ground !== this.view) return this.compose('ground', false);
    const { under, over } = roughsUnder(this.shownPage, this.look);
    const levels = (picture: PictureEntity) => this.pictures.levels(picture);
    const ground = contextOf(this.canvases.under);
    drawPaper(ground, this.shownPage, this.map);
    const veil = anew(this.canvases.over, over.length > 0 && !this.isPeeking);
    if (this.isPeeking) return;
    drawRoughs(ground, under, levels, this.map);
    if (veil) drawTransparencies(veil, over, levels, this.map);
  }
}

/** Ms from one share of the canvases to the next while a view moves, and until one that rests is shown as it is. */
const COMPOSE_MS = 80;
const SETTLE_MS = 140;

/** The canvases that are put together in one go: what is inked with all that shows where lines go, and what it lies on. */
type Share = 'inks' | 'ground';
const GROUND: ReadonlySet<string> = new Set(['under', 'over', 'veil']);

/** Kinds that paper and roughs depend on. */
const ROUGH_KINDS: ReadonlySet<string> = new Set(['picture', 'layer', 'paper']);
