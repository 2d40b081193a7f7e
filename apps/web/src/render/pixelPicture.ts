import {
  invert,
  scaleOf,
  then,
  type Box,
  type Matrix,
  type Point,
  applyProjective,
  type Matrix3x3,
} from '@true-nib/core/math';
import { frameMap, frameMatrix, isUntouched, type Frame } from '@true-nib/core/select';
import { PLAIN_SCALE } from './washPaint';
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
/** Triangles lap over their neighbours a little, or the ground would show between them. */
const LAP = 1.03;

/** Paints selected pixels over the page: an edge around them at rest, the pixels themselves while a frame moves them. */
export function paintPixels(
  context: CanvasRenderingContext2D,
  { box, shape, taken }: ShownPixels,
  { frame, color }: { readonly frame: Frame; readonly color: string },
  { map, ratio }: { readonly map: Matrix; readonly ratio: number },
  isMoving: boolean,
): void {
  if (isUntouched(frame)) {
    const tint = tinted(shape, color);
    const paint = isMoving ? paintTint : paintEdge;
    return paint(context, box, tint, map, ratio);
  }
  if (!taken) return;
  const pulled = frame.corners && frameMap(frame);
  context.imageSmoothingEnabled = scaleOf(map) < PLAIN_SCALE;
  if (pulled) paintNet(context, taken, pulled, map);
  else {
    context.setTransform(...then(frameMatrix(frame), map));
    context.drawImage(taken.bitmap, taken.x, taken.y, taken.width, taken.height);
  }
  context.imageSmoothingEnabled = true;
}

const tints = new WeakMap<ImageBitmap, { readonly color: string; readonly picture: ImageBitmap }>();

/** The shape in a colour; the last one is kept. */
function tinted(shape: ImageBitmap, color: string): ImageBitmap {
  const known = tints.get(shape);
  if (known?.color === color) return known.picture;
  const canvas = new OffscreenCanvas(shape.width, shape.height);
  const context = canvas.getContext('2d');
  if (context) {
    context.drawImage(shape, 0, 0);
    context.globalCompositeOperation = 'source-in';
    context.fillStyle = color;
    context.fillRect(0, 0, canvas.width, canvas.height);
  }
  const picture = canvas.transferToImageBitmap();
  tints.set(shape, { color, picture });
  return picture;
}

/** While the view moves: a soft tint alone. */
function paintTint(context: CanvasRenderingContext2D, box: Box, tint: ImageBitmap, map: Matrix): void {
  context.setTransform(...map);
  context.globalAlpha = TINT;
  context.drawImage(tint, box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
  context.globalAlpha = 1;
}

/** A soft tint, and an edge of even width at any zoom. */
function paintEdge(context: CanvasRenderingContext2D, box: Box, tint: ImageBitmap, map: Matrix, ratio: number): void {
  const ground = new OffscreenCanvas(context.canvas.width, context.canvas.height);
  const target = ground.getContext('2d');
  if (!target) return;
  // The edge of a whole page is drawn five times over: rougher is quicker, and hardly to be seen at this width.
  target.imageSmoothingEnabled = false;
  const draw = (dx: number, dy: number) => {
    target.setTransform(...then(map, [1, 0, 0, 1, dx, dy]));
    target.drawImage(tint, box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY);
  };
  const reach = 1.5 * ratio;
  for (const [dx, dy] of [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ])
    draw(reach * dx, reach * dy);
  target.globalCompositeOperation = 'destination-out';
  target.globalAlpha = 1 - TINT;
  draw(0, 0);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.drawImage(ground, 0, 0);
}

/** Pixels in perspective, near enough to judge by: a net of triangles, each mapped as a whole. What is kept is exact. */
function paintNet(
  context: CanvasRenderingContext2D,
  { x, y, width, height, bitmap }: TakenPixels,
  page: Matrix3x3,
  map: Matrix,
): void {
  const at = (column: number, row: number): Point => ({
    x: x + (width * column) / NET,
    y: y + (height * row) / NET,
  });
  for (let row = 0; row < NET; row++)
    for (let column = 0; column < NET; column++) {
      const [a, b, c, d] = [at(column, row), at(column + 1, row), at(column + 1, row + 1), at(column, row + 1)];
      for (const triangle of [[a, b, c] as const, [a, c, d] as const]) {
        const images = triangle.map((p) => applyProjective(page, p.x, p.y));
        const middle = mean(images);
        context.save();
        context.setTransform(...map);
        context.beginPath();
        images.forEach((p, k) => {
          const x = middle.x + (p.x - middle.x) * LAP;
          const y = middle.y + (p.y - middle.y) * LAP;
          if (k === 0) context.moveTo(x, y);
          else context.lineTo(x, y);
        });
        context.clip();
        context.transform(...then(invert(spanned(triangle)), spanned(images)));
        context.drawImage(bitmap, x, y, width, height);
        context.restore();
      }
    }
}

const mean = (points: readonly Point[]): Point =>
  points.reduce((sum, p) => ({ x: sum.x + p.x / points.length, y: sum.y + p.y / points.length }), { x: 0, y: 0 });

/** The map from the unit triangle to one of three points. */
const spanned = ([o, p, q]: readonly Point[]): Matrix => [p.x - o.x, p.y - o.y, q.x - o.x, q.y - o.y, o.x, o.y];
