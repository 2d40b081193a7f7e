import { changedPieces, isDrawn, markBox, markPieces, type DrawnEntity } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { boxArea, boxesMeet, invert, mapBox, scaleOf, type Box, type Matrix } from '@true-nib/core/math';
import { WASH_SIDE, type Edit, type Entity, type Page } from '@true-nib/core/page';
import { Listeners } from '../base/listeners';
import { breath } from '../base/breath';
import { deviceBoxes, outside } from './deviceBoxes';
import { EditLog } from './editLog';
import { InkBeside, type PageInWorker } from './inkBeside';
import { isInk } from './inkDesk';
import { changesFrames, changesLooks, washBlobs, washBoxes, type EditLook, type LateEdits } from './inkEdits';
import { InkBoxes } from './inkBoxes';
import { InkIndex } from './inkIndex';
import { paintMarks } from './inkPaint';
import { LastPicture } from './lastPicture';
import { plainLook, type StackLook } from './stackLook';
import { Tiles } from './tiles';
import { WashSurface, type TileBytes } from './washSurface';

/**
 * The inks of a page on one canvas the size of the board. At rest it holds the exact picture of the view; edits repaint
 * only the boxes they touch. After a move it is put together from tiles at once and settled exactly by the worker.
 */
export class InkSurface {
  readonly index: InkIndex;
  /** The pixels of wash layers, and what is done to them. */
  readonly wash: WashSurface;
  /** What is worked out beside the main thread. */
  readonly beside: InkBeside;
  /** Paints parts of the canvas anew. */
  readonly boxes: InkBoxes;
  private readonly tiles: Tiles;
  private readonly context: CanvasRenderingContext2D;
  private map: Matrix = [1, 0, 0, 1, 0, 0];
  /** Counts views: a settled picture that comes too late is told by it. */
  private viewed = 0;
  /** Counts looks of layers: a picture that comes too late for the newest is shown until that has come. */
  private looked = 0;
  private readonly log = new EditLog();
  /** When the exact picture that is on its way was asked for. */
  private askedAt = 0;
  /** The last exact picture, when it was left, and whether more was painted over it. */
  private readonly last = new LastPicture();
  private leftAt = 0;
  private isPaintedOver = false;
  private settling = false;
  private isExact = false;
  private isMoving = false;
  /** Whether the px of the screen are too small to be told apart. */
  private isDense = false;
  private composeFrame = 0;
  /** Edits that wait for a breath. */
  private readonly late: LateEdits[] = [];
  /** What edits have touched and a frame had no time to paint, device px. */
  private unpainted: Box[] = [];
  private paintFrame = 0;
  private settleTimer: ReturnType<typeof setTimeout> | undefined;
  private prepareTimer: ReturnType<typeof setTimeout> | undefined;
  private readonly restListeners = new Listeners<[isResting: boolean]>();

  constructor(
    private readonly canvas: HTMLCanvasElement,
    page: Page,
    source: {
      readonly opened?: PageInWorker;
      readonly tileBytes: TileBytes;
      readonly onError: (message: string) => void;
    },
  ) {
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot paint on a canvas.');
    this.context = context;
    this.index = new InkIndex(page, plainLook, true);
    this.boxes = new InkBoxes(context, this.index, () => this.map);
    this.beside = new InkBeside(page, source.opened);
    this.tiles = new Tiles((map, side) => this.beside.service.tile(map, side));
    this.tiles.onArrival(() => this.composeSoon());
    this.wash = new WashSurface({
      worker: this.beside.worker,
      index: this.index,
      tileBytes: source.tileBytes,
      onError: source.onError,
      told: () => this.beside.told,
      repaint: (boxes) => this.showAnew(boxes),
    });
  }

  /** Calls back when the exact picture of the view has been laid down, and when it no longer is. Answers how to stop. */
  onRest(listener: (isResting: boolean) => void): () => void {
    return this.restListeners.add(listener);
  }

