import type { Box, Matrix } from '@true-nib/core/math';
import type { SeenRoughs } from '@true-nib/core/page';
import type { InkDesk } from './inkDesk';

import { drawRoughs, type LevelsOf } from './roughSurface';

/** What a page is painted from. */
export interface PaintedPage {
  readonly desk: InkDesk;
  /** The paper's colour; null leaves the ground transparent. */
  readonly paper: string | null;
  readonly roughs: SeenRoughs;
  readonly levelsOf: LevelsOf;
  /** Dots are dots at any scale, and never the grey that stands for them. */
  readonly isFine?: boolean;
}

/** Paints all of a page into whole device px `box` of a context, as it is delivered: paper, roughs on it, inks, transparencies. */
export function paintPage(
  context: OffscreenCanvasRenderingContext2D,
  { desk, paper, roughs, levelsOf, isFine }: PaintedPage,
  map: Matrix,
  box: Box,
): void {
  if (paper !== null) {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = paper;
    context.fillRect(box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
  }
  drawRoughs(context, roughs.under, levelsOf, map);
  desk.paint(context, map, box, { isFine });
  context.globalCompositeOperation = 'multiply';
  drawRoughs(context, roughs.over, levelsOf, map);
  context.globalCompositeOperation = 'source-over';
}
