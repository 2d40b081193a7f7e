import { invert, scaleOf, then, type Box, type Matrix, type Point } from '@true-nib/core/math';
import { applyProjective, frameMap, frameMatrix, isUntouched, type Frame, type Matrix3x3 } from '@true-nib/core/select';
import type { TakenPixels } from './washWork';

/** Pixels that are selected: where they lie, and, while a frame moves them, themselves. */
export interface ShownPixels {
  readonly box: Box;
  readonly shape: ImageBitmap;
  readonly taken?: TakenPixels;
}

/** How much of its colour lies over what is selected. */
const TINT = 0.16;
/** Parts a side of the net that shows pixels in perspective. */
const NET = 8;

/** Paints selected pixels over the page: an edge around them at rest, the pixels themselves while a frame moves them. */
export function paintPixels(
  context: CanvasRenderingContext2D,
  { box, shape, taken }: ShownPixels,
  { frame, color }: { readonly frame: Frame; readonly color: string },
  map: Matrix,
  ratio: number,
): void {
  if (isUntouched(frame)) return paintShape(context, box, shape, color, map, ratio);
  if (!taken) return;
  context.imageSmoothingEnabled = scaleOf(map) < 4;
  if (frame.corners) paintNet(context, taken, frameMap(frame), map);
  else {
    context.setTransform(...then(frameMatrix(frame), map));
    context.drawImage(taken.bitmap, taken.x, taken.y);
  }
  context.imageSmoothingEnabled = true;
}

/** A soft tint, and an edge of even width at any zoom. */
function paintShape(
  context: CanvasRenderingContext2D,
  box: Box,
  shape: ImageBitmap,
  color: string,
  map: Matrix,
  ratio: number,
): void {
  const { width, height } = context.canvas;
  const ground = new OffscreenCanvas(width, height);
  const target = ground.getContext('2d');
  if (!target) return;
  const draw = (dx: number, dy: number) => {
    target.setTransform(...then(map, [1, 0, 0, 1, dx, dy]));
    target.drawImage(shape, box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
  };
  const reach = 1.5 * ratio;
  for (let k = 0; k < 8; k++) draw(reach * Math.cos((k * Math.PI) / 4), reach * Math.sin((k * Math.PI) / 4));
  target.globalCompositeOperation = 'destination-out';
  target.globalAlpha = 1 - TINT;
  draw(0, 0);
  target.globalAlpha = 1;
  target.globalCompositeOperation = 'source-in';
  target.setTransform(1, 0, 0, 1, 0, 0);
  target.fillStyle = color;
  target.fillRect(0, 0, width, height);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.drawImage(ground, 0, 0);
}

/** Pixels in perspective, near enough to judge by: a net of triangles, each mapped as a whole. What is kept is exact. */
function paintNet(
  context: CanvasRenderingContext2D,
  { x, y, bitmap }: TakenPixels,
  page: Matrix3x3,
  map: Matrix,
): void {
  const at = (column: number, row: number): Point => ({
    x: x + (bitmap.width * column) / NET,
    y: y + (bitmap.height * row) / NET,
  });
  for (let row = 0; row < NET; row++)
    for (let column = 0; column < NET; column++) {
      const [a, b, c, d] = [at(column, row), at(column + 1, row), at(column + 1, row + 1), at(column, row + 1)];
      for (const triangle of [[a, b, c] as const, [a, c, d] as const]) {
        const images = triangle.map((p) => applyProjective(page, p.x, p.y));
        context.save();
        context.setTransform(...map);
        context.beginPath();
        images.forEach((p, k) => (k === 0 ? context.moveTo(p.x, p.y) : context.lineTo(p.x, p.y)));
        context.clip();
        context.transform(...then(invert(spanned(triangle)), spanned(images)));
        context.drawImage(bitmap, x, y);
        context.restore();
      }
    }
}

/** The map from the unit triangle to one of three points. */
const spanned = ([o, p, q]: readonly Point[]): Matrix => [p.x - o.x, p.y - o.y, q.x - o.x, q.y - o.y, o.x, o.y];
