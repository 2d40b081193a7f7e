import {
  boxesMeet,
  isEmptyBox,
  mapBox,
  type Box,
  type Point,
  affineOf,
  isAffine,
  type Matrix3x3,
} from '@true-nib/core/math';
import { byOrder, tileBox, tilePlaces, WASH_SIDE, type TileContent } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import {
  emptyMask,
  growMask,
  invertMask,
  isEmptyMask,
  joinMasks,
  maskBox,
  maskOfColour,
  maskOfPatch,
  maskOfShape,
  maskOver,
  specksOfPixels,
  warpPixels,
  type Joining,
  type Mask,
  type Pixels,
  type PixelSpeck,
} from '@true-nib/core/select';
import { ground, readInBlocks, shareThatFits } from './ground';
import {
  boxOf,
  inner,
  isBlank,
  maskOfLoop,
  pixelsIn,
  putOn,
  sampled,
  shapeOf,
  stencil,
  toTile,
  wholeBox,
  type Placed,
} from './washPlaced';
import type { InkDesk } from './inkDesk';
import { paintMarks } from './inkPaint';
import { markBox, shownUnder } from '@true-nib/core/drawn';
import { colourOf, harden } from './stackPaint';
import { packTile, unpackTile } from './washCode';
import { paintTiles } from './washPaint';

/** A tile as it is to be: its new content, what it was made from, and its pixels for those who show them. */
export interface ReworkedTile extends TileContent {
  readonly layerId: EntityId;
  readonly base: string | undefined;
  readonly bytes?: ArrayBuffer;
  readonly bitmap?: ImageBitmap;
}

/** Pixels that are selected: the box that holds them all (page px), how many they are, and a picture of where they lie. */
export interface SelectedArea {
  readonly box: Box;
  readonly count: number;
  readonly shape: ImageBitmap;
}

/** Pixels taken up from a layer: where they lie, page px. The picture of very many has fewer px than they take up. */
export interface TakenPixels {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly bitmap: ImageBitmap;
}

/** How an area is found on a wash layer. */
export type AreaQuery =
  | { readonly by: 'loop'; readonly loop: readonly Point[] }
  | { readonly by: 'touch' | 'colour'; readonly at: Point }
  | { readonly by: 'all' | 'others' }
  | { readonly by: 'grow'; readonly px: number };

const TOO_MANY = 'This is more than can be copied at once: 4,096 px a side, 16 million in all. Select less.';
const NOT_HERE = 'Some pixels of this layer could not be fetched. Try again when the server answers.';

/** Where a worker paints pixels: what is done to wash layers, and which of their pixels are selected. */
export class WashWork {
  private mask: Mask = emptyMask;
  /** Whether the mask means what lies there, with its soft edges, rather than an area that was drawn. */
  private isShape = false;

  constructor(private readonly desk: InkDesk) {}

  /** Takes a tile's bytes in. Answers its pixels for the screen; this desk keeps its own. */
  async addTile(blob: string, bytes: ArrayBuffer): Promise<ImageBitmap> {
    const image = await unpackTile(bytes);
    const [own, shown] = await Promise.all([createImageBitmap(image), createImageBitmap(image)]);
    this.desk.index.wash.addBitmap(blob, own);
    return shown;
  }

  dropTiles(blobs: readonly string[]): void {
    this.desk.index.wash.dropBitmaps(blobs);
  }

  // What is selected.

  /** Selects an area of a layer. Answers what is selected then; nothing when that is nothing. */
  async select(layerId: EntityId, query: AreaQuery, joining: Joining): Promise<SelectedArea | undefined> {
    const isWhatLies = query.by === 'all' || query.by === 'touch' || query.by === 'colour';
    this.isShape = isWhatLies && (joining === 'instead' || this.isShape);
    this.mask = this.found(layerId, query, joining);
    return this.area();
  }

  selectNothing(): void {
    this.mask = emptyMask;
  }

