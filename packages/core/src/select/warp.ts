import { boxCorners, boxOfPoints, applyProjective, depthAt, type Matrix3x3 } from '../math';
import { PageError } from '../gate';
import { inverseOf } from './homography';
import { maskBox, type Pixels } from './mask';

/** Pixels that a transform may spread over: what a canvas can hold anywhere. */
const MOST_AREA = 64e6;

/**
 * Pixels under a projective map of the page, each looked up where it comes from and mixed of its four neighbours
 * (bilinear, premultiplied). Throws a PageError when the map folds them or spreads them too far.
 */
export function warpPixels(source: Pixels, map: Matrix3x3): Pixels {
  const corners = boxCorners(maskBox(source));
  const depths = corners.map(({ x, y }) => depthAt(map, x, y));
  if (depths.some((depth) => !(depth * depths[0] > 0)))
    throw new PageError('These corners fold the pixels over. Pull them apart again.');
  const reach = boxOfPoints(corners.map(({ x, y }) => applyProjective(map, x, y)));
  const [x, y] = [Math.floor(reach.minX), Math.floor(reach.minY)];
  const [width, height] = [Math.ceil(reach.maxX) - x, Math.ceil(reach.maxY) - y];
  if (!(width * height <= MOST_AREA)) throw new PageError('The pixels would become larger than a page can hold.');
  const back = inverseOf(map);
  const target: Pixels = { x, y, width, height, data: new Uint8ClampedArray(4 * width * height) };
  const mixed = new Float64Array(4);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const from = applyProjective(back, x + column + 0.5, y + row + 0.5);
      if (!mix(source, from.x - source.x - 0.5, from.y - source.y - 0.5, mixed)) continue;
      const at = 4 * (row * width + column);
      for (let k = 0; k < 3; k++) target.data[at + k] = mixed[k] / mixed[3];
      target.data[at + 3] = mixed[3];
    }
  return target;
}

/** The mix at (x, y), in px from the middle of the first one: colours times alpha, and alpha. Answers whether there is any. */
function mix({ width, height, data }: Pixels, x: number, y: number, mixed: Float64Array): boolean {
  mixed.fill(0);
  const [left, top] = [Math.floor(x), Math.floor(y)];
  for (let dy = 0; dy < 2; dy++)
    for (let dx = 0; dx < 2; dx++) {
      const [column, row] = [left + dx, top + dy];
      if (column < 0 || row < 0 || column >= width || row >= height) continue;
      const share = (dx ? x - left : 1 - x + left) * (dy ? y - top : 1 - y + top);
      const at = 4 * (row * width + column);
      const alpha = share * data[at + 3];
      for (let k = 0; k < 3; k++) mixed[k] += alpha * data[at + k];
      mixed[3] += alpha;
    }
  return mixed[3] > 0;
}
