import { invert, mapBox, scaleOf, type Box, type Matrix } from '@true-nib/core/math';
import { newPage, unpack, type Edit, type Entity, type Page, type PageSize } from '@true-nib/core/page';
import { applyEdits } from './draft';
import { paintStrokes, paintTolerance } from './inkPaint';
import { StrokeIndex } from './strokeIndex';

/** A worker's own copy of the inks, from which it paints pictures of any part of the page. */
export class InkDesk {
  private page: Page;
  private index: StrokeIndex;

  constructor(size: PageSize, entities: readonly Entity[]) {
    const empty = newPage(size);
    this.page = applyEdits(
      empty,
      entities.filter(isInk).map((after) => ({ before: null, after })),
    );
    this.index = new StrokeIndex(this.page);
  }

  edit(edits: readonly Edit[]): void {
    this.page = applyEdits(this.page, edits);
    this.index.update(this.page, edits);
  }

  /** The inks under a map from page px to device px, on transparent ground. */
  picture(map: Matrix, width: number, height: number): OffscreenCanvas {
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot paint off the screen.');
    this.paint(context, map, { minX: 0, minY: 0, maxX: width, maxY: height });
    return canvas;
  }

  paint(context: OffscreenCanvasRenderingContext2D, map: Matrix, device: Box): void {
    const strokes = this.index.within(mapBox(invert(map), device));
    paintStrokes(context, strokes, map, paintTolerance(scaleOf(map)));
  }
}

const isInk = (entity: Entity): boolean =>
  entity.kind === 'stroke' || (entity.kind === 'layer' && entity.medium === 'ink');

/** Entities or edits in packed bytes that this app itself packed or the server checked. */
export function unpackedList<T>(bytes: Uint8Array): T[] {
  const list = unpack(bytes);
  return Array.isArray(list) ? list : [];
}