  /** The selected pixels off their layer, for a frame to move: the page is shown without them until `putBack`. */
  async lift(layerId: EntityId): Promise<{ readonly cover: ImageBitmap; readonly taken: TakenPixels }> {
    const { mask } = this;
    const { x, y, width, height } = mask;
    const scale = shareThatFits(width, height);
    const cover = stencil(sampled(mask, scale));
    this.desk.index.wash.lifted = { layerId, x, y, width, height, cover };
    const taken = { x, y, width, height, bitmap: await createImageBitmap(this.taken(layerId, scale)) };
    return { cover: await createImageBitmap(cover), taken };
  }

  putBack(): void {
    this.desk.index.wash.lifted = undefined;
  }

  /** A copy of the selected pixels of a layer. Throws an Error with a sentence for more than one picture holds. */
  async take(layerId: EntityId): Promise<TakenPixels> {
    const { x, y, width, height } = this.mask;
    if (shareThatFits(width, height) < 1) throw new Error(TOO_MANY);
    return { x, y, width, height, bitmap: await createImageBitmap(this.taken(layerId)) };
  }

  // What is done to pixels. Each answers the tiles it changes; none is part of the page yet.

  /** Makes marks that lie on a wash layer part of its pixels. */
  layMarks(layerId: EntityId, ids: readonly EntityId[]): Promise<ReworkedTile[]> {
    const marks = ids.flatMap((id) => this.desk.index.get(id) ?? []);
    return this.rework(layerId, marks.map(markBox), (context, box) => {
      this.layOn(context, layerId);
      const near = marks.filter((mark) => boxesMeet(markBox(mark), box));
      paintMarks(context, this.desk.index.marks(near), toTile(box));
    });
  }

  /**
   * Fills the selected pixels with a colour. Where the layer holds its shape, or a shape is what is selected, only what is
   * there.
   */
  fill(layerId: EntityId, color: string): Promise<ReworkedTile[]> {
    return this.rework(layerId, [maskBox(this.mask)], (context, box) => {
      this.layOn(context, layerId, this.isShape);
      context.drawImage(stencil(maskOver(this.mask, box), color), 0, 0);
    });
  }

  /** Takes the selected pixels away. */
  clear(layerId: EntityId): Promise<ReworkedTile[]> {
    return this.rework(layerId, [maskBox(this.mask)], (context, box) => this.cut(context, box));
  }

  /**
   * Maps the selected pixels over the page, onto the same layer or another one; they are selected where they come to lie.
   * Throws a PageError when the map cannot be.
   */
  async move(layerId: EntityId, map: Matrix3x3, targetId: EntityId): Promise<ReworkedTile[]> {
    this.requireAll(layerId);
    const moved = this.mapped(layerId, map);
    const before = [maskBox(this.mask)];
    const cut = (context: OffscreenCanvasRenderingContext2D, box: Box) => this.cut(context, box);
    const put = (context: OffscreenCanvasRenderingContext2D, box: Box) => putOn(context, moved, box);
    const tiles =
      layerId === targetId
        ? await this.rework(layerId, [...before, boxOf(moved)], (context, box) => {
            cut(context, box);
            put(context, box);
          })
        : [...(await this.rework(layerId, before, cut)), ...(await this.rework(targetId, [boxOf(moved)], put))];
    this.mean(moved);
    return tiles;
  }

  /** Lays pixels down on a layer and selects them. */
  async paste(layerId: EntityId, { x, y, width, height, bitmap }: TakenPixels): Promise<ReworkedTile[]> {
    const placed: Placed = { x: Math.round(x), y: Math.round(y), width, height, picture: bitmap };
    const tiles = await this.rework(layerId, [boxOf(placed)], (context, box) => putOn(context, placed, box));
    this.mean(placed);
    return tiles;
  }

  /** The pixels of layers over one another, lowest first, as those of the lowest. */
  async merge(layerIds: readonly EntityId[]): Promise<ReworkedTile[]> {
    const { wash } = this.desk.index;
    const [target, ...others] = layerIds;
    others.forEach((id) => this.requireAll(id));
    const boxes = others.flatMap((id) => wash.tilesOf(id).map(tileBox));
    return this.rework(target, boxes, (context, box) => {
      for (const id of others) paintTiles(context, wash.within(id, inner(box)), toTile(box));
    });
  }

