import { invert, mapBox, scaleOf, type Box, type Matrix } from '@true-nib/core/math';
import {
  EntityMap,
  find,
  newPage,
  ofKind,
  sameValue,
  unpack,
  type Edit,
  type Entity,
  type EntityId,
  type GuideEntity,
  type LayerEntity,
  type Page,
  type PageSize,
} from '@true-nib/core/page';
import { breath } from '../breath';
import { applyEdits } from './draft';
import { paintStrokes, paintTolerance, pathOf } from './inkPaint';
import type { StackLook } from './stackLook';
import { paintStack, paintWash } from './stackPaint';
import { StrokeIndex } from './strokeIndex';

/** Outlines made in one go: some ms. */
const WARMED_AT_ONCE = 200;

/** How a page will likely be seen first: its scale, device px per page px, and the very picture of it where that is known. */
export interface FirstLook {
  readonly scale: number;
  readonly picture?: PictureOfInks;
}

/** A map from page px to device px, and how many of these are to be painted. */
export interface PictureOfInks {
  readonly map: Matrix;
  readonly width: number;
  readonly height: number;
}

/** A worker's own copy of the inks, from which it paints pictures of any part of the page. */
export class InkDesk {
  private page: Page;
  readonly index: StrokeIndex;
  private isAsked = false;
  /** A picture that has been painted before anybody asked for it. */
  private ready: { readonly of: PictureOfInks; readonly canvas: OffscreenCanvas } | undefined;

  constructor(size: PageSize, entities: readonly Entity[]) {
    this.page = { ...newPage(size), entities: EntityMap.of(entities.filter(isInk)) };
    this.index = new StrokeIndex(this.page);
  }

  layer(layerId: EntityId): LayerEntity | undefined {
    return find(this.page, 'layer', layerId);
  }

  /** The page as this desk has it, with its guides, which are no inks. */
  withGuides(guides: readonly GuideEntity[]): Page {
    return applyEdits(
      this.page,
      guides.map((after) => ({ before: null, after })),
    );
  }

  get pageBox(): Box {
    return { minX: 0, minY: 0, maxX: this.page.size.width, maxY: this.page.size.height };
  }

  /** Makes ready what will be seen first, until a picture is asked for: outlines, some at a time, then the picture itself. */
  async warm({ scale, picture }: FirstLook): Promise<void> {
    const tolerance = paintTolerance(scale);
    let made = 0;
    for (const stroke of ofKind(this.page, 'stroke')) {
      if (this.isAsked) return;
      pathOf(this.index.shown(stroke), tolerance);
      if (++made % WARMED_AT_ONCE === 0) await breath();
    }
    await breath();
    // The pixels of washes come later.
    if (!picture || this.isAsked || !this.index.wash.isEmpty) return;
    this.ready = { of: picture, canvas: this.painted(picture) };
  }

  edit(edits: readonly Edit[]): void {
    this.ready = undefined;
    this.page = applyEdits(this.page, edits);
    this.index.update(this.page, edits);
  }

  setLook(look: StackLook): void {
    if (this.index.setLook(look)) this.ready = undefined;
  }

  setAside(ids: readonly EntityId[]): void {
    if (ids.length > 0) this.ready = undefined;
    this.index.aside = new Set(ids);
  }

  /** The inks under a map from page px to device px, on transparent ground. */
  picture(map: Matrix, width: number, height: number): OffscreenCanvas {
    const { ready } = this;
    this.isAsked = true;
    this.ready = undefined;
    const asked = { map, width, height };
    return ready && sameValue(ready.of, asked) ? ready.canvas : this.painted(asked);
  }

  private painted({ map, width, height }: PictureOfInks): OffscreenCanvas {
    const context = ground(width, height);
    this.paint(context, map, { minX: 0, minY: 0, maxX: width, maxY: height });
    return context.canvas;
  }

  /** One layer alone, also one that is hidden, as it shows its lines. */
  layerPicture(layerId: EntityId, map: Matrix, width: number, height: number): OffscreenCanvas {
    const context = ground(width, height);
    const strokes = this.index.allOn(layerId).map((stroke) => this.index.shown(stroke));
    const layer = this.layer(layerId);
    if (layer?.medium === 'wash') {
      const seen = mapBox(invert(map), { minX: 0, minY: 0, maxX: width, maxY: height });
      paintWash(context, this.index, layer, this.index.wash.within(layerId, seen), strokes, map);
    } else paintStrokes(context, strokes, map, paintTolerance(scaleOf(map)));
    return context.canvas;
  }

  paint(context: OffscreenCanvasRenderingContext2D, map: Matrix, device: Box): void {
    paintStack(context, this.index, map, device);
  }
}

export function ground(width: number, height: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  return context;
}

/** Whether the inks of a page depend on an entity. */
export const isInk = (entity: Entity | null): boolean =>
  entity?.kind === 'stroke' || entity?.kind === 'wash' || (entity?.kind === 'layer' && entity.medium !== 'rough');

/** Entities or edits in packed bytes that this app itself packed or the server checked. */
export function unpackedList<T>(bytes: Uint8Array): T[] {
  const list = unpack(bytes);
  return Array.isArray(list) ? list : [];
}
