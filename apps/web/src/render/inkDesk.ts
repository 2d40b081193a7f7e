import { boundsRegions, changedPieces, isDrawn, isInkedKind, markPieces, marksAt } from '@true-nib/core/drawn';
import { sameValue } from '@true-nib/core/gate';
import { invert, mapBox, type Box, type Matrix } from '@true-nib/core/math';
import {
  byOrder,
  editedId,
  EntityMap,
  find,
  isKind,
  newPage,
  type Edit,
  type Entity,
  type EntityKind,
  type LayerEntity,
  type Page,
  type PageSize,
} from '@true-nib/core/page';
import { unpack } from '@true-nib/core/wire';
import type { EntityId } from '@true-nib/core/kind';
import { breath } from '../base/breath';
import { ChangeLog } from './changeLog';
import { applyEdits } from './draft';
import { ground } from './ground';
import { changesFrames } from './inkEdits';
import { paintMarks, paintTolerance, pathOf, smallPathOf, type PathSource } from './inkPaint';
import { KeptPicture, type PictureOfInks } from './keptPicture';
import { SmallPictures } from './smallPictures';
import type { StackLook } from './stackLook';
import { paintStack, paintWash } from './stackPaint';
import { InkIndex } from './inkIndex';

/** Outlines made in one go: some ms. */
const WARMED_AT_ONCE = 200;

/** Things drawn up to which a view is always painted as a whole: exactly, and quick enough. */
const FEW = 2_000;
/** Device px around places of a view that are painted for their own sake. */
const MARGIN = 16;

/** Things that come or go place by place when they are shown elsewhere; more leave no picture as it was. */
const MOST_ASIDE = 100;

/** How a page will likely be seen first: its scale, device px per page px, and the very picture of it where that is known. */
export interface FirstLook {
  readonly scale: number;
  readonly picture?: PictureOfInks;
}

/** A worker's own copy of the inks, from which it paints pictures of any part of the page. */
export class InkDesk {
  private page: Page;
  readonly index: InkIndex;
  private isAsked = false;
  /** What changed of all that bounds regions: lines, areas that are no flats, and what is seen of layers. */
  readonly bounds = new ChangeLog();
  /** What the board shows, as it was last seen, or will be first. */
  private readonly seen = new KeptPicture((context, map, box) => this.paint(context, map, box), MARGIN);
  private readonly small = new SmallPictures();

  constructor(size: PageSize, entities: readonly Entity[]) {
    this.page = { ...newPage(size), entities: EntityMap.of(entities.filter(isInk)) };
    this.index = new InkIndex(this.page);
  }

  layer(layerId: EntityId): LayerEntity | undefined {
    return find(this.page, 'layer', layerId);
  }

  /** The page as this desk has it, with some of what is no ink: guides, how it is cut. */
  pageWith(besides: readonly Entity[]): Page {
    return applyEdits(
      this.page,
      besides.map((after) => ({ before: null, after })),
    );
  }

  get pageBox(): Box {
    return { minX: 0, minY: 0, maxX: this.page.size.width, maxY: this.page.size.height };
  }

  /** Makes ready what will be seen first, until a picture is asked for: outlines, some at a time, then the picture itself. */
  async warm({ scale, picture }: FirstLook): Promise<void> {
    const tolerance = paintTolerance(scale);
    let made = 0;
    for (const entity of this.page.entities) {
      if (!isDrawn(entity)) continue;
      if (this.isAsked) return;
      for (const mark of marksAt(this.index.marks([this.index.shown(entity)]), scale)) pathOf(mark, tolerance);
      if (++made % WARMED_AT_ONCE === 0) await breath();
    }
    await breath();
    // The pixels of washes come later.
    if (!picture || this.isAsked || !this.index.wash.isEmpty) return;
    this.seen.prepare(picture);
  }

  edit(edits: readonly Edit[]): void {
    const shownOf = (edit: Edit) => {
      const entity = this.index.get(editedId(edit));
      return entity && this.index.shown(entity);
    };
    const gone = edits.map(shownOf);
    // What was before, this desk knows itself.
    const full = edits.map((edit) => ({ before: this.page.entities.get(editedId(edit)) ?? null, after: edit.after }));
    this.page = applyEdits(this.page, edits);
    this.index.update(this.page, edits);
    if (changesFrames(this.page, full)) {
      this.bounds.add(undefined);
      return this.forgetPictures();
    }
    const isDrawnAlone = edits.every(isOfDrawn);
    const pieces = isDrawnAlone ? edits.map((edit, k) => changedPieces(gone[k], shownOf(edit))) : undefined;
    if (full.some(changesBounds)) this.bounds.add(pieces?.filter((_, k) => changesBounds(full[k])).flat());
    if (pieces) this.touch(pieces.flat());
    else this.forgetPictures();
  }