  /** Heaps of fewer px that lie apart from all others on a layer. */
  specks(layerId: EntityId, most: number): readonly PixelSpeck[] {
    return this.specksOf(layerId, most).specks;
  }

  /** The same taken away. */
  async dropSpecks(layerId: EntityId, most: number): Promise<ReworkedTile[]> {
    const { mask } = this.specksOf(layerId, most);
    return this.rework(layerId, [maskBox(mask)], (context, box) => cutBy(context, mask, box));
  }

  private specksOf(layerId: EntityId, most: number) {
    this.requireAll(layerId);
    return specksOfPixels(this.pixels(layerId, this.desk.pageBox), most);
  }

  /** What an Ink layer shows, without its fade, as the pixels of a layer in which nothing lies yet. */
  inked(layerId: EntityId, from: EntityId): Promise<ReworkedTile[]> {
    const { index } = this.desk;
    const style = this.desk.layer(from)?.style;
    const drawn = index
      .unorderedOn(from)
      .sort(byOrder)
      .map((entity) => shownUnder(entity, style));
    return this.rework(layerId, drawn.map(markBox), (context, box) => {
      const near = drawn.filter((entity) => boxesMeet(markBox(entity), box));
      const seen = index.marks(near);
      paintMarks(context, seen, toTile(box));
      if (style?.edge === 'hard') harden(context, WASH_SIDE, WASH_SIDE, colourOf(seen));
    });
  }

  /** What is selected now; nothing when that is nothing. */
  async area(): Promise<SelectedArea | undefined> {
    const { mask } = this;
    if (isEmptyMask(mask)) return undefined;
    let count = 0;
    for (const meant of mask.data) if (meant >= 128) count++;
    return { box: maskBox(mask), count, shape: await shapeOf(mask) };
  }

  /** Throws while some pixels of a layer are missing: what is made of the others would have holes. */
  private requireAll(layerId: EntityId): void {
    const { wash } = this.desk.index;
    if (wash.tilesOf(layerId).some(({ blob }) => !wash.hasBitmap(blob))) throw new Error(NOT_HERE);
  }

  /** Selects what was just laid down. */
  private mean(laid: Placed): void {
    this.mask = maskOfShape(pixelsIn(laid));
    this.isShape = true;
  }

  private found(layerId: EntityId, query: AreaQuery, joining: Joining): Mask {
    const page = this.desk.pageBox;
    switch (query.by) {
      case 'loop':
        return joinMasks(this.mask, maskOfLoop(query.loop, page), joining);
      case 'touch':
        return joinMasks(this.mask, maskOfPatch(this.pixels(layerId, page), query.at.x, query.at.y), joining);
      case 'colour':
        return joinMasks(this.mask, maskOfColour(this.pixels(layerId, page), query.at.x, query.at.y), joining);
      case 'all':
        return maskOfShape(this.pixels(layerId, page));
      case 'others':
        return invertMask(this.mask, page);
      case 'grow':
        return growMask(this.mask, query.px, page);
    }
  }

  private pixels(layerId: EntityId, box: Box): Pixels {
    const { wash } = this.desk.index;
    return readInBlocks(box, (context, part) => paintTiles(context, wash.within(layerId, inner(part)), toTile(part)));
  }

  /** The selected pixels of a layer, as much of each as is selected, at a share of their px. */
  private taken(layerId: EntityId, scale = 1): OffscreenCanvas {
    const { mask } = this;
    const [width, height] = [mask.width, mask.height].map((side) => Math.max(1, Math.round(side * scale)));
    const context = ground(width, height);
    const box = maskBox(mask);
    const [sx, sy] = [width / Math.max(1, mask.width), height / Math.max(1, mask.height)];
    paintTiles(context, this.desk.index.wash.within(layerId, box), [sx, 0, 0, sy, -box.minX * sx, -box.minY * sy]);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalCompositeOperation = 'destination-in';
    context.drawImage(stencil(sampled(mask, scale)), 0, 0);
    return context.canvas;
  }