  dispose(): void {
    clearTimeout(this.settleTimer);
    clearTimeout(this.prepareTimer);
    cancelAnimationFrame(this.composeFrame);
    cancelAnimationFrame(this.paintFrame);
    this.tiles.clear();
    this.last.letGo();
    this.wash.dispose();
    this.beside.end();
  }

  /**
   * Shows the page under a new map from page px to device px, `ratio` of which are one CSS px: from tiles now, exactly as
   * soon as the view rests.
   */
  show(map: Matrix, isMoving: boolean, ratio = 1): void {
    if (this.isExact) this.leave();
    this.map = map;
    this.isDense = ratio >= DENSE;
    this.viewed++;
    this.isExact = false;
    this.restListeners.tell(false);
    this.isMoving = isMoving;
    this.compose();
    // It has painted what edits have touched, where there was no tile for it.
    this.unpainted = [];
    clearTimeout(this.settleTimer);
    if (!isMoving) this.settleTimer = setTimeout(() => void this.settle(), SETTLE_MS);
  }

  /** Shows a small picture of a whole page of that width until the first exact one. Answers false when that has come already. */
  showFirst(image: HTMLCanvasElement, pageWidth: number): boolean {
    if (!this.last.isEmpty) return false;
    this.last.keepSmall(image, pageWidth);
    this.compose();
    return true;
  }