  setLook(look: StackLook): void {
    if (!this.index.setLook(look)) return;
    this.bounds.add(undefined);
    this.forgetPictures();
  }

  setAside(ids: readonly EntityId[]): void {
    const changed = [...this.index.aside, ...ids].flatMap((id) => this.index.get(id) ?? []);
    this.index.aside = new Set(ids);
    if (changed.length > MOST_ASIDE) return this.forgetPictures();
    this.touch(changed.flatMap((entity) => markPieces(this.index.shown(entity))));
  }

  /** What has been painted does no longer show what there is at some places, page px. */
  private touch(boxes: readonly Box[]): void {
    this.seen.touch(boxes);
    this.small.touch(boxes);
  }

  /** What has been painted does no longer show what there is. */
  private forgetPictures(): void {
    this.seen.forget();
    this.small.forget();
  }

  /** The inks of a view of the page, on transparent ground. */
  view(of: PictureOfInks): OffscreenCanvas {
    this.isAsked = true;
    this.loseWashes();
    return this.seen.picture(of, this.index.size > FEW);
  }

  /** A square piece of the inks at some scale. */
  tile(map: Matrix, side: number): OffscreenCanvas {
    this.isAsked = true;
    const context = ground(side, side);
    this.paint(context, map, { minX: 0, minY: 0, maxX: side, maxY: side });
    return context.canvas;
  }

  /** A small picture of the inks beside the board's. */
  smallPicture(of: PictureOfInks): OffscreenCanvas {
    this.loseWashes();
    return this.small.of('page', of, (context, map, box) => this.paint(context, map, box, { pathFor: smallPathOf }));
  }

  /** A small picture of one layer alone, also one that is hidden, as it shows its lines. */
  layerPicture(layerId: EntityId, of: PictureOfInks): OffscreenCanvas {
    this.loseWashes();
    return this.small.of(`layer ${layerId}`, of, (context, map, box) => {
      const layer = this.layer(layerId);
      const seen = mapBox(invert(map), box);
      const shown = this.index
        .onLayer(layerId, seen)
        .sort(byOrder)
        .map((entity) => this.index.shown(entity));
      if (layer?.medium === 'wash')
        paintWash(
          context,
          this.index,
          layer,
          { tiles: this.index.wash.within(layerId, seen), marks: this.index.marks(shown) },
          map,
        );
      else paintMarks(context, this.index.marks(shown), map, smallPathOf);
    });
  }

  /** The pixels of washes change without an edit: pictures of them are not kept. */
  private loseWashes(): void {
    if (!this.index.wash.isEmpty) this.forgetPictures();
  }

  paint(context: OffscreenCanvasRenderingContext2D, map: Matrix, device: Box, how: InkPainting = {}): void {
    paintStack(context, this.index, map, device, how);
  }
}

/** Where paths come from, and whether dots are dots at any scale. */
export interface InkPainting {
  readonly pathFor?: PathSource;
  readonly isFine?: boolean | undefined;
}

/** Whether an edit can change what bounds regions: lines do, also as their layer shows them; flats do not. */
export function changesBounds({ before, after }: Edit): boolean {
  if (before?.kind === 'layer' && after?.kind === 'layer')
    return !sameValue(before.style, after.style) || before.free !== after.free;
  return [before, after].some((entity) => isDrawn(entity) && boundsRegions(entity));
}

/** Whether the inks of a page depend on an entity. */
export const isInk = (entity: Entity | null): boolean =>
  entity !== null && (isInkedKind(entity.kind) || (isKind(entity, 'layer') && entity.medium !== 'rough'));

/** Whether there may be such among the entities of a kind. */
export const hasInk = (kind: EntityKind): boolean => kind === 'layer' || isInkedKind(kind);

/** Entities or edits in packed bytes that this app itself packed or the server checked. */
export function unpackedList<T>(bytes: Uint8Array): T[] {
  const list = unpack(bytes);
  return Array.isArray(list) ? list : [];
}

const isOfDrawn = ({ before, after }: Edit): boolean => isDrawn(after ?? before);