  /** The same, each as it is, however many they are. */
  private takenPixels(layerId: EntityId): Pixels {
    const { mask } = this;
    const pixels = this.pixels(layerId, maskBox(mask));
    for (let i = 0; i < mask.data.length; i++)
      pixels.data[4 * i + 3] = Math.round((pixels.data[4 * i + 3] * mask.data[i]) / 255);
    return pixels;
  }

  /** Where a layer holds its shape only what is already there takes what comes. */
  private layOn(context: OffscreenCanvasRenderingContext2D, layerId: EntityId, holdsShape = false): void {
    const isHeld = holdsShape || this.desk.layer(layerId)?.holdsShape === true;
    context.globalCompositeOperation = isHeld ? 'source-atop' : 'source-over';
  }

  private cut(context: OffscreenCanvasRenderingContext2D, box: Box): void {
    cutBy(context, this.mask, box);
  }

  private mapped(layerId: EntityId, map: Matrix3x3): Placed {
    if (!isAffine(map)) return warpPixels(this.takenPixels(layerId), map);
    const [a, b, c, d, e, f] = affineOf(map);
    const { mask } = this;
    const box = wholeBox(mapBox([a, b, c, d, e, f], maskBox(mask)));
    const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
    // More than a surface holds is mapped px by px.
    if (Math.min(shareThatFits(mask.width, mask.height), shareThatFits(width, height)) < 1)
      return warpPixels(this.takenPixels(layerId), map);
    const target = ground(width, height);
    target.imageSmoothingQuality = 'high';
    target.setTransform(a, b, c, d, e - box.minX, f - box.minY);
    target.drawImage(this.taken(layerId), mask.x, mask.y);
    return { x: box.minX, y: box.minY, width, height, picture: target.canvas };
  }

  /** Paints every tile that the boxes touch anew: on what it holds, under the tile's own px. */
  private async rework(
    layerId: EntityId,
    boxes: readonly Box[],
    paint: (context: OffscreenCanvasRenderingContext2D, box: Box) => void,
  ): Promise<ReworkedTile[]> {
    const { wash } = this.desk.index;
    const reworked: ReworkedTile[] = [];
    for (const place of tilePlaces(boxes.filter((box) => !isEmptyBox(box)))) {
      const canvas = new OffscreenCanvas(WASH_SIDE, WASH_SIDE);
      const context = canvas.getContext('2d', { willReadFrequently: true });
      if (!context) throw new Error('This browser cannot paint off the screen.');
      const base = wash.tileAt(layerId, place)?.blob;
      const before = base === undefined ? undefined : wash.bitmap(base);
      if (base !== undefined && !before) throw new Error(NOT_HERE);
      if (before) context.drawImage(before, 0, 0);
      paint(context, tileBox(place));
      context.setTransform(1, 0, 0, 1, 0, 0);
      const image = context.getImageData(0, 0, WASH_SIDE, WASH_SIDE);
      if (isBlank(image)) {
        reworked.push({ ...place, layerId, base });
        continue;
      }
      const { blob, bytes } = await packTile(image);
      const bitmap = await createImageBitmap(canvas);
      if (!wash.hasBitmap(blob)) wash.addBitmap(blob, await createImageBitmap(canvas));
      reworked.push({ ...place, layerId, base, blob, bytes, bitmap });
    }
    return reworked.filter(({ base, blob }) => base !== blob);
  }
}

/** Takes away what a mask means from a tile. */
function cutBy(context: OffscreenCanvasRenderingContext2D, mask: Mask, box: Box): void {
  if (!boxesMeet(maskBox(mask), box)) return;
  context.globalCompositeOperation = 'destination-out';
  context.drawImage(stencil(maskOver(mask, box)), 0, 0);
  context.globalCompositeOperation = 'source-over';
}
