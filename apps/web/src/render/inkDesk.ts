import { invert, mapBox, type Box, type Matrix } from '@true-nib/core/math';
import {
  byOrder,
  editedId,
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
import { ground } from './ground';
import { changedBoxes, paintStrokes, paintTolerance, pathOf, smallPathOf, type PathSource } from './inkPaint';
import { SmallPictures, type PictureOfInks } from './smallPictures';
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

/** A worker's own copy of the inks, from which it paints pictures of any part of the page. */
export class InkDesk {
  private page: Page;
  readonly index: StrokeIndex;
  private isAsked = false;
  /** A picture that has been painted before anybody asked for it. */
  private ready: { readonly of: PictureOfInks; readonly canvas: OffscreenCanvas } | undefined;
  private readonly small = new SmallPictures();

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
    const shownOf = (edit: Edit) => {
      const stroke = this.index.get(editedId(edit));
      return stroke && this.index.shown(stroke);
    };
    const gone = edits.map(shownOf);
    this.page = applyEdits(this.page, edits);
    this.index.update(this.page, edits);
    if (edits.every(isOfStroke)) this.small.touch(edits.flatMap((edit, k) => changedBoxes(gone[k], shownOf(edit))));
    else this.small.forget();
  }

  setLook(look: StackLook): void {
    if (this.index.setLook(look)) this.forgetPictures();
  }

  setAside(ids: readonly EntityId[]): void {
    if (ids.length + this.index.aside.size > 0) this.forgetPictures();
    this.index.aside = new Set(ids);
  }

  /** What has been painted does no longer show what there is. */
  private forgetPictures(): void {
    this.ready = undefined;
    this.small.forget();
  }

  /** The inks under a map from page px to device px, on transparent ground. */
  picture(map: Matrix, width: number, height: number): OffscreenCanvas {
    const { ready } = this;
    this.isAsked = true;
    this.ready = undefined;
    const asked = { map, width, height };
    return ready && sameValue(ready.of, asked) ? ready.canvas : this.painted(asked);
  }

  /** A small picture of the inks beside the board's. */
  smallPicture(of: PictureOfInks): OffscreenCanvas {
    this.loseWashes();
    return this.small.of('page', of, (context, box) => this.paint(context, of.map, box, smallPathOf));
  }

  private painted({ map, width, height }: PictureOfInks): OffscreenCanvas {
    const context = ground(width, height);
    this.paint(context, map, { minX: 0, minY: 0, maxX: width, maxY: height });
    return context.canvas;
  }

  /** A small picture of one layer alone, also one that is hidden, as it shows its lines. */
  layerPicture(layerId: EntityId, of: PictureOfInks): OffscreenCanvas {
    this.loseWashes();
    const layer = this.layer(layerId);
    return this.small.of(layerId, of, (context, box) => {
      const seen = mapBox(invert(of.map), box);
      const strokes = this.index.onLayer(layerId, seen).sort(byOrder);
      const shown = strokes.map((stroke) => this.index.shown(stroke));
      if (layer?.medium === 'wash')
        paintWash(context, this.index, layer, this.index.wash.within(layerId, seen), shown, of.map);
      else paintStrokes(context, shown, of.map, smallPathOf);
    });
  }

  /** The pixels of washes change without an edit: pictures of them are not kept. */
  private loseWashes(): void {
    if (!this.index.wash.isEmpty) this.small.forget();
  }

  paint(context: OffscreenCanvasRenderingContext2D, map: Matrix, device: Box, pathFor?: PathSource): void {
    paintStack(context, this.index, map, device, { pathFor });
  }
}

/** Whether the inks of a page depend on an entity. */
export const isInk = (entity: Entity | null): boolean =>
  entity?.kind === 'stroke' || entity?.kind === 'wash' || (entity?.kind === 'layer' && entity.medium !== 'rough');

/** Entities or edits in packed bytes that this app itself packed or the server checked. */
export function unpackedList<T>(bytes: Uint8Array): T[] {
  const list = unpack(bytes);
  return Array.isArray(list) ? list : [];
}

const isOfStroke = ({ before, after }: Edit): boolean => (after ?? before)?.kind === 'stroke';
