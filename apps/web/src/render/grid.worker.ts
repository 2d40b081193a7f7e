import { coursesAfter, type Following, type TetheredLines } from '@true-nib/core/tethers';
import type { Matrix } from '@true-nib/core/math';
import type { GuideShape } from '@true-nib/core/guides';
import type { PageSize } from '@true-nib/core/page';
import { expose, transfer } from 'comlink';
import { paintGhosts, paintGrids, type ShownGrids } from './gridPaint';

/** Another shape of a guide, and how what is tethered to it follows. */
export interface GuideMove {
  readonly shape: GuideShape;
  readonly following: Following;
}

/** Grids, and the view of the page in which they are seen. */
export interface GridView {
  readonly grids: readonly ShownGrids[];
  readonly page: PageSize;
  /** Page px to device px. */
  readonly map: Matrix;
  /** Device px per CSS px. */
  readonly ratio: number;
  /** Device px. */
  readonly width: number;
  readonly height: number;
}

let canvas: OffscreenCanvas | undefined;
let held: TetheredLines | undefined;

const service = {
  /** Takes the lines that a guide's moves to come are about. */
  hold(lines: TetheredLines): void {
    held = lines;
  },

  picture({ grids, page, map, ratio, width, height }: GridView, move?: GuideMove): ImageBitmap {
    if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot paint off the screen.');
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    paintGrids(context, grids, page, map, ratio);
    if (move && held) paintGhosts(context, coursesAfter(held, move.shape, move.following), map, ratio);
    const bitmap = canvas.transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type GridService = typeof service;

expose(service);