  /** Paints the view from tiles, and exactly where edits have outrun them: a line that was drawn never blinks. */
  private compose(): void {
    const { context, canvas, map } = this;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, canvas.width, canvas.height);
    // Smoothing is most of what a frame costs; where px are too small to be seen, one that moves can do without.
    context.imageSmoothingEnabled = !(this.isMoving && this.isDense);
    const { dirty, missing } = this.tiles.draw(context, map, scaleOf(map), this.seen(), this.isMoving);
    if (missing.length > 0) this.last.draw(context, map, missing);
    context.imageSmoothingEnabled = true;
    // What was just drawn must not blink; what is older may wait for its tile on a full page.
    const newest = new Set(this.log.newest(MOST_NEWEST));
    const outrun = missing.length > 0 ? this.log.since(this.leftAt).slice(-MOST_NEWEST) : [];
    this.repaint(dirty.filter((box) => newest.has(box)).concat(outrun));
    this.repaint(
      dirty.filter((box) => !newest.has(box)),
      COMPOSE_MS,
    );
    this.boxes.showInHand();
  }

  /** Keeps what the canvas shows exactly, for the places that have no tile yet once it moves. */
  private leave(): void {
    this.leftAt = this.log.now;
    this.boxes.paint(this.unpainted);
    this.unpainted = [];
    if (!this.isPaintedOver) return;
    const copy = document.createElement('canvas');
    copy.width = this.canvas.width;
    copy.height = this.canvas.height;
    copy.getContext('2d')?.drawImage(this.canvas, 0, 0);
    this.keepLast(copy);
  }

  private keepLast(image: ImageBitmap | HTMLCanvasElement): void {
    this.last.keep(image, this.map);
    this.isPaintedOver = false;
  }

  /** Tiles arrive in bursts: one new picture a frame is enough. */
  private composeSoon(): void {
    if (this.isExact || this.composeFrame !== 0) return;
    this.composeFrame = requestAnimationFrame(() => {
      this.composeFrame = 0;
      if (!this.isExact) this.compose();
    });
  }

  /** Brings the tiles of the view up to date once the hand rests, so that the next move finds them ready. */
  private prepareSoon(): void {
    clearTimeout(this.prepareTimer);
    this.prepareTimer = setTimeout(() => this.tiles.prepare(scaleOf(this.map), this.seen()), PREPARE_MS);
  }

  private seen(): Box {
    return mapBox(invert(this.map), this.boxes.whole);
  }

  private async settle(): Promise<void> {
    const { viewed, looked, canvas } = this;
    if (this.settling) return;
    this.settling = true;
    this.askedAt = this.log.now;
    await this.beside.told;
    const { width, height } = canvas;
    const bitmap = await this.beside.service.view({ map: this.map, width, height }).catch(() => undefined);
    this.settling = false;
    if (viewed !== this.viewed) {
      bitmap?.close();
      if (!this.isMoving) void this.settle();
      return;
    }
    if (!bitmap) return;
    this.context.setTransform(1, 0, 0, 1, 0, 0);
    this.context.clearRect(0, 0, width, height);
    this.context.drawImage(bitmap, 0, 0);
    this.keepLast(bitmap);
    const edited = this.log.since(this.askedAt);
    this.isPaintedOver = edited.length > 0;
    this.repaint(edited);
    this.boxes.showInHand();
    if (looked !== this.looked) return void this.settle();
    this.isExact = true;
    this.prepareSoon();
    this.restListeners.tell(true);
  }

  /**
   * Takes over edits that led to `page`, and repaints what they touched, here at once and in the worker in its turn. `shown`
   * is a canvas like this one that shows the strokes which the edits add, where they were drawn just now, or says that this one
   * does; `within` is where the edits change what is to be seen, page px, when that is known to be less than all that they touch.
   */
  edit(page: Page, edits: readonly Edit[], look: EditLook = {}): void {
    const ink = edits.filter(({ before, after }) => isInk(before) || isInk(after));
    if (ink.length === 0) return;
    if (ink.length > MOST_AT_ONCE || this.late.length > 0) this.takeOverLater({ page, ink, look });
    else this.takeOver(page, ink, look);
  }

  /** Thousands of edits come after a breath, and those that follow them in their turn. */
  private takeOverLater(late: LateEdits): void {
    this.late.push(late);
    if (this.isExact) this.leave();
    this.isExact = false;
    this.restListeners.tell(false);
    if (this.late.length > 1) return;
    void breath().then(() => {
      const all = this.late.splice(0);
      for (const { page, ink, look } of all) this.takeOver(page, ink, look);
    });
  }

  private takeOver(page: Page, ink: readonly Edit[], { shown, within }: EditLook): void {
    const pixels = ink.flatMap(washBoxes);
    const isWhole =
      ink.length > MOST_REPAINTED || pixels.length > MOST_TILES || ink.some(changesLooks) || changesFrames(page, ink);
    const shownOf = (entity: Entity | null) => (isDrawn(entity) ? this.index.shown(entity) : undefined);
    const gone = isWhole ? [] : ink.map(({ before }) => shownOf(before));
    this.index.update(page, ink);
    this.beside.tell(ink);
    this.wash.fetchMissing(ink.flatMap(washBlobs));
    if (ink.every(changesLooks)) return this.repaintAll(true);
    if (isWhole) return this.repaintAll();
    this.isPaintedOver = true;
    const came = ink.map(({ after }) => shownOf(after));
    const added = came.flatMap((entity) => entity ?? []);
    const touched = ink.flatMap((_edit, k) => changedPieces(gone[k], came[k]));
    const all = within ? [within] : [...touched, ...pixels];
    this.tiles.touch(all);
    this.log.add(all);
    const isAddition = !gone.some(Boolean) && pixels.length === 0 && added.length > 0;
    const isPlain = isAddition && added.every((entity) => this.index.isPlain(entity));
    if (isPlain && shown instanceof HTMLCanvasElement) this.stamp(shown);
    else if (isPlain && added.length === 1 && this.index.isTopmost(added[0]))
      paintMarks(this.context, this.index.marks(added), this.map);
    else if (!isAddition || shown !== 'in place') this.repaintInTime(all);
    this.prepareSoon();
  }

  /** Shows the stack in another way. */
  setLook(look: StackLook): void {
    void this.beside.service.setLook(look);
    if (this.index.setLook(look)) this.repaintAll(true);
  }

  /** Leaves things out of the picture, while they are shown elsewhere; none brings all back. */
  setAside(ids: readonly EntityId[]): void {
    const before = this.index.aside;
    this.index.aside = new Set(ids);
    void this.beside.service.setAside(ids);
    if (before.size + ids.length > MOST_REPAINTED) return this.repaintAll();
    const changed = [...before, ...ids].flatMap((id) => this.index.get(id) ?? []);
    this.showAnew(changed.flatMap((entity) => markPieces(this.index.shown(entity))));
  }

  /** Paints places of the page anew that look different though no edit has touched them, page px. */
  private showAnew(boxes: readonly Box[]): void {
    const area = boxes.reduce((sum, box) => sum + boxArea(box), 0);
    if (area > MOST_TILES * WASH_SIDE ** 2) return this.repaintAll();
    this.isPaintedOver = true;
    this.tiles.touch(boxes);
    this.log.add(boxes);
    this.repaint(boxes);
  }

  /**
   * Everything looks different: the old picture stays until the worker has the new one. Where only layers look different, what
   * it has meanwhile is shown, too.
   */
  private repaintAll(isLook = false): void {
    if (isLook) this.looked++;
    else this.viewed++;
    if (this.isExact) this.leave();
    this.tiles.expire();
    this.unpainted = [];
    this.isExact = false;
    this.restListeners.tell(false);
    clearTimeout(this.settleTimer);
    void this.settle();
  }

  private stamp(shown: HTMLCanvasElement): void {
    this.context.setTransform(1, 0, 0, 1, 0, 0);
    this.context.drawImage(shown, 0, 0);
  }

  /** Paints parts of the page anew, exactly; boxes in page px. Beyond `budget` ms it leaves the rest as it is. */
  private repaint(boxes: readonly Box[], budget = Infinity): void {
    this.boxes.paint(deviceBoxes(boxes, this.map, this.boxes.whole), budget);
  }

  /** Paints parts of the page anew, those that take long with the next frames; boxes in page px. */
  private repaintInTime(boxes: readonly Box[]): void {
    const places = deviceBoxes(boxes, this.map, this.boxes.whole);
    // Where a frame has some left to do, these come after them: neither for both, nor twice for one place.
    const isFree = this.paintFrame === 0;
    const left = isFree ? this.boxes.paint(places, EDIT_MS) : places;
    this.unpainted = [...outside(this.unpainted, places), ...left];
    if (this.unpainted.length === 0 || !isFree) return;
    const goOn = () => {
      this.paintFrame = 0;
      this.unpainted = this.boxes.paint(this.unpainted, EDIT_MS);
      if (this.unpainted.length > 0) this.paintFrame = requestAnimationFrame(goOn);
    };
    this.paintFrame = requestAnimationFrame(goOn);
  }

  /** What the board shows of one layer near `box`, page px. */
  drawnOn(layerId: EntityId, box: Box): DrawnEntity[] {
    const { index } = this;
    return index
      .onLayer(layerId, box)
      .filter((entity) => boxesMeet(markBox(index.shown(entity)), box) && index.frames.showsIn(entity, box));
  }
}

/** Edits taken over as they come: a few ms. */
const MOST_AT_ONCE = 1_000;
const PREPARE_MS = 400;
/** Device px per CSS px from which single ones are no longer told apart. */
const DENSE = 2;
/** A view that was just left again needs no exact picture. */
const SETTLE_MS = 30;
/** Places that are painted whatever it costs while a view is put together. */
const MOST_NEWEST = 48;
/** Ms that putting a view together from tiles may spend on what edits have outrun. */
const COMPOSE_MS = 6;

/**
 * Ms that an edit may spend on telling the browser what to paint where it touched, at once and in each frame after: painting it
 * takes the browser several times as long.
 */
const EDIT_MS = 3;

/** Edits that are painted box by box; more are left to the worker. */
const MOST_REPAINTED = 300;
/** Wash tiles that are painted box by box. */
const MOST_TILES = 40;
