import type { Matrix } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import { expose, transfer } from 'comlink';
import { paintGhosts, paintGrids, type Courses, type ShownGrids } from './gridPaint';

/** Grids and ghosts of lines, and the view of the page in which they are seen. */
export interface GridView {
  readonly grids: readonly ShownGrids[];
  readonly ghosts: Courses;
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

const service = {
  picture({ grids, ghosts, page, map, ratio, width, height }: GridView): ImageBitmap {
    if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot paint off the screen.');
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    paintGrids(context, grids, page, map, ratio);
    paintGhosts(context, ghosts, map, ratio);
    const bitmap = canvas.transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type GridService = typeof service;

expose(service);
