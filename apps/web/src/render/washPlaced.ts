import { boxOfPoints, intersectBoxes, isEmptyBox, type Box, type Point } from '@true-nib/core/math';
import { emptyMask, maskOfCover, type Mask, type Pixels } from '@true-nib/core/select';
import { ground, readInBlocks } from './ground';

// Pictures and masks that lie on the page at whole px.

/** A picture whose corner lies at a whole page px, one px for each of the page's, or the pixels themselves. */
export type Placed = Pixels | (Omit<Pixels, 'data'> & { readonly picture: OffscreenCanvas | ImageBitmap });

export const boxOf = ({ x, y, width, height }: Placed): Box => ({
  minX: x,
  minY: y,
  maxX: x + width,
  maxY: y + height,
});

/** From page px to the px of a canvas that shows `box`. */
export const toTile = ({ minX, minY }: Box) => [1, 0, 0, 1, -minX, -minY] as const;

/** A tile's box without the edges that it shares with its neighbours. */
export const inner = ({ minX, minY, maxX, maxY }: Box): Box => ({ minX, minY, maxX: maxX - 1, maxY: maxY - 1 });

export const wholeBox = ({ minX, minY, maxX, maxY }: Box): Box => ({
  minX: Math.floor(minX),
  minY: Math.floor(minY),
  maxX: Math.ceil(maxX),
  maxY: Math.ceil(maxY),
});

export const pixelsIn = (placed: Placed): Pixels =>
  'data' in placed ? placed : readInBlocks(boxOf(placed), (context, part) => putOn(context, placed, part));

/** Lays a picture on a canvas that shows `box`. */
export function putOn(context: OffscreenCanvasRenderingContext2D, placed: Placed, box: Box): void {
  context.globalCompositeOperation = 'source-over';
  if ('picture' in placed) return context.drawImage(placed.picture, placed.x - box.minX, placed.y - box.minY);
  const part = intersectBoxes(boxOf(placed), box);
  if (isEmptyBox(part)) return;
  const [width, height] = [part.maxX - part.minX, part.maxY - part.minY];
  if (width <= 0 || height <= 0) return;
  const image = new ImageData(width, height);
  for (let row = 0; row < height; row++) {
    const from = 4 * ((part.minY - placed.y + row) * placed.width + part.minX - placed.x);
    image.data.set(placed.data.subarray(from, from + 4 * width), 4 * row * width);
  }
  const aside = ground(width, height);
  aside.putImageData(image, 0, 0);
  context.drawImage(aside.canvas, part.minX - box.minX, part.minY - box.minY);
}

/** A mask of a share of its px, each as that in its middle; the very same at 1. */
export function sampled(mask: Mask, scale: number): Mask {
  if (scale === 1) return mask;
  const [width, height] = [mask.width, mask.height].map((side) => Math.max(1, Math.round(side * scale)));
  const data = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    const from = Math.floor(((row + 0.5) * mask.height) / height) * mask.width;
    for (let column = 0; column < width; column++)
      data[row * width + column] = mask.data[from + Math.floor(((column + 0.5) * mask.width) / width)];
  }
  return { x: mask.x, y: mask.y, width, height, data };
}

/** A mask as a canvas of one colour, as opaque as the px are meant. */
export function stencil({ width, height, data }: Mask, color = '#000000'): OffscreenCanvas {
  const context = ground(Math.max(1, width), Math.max(1, height));
  const image = new ImageData(Math.max(1, width), Math.max(1, height));
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(color.slice(at, at + 2), 16));
  for (let i = 0; i < data.length; i++) {
    if (data[i] === 0) continue;
    image.data[4 * i] = r;
    image.data[4 * i + 1] = g;
    image.data[4 * i + 2] = b;
    image.data[4 * i + 3] = data[i];
  }
  context.putImageData(image, 0, 0);
  return context.canvas;
}

/** The inside of a closed loop, page px, as far as it lies on the page. */
export function maskOfLoop(loop: readonly Point[], page: Box): Mask {
  const within = wholeBox(intersectBoxes(boxOfPoints(loop), page));
  if (!(within.maxX > within.minX && within.maxY > within.minY)) return emptyMask;
  const cover = readInBlocks(within, (context, part) => {
    context.setTransform(...toTile(part));
    context.beginPath();
    loop.forEach(({ x, y }, k) => (k === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    context.fill();
  });
  return maskOfCover(cover);
}

export function isBlank({ data }: ImageData): boolean {
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 0) return false;
  return true;
}

/** Px a side of the picture of what is selected. */
const MOST_SHAPE = 1600;

/** Where the mask lies, small enough to be shown at once: opaque black where px are meant. */
export async function shapeOf(mask: Mask): Promise<ImageBitmap> {
  const scale = Math.min(1, MOST_SHAPE / Math.max(mask.width, mask.height));
  return createImageBitmap(stencil(sampled(mask, scale)));
}
