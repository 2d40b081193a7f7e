import { invert, mapBox, scaleOf, then, type Box, type Matrix } from '@true-nib/core/math';
import type { EntityId, StackNode, StrokeEntity } from '@true-nib/core/page';
import { growBox } from '@true-nib/core/math';
import { paintStrokes, paintTolerance, type Context2D } from './inkPaint';
import type { StrokeIndex } from './strokeIndex';

/** Half covered and more is ink, less is none. */
const HALF = 128;

/**
 * Paints the inks of the stack, lowest first, into whole device px `box` of a context; `map` takes page px to device px.
 * Layers and groups that are faded or hard-edged are put together on a ground of their own first. With `aboveRank` only
 * layers painted after that one.
 */
export function paintStack(context: Context2D, index: StrokeIndex, map: Matrix, box: Box, aboveRank = -1): void {
  const strokes = index.within(growBox(mapBox(invert(map), box), 2 / scaleOf(map)), aboveRank);
  if (strokes.size > 0) paintNodes(context, index.stack, strokes, map, box);
}

function paintNodes(
  context: Context2D,
  nodes: readonly StackNode[],
  strokes: ReadonlyMap<EntityId, readonly StrokeEntity[]>,
  map: Matrix,
  box: Box,
): void {
  for (const { layer, children } of nodes) {
    const own = strokes.get(layer.id);
    const paint = (target: Context2D, to: Matrix, within: Box) => {
      if (own) paintStrokes(target, own, to, paintTolerance(scaleOf(to)));
      if (children.length > 0) paintNodes(target, children, strokes, to, within);
    };
    const hard = own && layer.style?.edge === 'hard' ? colourOf(own) : undefined;
    if (layer.opacity === 1 && hard === undefined) paint(context, map, box);
    else if (own ?? children.length > 0) paintApart(context, map, box, layer.opacity, hard, paint);
  }
}

function paintApart(
  context: Context2D,
  map: Matrix,
  box: Box,
  opacity: number,
  /** The colour of a hard-edged layer's lines. */
  hard: string | undefined,
  paint: (target: Context2D, map: Matrix, box: Box) => void,
): void {
  const width = box.maxX - box.minX;
  const height = box.maxY - box.minY;
  if (opacity === 0 || width <= 0 || height <= 0) return;
  const ground = new OffscreenCanvas(width, height);
  const target = ground.getContext('2d', { willReadFrequently: hard !== undefined });
  if (!target) throw new Error('This browser cannot paint off the screen.');
  paint(target, then(map, [1, 0, 0, 1, -box.minX, -box.minY]), { minX: 0, minY: 0, maxX: width, maxY: height });
  if (hard !== undefined) harden(target, width, height, hard);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = opacity;
  context.drawImage(ground, box.minX, box.minY);
  context.globalAlpha = 1;
}

/** The one colour of all these strokes, or `mixed`. */
function colourOf(strokes: readonly StrokeEntity[]): string {
  const [{ nib }] = strokes;
  return strokes.every((stroke) => stroke.nib.color === nib.color) ? nib.color : 'mixed';
}

/** Leaves no px half covered. */
function harden(context: OffscreenCanvasRenderingContext2D, width: number, height: number, color: string): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  const image = context.getImageData(0, 0, width, height);
  const { data } = image;
  for (let i = 3; i < data.length; i += 4) data[i] = data[i] >= HALF ? 255 : 0;
  context.putImageData(image, 0, 0);
  if (color === 'mixed') return;
  // Colours of half covered px come back rounded: all of them get the very one.
  context.globalCompositeOperation = 'source-in';
  context.fillStyle = color;
  context.fillRect(0, 0, width, height);
  context.globalCompositeOperation = 'source-over';
}
