import { scaleOf, then, type Matrix } from '@true-nib/core/math';
import { TINT_COLOURS, type PictureEntity, type Tint } from '@true-nib/core/page';
import { placementMatrix } from '@true-nib/core/tools';

/** A part of a picture at one size: where it lies in the picture's own px, and its pixels. */
export interface Piece {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly bitmap: ImageBitmap;
}

/** The picture at `share` of its size, in pieces no canvas refuses. */
export interface PyramidLevel {
  readonly share: number;
  readonly pieces: readonly Piece[];
}

const PIECE_SIDE = 2048;
const OVERLAP = 2;

/** The picture in halves of halves, tinted: black becomes the tint, white stays white. */
export async function pyramidOf(source: ImageBitmap, tint: Tint): Promise<PyramidLevel[]> {
  const levels: PyramidLevel[] = [];
  for (let share = 1; ; share /= 2) {
    levels.push({ share, pieces: await piecesOf(source, share, tint) });
    if (Math.max(source.width, source.height) * share <= 512) return levels;
  }
}

async function piecesOf(source: ImageBitmap, share: number, tint: Tint): Promise<Piece[]> {
  const pieces: Piece[] = [];
  const side = PIECE_SIDE / share;
  for (let y = 0; y < source.height; y += side)
    for (let x = 0; x < source.width; x += side) {
      const width = Math.min(side + OVERLAP / share, source.width - x);
      const height = Math.min(side + OVERLAP / share, source.height - y);
      const canvas = new OffscreenCanvas(
        Math.max(1, Math.round(width * share)),
        Math.max(1, Math.round(height * share)),
      );
      const context = canvas.getContext('2d');
      if (!context) throw new Error('This browser cannot paint off the screen.');
      context.imageSmoothingQuality = 'high';
      context.drawImage(source, x, y, width, height, 0, 0, canvas.width, canvas.height);
      applyTint(context, tint);
      pieces.push({ x, y, width, height, bitmap: canvas.transferToImageBitmap() });
    }
  return pieces;
}

function applyTint(context: OffscreenCanvasRenderingContext2D, tint: Tint): void {
  if (tint === 'none') return;
  const { width, height } = context.canvas;
  const shape = new OffscreenCanvas(width, height);
  shape.getContext('2d')?.drawImage(context.canvas, 0, 0);
  // Grey first, then screened with the tint; the fills are cut back to what the picture covered.
  context.globalCompositeOperation = 'saturation';
  context.fillStyle = '#808080';
  context.fillRect(0, 0, width, height);
  context.globalCompositeOperation = 'screen';
  context.fillStyle = TINT_COLOURS[tint];
  context.fillRect(0, 0, width, height);
  context.globalCompositeOperation = 'destination-in';
  context.drawImage(shape, 0, 0);
  context.globalCompositeOperation = 'source-over';
}

/** Draws a placed picture at its opacity, times `fade`, from the size that suits the map from page px to device px. */
export function drawPicture(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  picture: PictureEntity,
  levels: readonly PyramidLevel[],
  map: Matrix,
  fade = 1,
): void {
  const own = then(placementMatrix(picture.placement, picture), map);
  // Decoded px may be fewer or more than the entity's own: an SVG is drawn at a size of its own.
  const ratio = picture.width / Math.max(...levels[0].pieces.map((piece) => piece.x + piece.width));
  const scale = scaleOf(own) * ratio;
  const fit = [...levels].reverse().find(({ share }) => share >= scale * 0.99) ?? levels[0];
  context.setTransform(...then([ratio, 0, 0, ratio, 0, 0], own));
  context.globalAlpha = picture.opacity * fade;
  context.imageSmoothingQuality = 'medium';
  for (const { bitmap, x, y, width, height } of fit.pieces) context.drawImage(bitmap, x, y, width, height);
  context.globalAlpha = 1;
}
