import { eachGridPiece } from '@true-nib/core/guides';
import { identity, scaleOf, type Matrix, type Point } from '@true-nib/core/math';
import { FRAME_PLANES, type FramePlane, type FrameShape, type PageSize } from '@true-nib/core/page';
import type { Context2D } from './inkPaint';
import { strokeFine } from './overlay';

/** The grids of a frame as the board shows them. */
export interface ShownGrids {
  readonly frame: FrameShape;
  /** The colour of each plane's grid. */
  readonly colours: Readonly<Record<FramePlane, string>>;
  /** How clearly their nearest lines show, 0..1. */
  readonly strength: number;
}

/** Courses of many lines, page px: how many places each has, and their x, y pairs one after another. */
export interface Courses {
  readonly counts: Uint32Array;
  readonly places: Float32Array;
}

export function packedCourses(ways: readonly (readonly Point[])[]): Courses {
  const places = new Float32Array(2 * ways.reduce((sum, way) => sum + way.length, 0));
  let at = 0;
  for (const way of ways)
    for (const { x, y } of way) {
      places[at++] = x;
      places[at++] = y;
    }
  return { counts: Uint32Array.from(ways, (way) => way.length), places };
}

/** Paints where many lines would go, as hairlines. */
export function paintGhosts(context: Context2D, { counts, places }: Courses, map: Matrix, ratio: number): void {
  if (counts.length === 0) return;
  context.strokeStyle = 'rgba(20,22,26,0.7)';
  const path = new Path2D();
  let at = 0;
  for (const count of counts)
    for (let k = 0; k < count; k++, at += 2)
      if (k === 0) path.moveTo(places[at], places[at + 1]);
      else path.lineTo(places[at], places[at + 1]);
  strokeFine(context, [path], map, ratio);
}

/** CSS px between two lines of a grid below which some are left out. */
const FINEST = 7;
/** Steps in which a grid pales: one path for each, since a path a piece would cost a state change each. */
const STEPS = 8;

/** Paints grids in device px; `map` takes page px there, `ratio` is device px per CSS px. */
export function paintGrids(
  context: Context2D,
  grids: readonly ShownGrids[],
  page: PageSize,
  map: Matrix,
  ratio: number,
): void {
  for (const { frame, colours, strength } of grids)
    for (const plane of FRAME_PLANES) {
      context.strokeStyle = colours[plane];
      paintGrid(context, frame, page, plane, map, strength, ratio);
    }
  context.globalAlpha = 1;
}

function paintGrid(
  context: Context2D,
  frame: FrameShape,
  page: PageSize,
  plane: FramePlane,
  map: Matrix,
  strength: number,
  ratio: number,
): void {
  const { width, height } = context.canvas;
  const [a, b, c, d, e, f] = map;
  const paths: (Path2D | undefined)[] = [];
  eachGridPiece(frame, page, plane, (FINEST * ratio) / scaleOf(map), (ax, ay, bx, by, clear) => {
    const [fromX, fromY] = [a * ax + c * ay + e, b * ax + d * ay + f];
    const [toX, toY] = [a * bx + c * by + e, b * bx + d * by + f];
    if ((fromX < 0 && toX < 0) || (fromY < 0 && toY < 0) || (fromX > width && toX > width)) return;
    if (fromY > height && toY > height) return;
    const step = Math.max(1, Math.round(clear * STEPS));
    const path = (paths[step] ??= new Path2D());
    path.moveTo(fromX, fromY);
    path.lineTo(toX, toY);
  });
  paths.forEach((path, step) => {
    if (!path) return;
    context.globalAlpha = (strength * step) / STEPS;
    strokeFine(context, [path], identity, ratio);
  });
}
