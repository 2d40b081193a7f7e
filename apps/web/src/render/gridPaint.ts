import { eachGridPiece, FRAME_PLANES, type FramePlane, type FrameShape } from '@true-nib/core/guides';
import type { Courses } from '@true-nib/core/tethers';
import { identity, scaleOf, type Matrix } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import type { Context2D } from './inkPaint';
import { strokeFine } from './overlay';
import type { Extent } from './view';

/** The grids of a frame as the board shows them. */
export interface ShownGrids {
  readonly frame: FrameShape;
  /** The colour of each plane's grid. */
  readonly colours: Readonly<Record<FramePlane, string>>;
  /** How clearly their nearest lines show, 0..1. */
  readonly strength: number;
}

/** Courses that are painted at most, so that none holds up the hand; of more in sight a spread. */
const MOST_GHOSTS = 640;

/** Paints where many lines would go, as hairlines. */
export function paintGhosts(context: Context2D, courses: Courses, map: Matrix, ratio: number): void {
  const seen = inSight(courses, map, context.canvas);
  // Twice as few are some of those before: while lines come into sight and leave it, none flicker.
  const apart = 2 ** Math.ceil(Math.log2(Math.max(1, seen.length / MOST_GHOSTS)));
  const { counts, places } = courses;
  const path = new Path2D();
  for (const { line, start } of seen) {
    if (line % apart !== 0) continue;
    path.moveTo(places[start], places[start + 1]);
    for (let at = start + 2; at < start + 2 * counts[line]; at += 2) path.lineTo(places[at], places[at + 1]);
  }
  context.strokeStyle = 'rgba(20,22,26,0.7)';
  strokeFine(context, [path], map, ratio);
}

/** The courses that may be seen on a canvas, and where their places start. */
function inSight({ counts, places }: Courses, [a, b, c, d, e, f]: Matrix, { width, height }: Extent) {
  const seen: { readonly line: number; readonly start: number }[] = [];
  let at = 0;
  for (let line = 0; line < counts.length; line++) {
    const start = at;
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const end = start + 2 * counts[line]; at < end; at += 2) {
      const x = a * places[at] + c * places[at + 1] + e;
      const y = b * places[at] + d * places[at + 1] + f;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
    }
    if (right >= 0 && left <= width && bottom >= 0 && top <= height) seen.push({ line, start });
  }
  return seen;
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
  for (const shown of grids)
    for (const plane of FRAME_PLANES) {
      context.strokeStyle = shown.colours[plane];
      paintGrid(context, { ...shown, plane }, page, map, ratio);
    }
  context.globalAlpha = 1;
}

function paintGrid(
  context: Context2D,
  { frame, plane, strength }: ShownGrids & { readonly plane: FramePlane },
  page: PageSize,
  map: Matrix,
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
