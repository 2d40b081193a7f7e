import type { InkRaster } from './types';

/**
 * The curves along which a picture is so dark, between its px by linear mixing: closed rings of x, y, ink on their right hand
 * seen with y down. Marching squares (Lorensen & Cline 1987, in the plane); where two corners of ink meet, the mean of all
 * four tells whether they hang together. Written here since a page has millions of points, and a list for each is too much.
 */
export function contoursAt(raster: InkRaster, level: number): Float64Array[] {
  const { width, height, ink } = raster;
  const at = (x: number, y: number): number => (x < 0 || y < 0 || x >= width || y >= height ? 0 : ink[y * width + x]);
  const across = width + 1;
  /** Edges between a px of paper on the left and one of ink on the right that a ring has passed. */
  const passed = new Uint8Array(across * height);
  const rings: Float64Array[] = [];
  for (let y = 0; y < height; y++)
    for (let x = -1; x < width; x++) {
      if (at(x, y) >= level || at(x + 1, y) < level || passed[y * across + x + 1]) continue;
      rings.push(ringFrom(at, level, x, y, (px, py) => (passed[py * across + px + 1] = 1)));
    }
  return rings;
}

/** Sides of a cell between four px: the way that a ring leaves it. */
const [TOP, RIGHT, BOTTOM] = [0, 1, 2];

function ringFrom(
  at: (x: number, y: number) => number,
  level: number,
  startX: number,
  startY: number,
  pass: (x: number, y: number) => void,
): Float64Array {
  const points: number[] = [];
  // Cell (x, y) lies between the px (x, y) and (x + 1, y + 1). The first crossing is on the bottom of the cell above the start.
  let [x, y, side] = [startX, startY - 1, BOTTOM];
  do {
    const [a, b, c, d] = [at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)];
    const bits = (a >= level ? 1 : 0) | (b >= level ? 2 : 0) | (c >= level ? 4 : 0) | (d >= level ? 8 : 0);
    const isJoined = (a + b + c + d) / 4 >= level;
    side = leaves(bits, side, isJoined);
    const share = (one: number, two: number) => (level - one) / (two - one);
    // Middles of px lie at half numbers.
    if (side === TOP) points.push(x + 0.5 + share(a, b), y + 0.5);
    else if (side === RIGHT) points.push(x + 1.5, y + 0.5 + share(b, c));
    else if (side === BOTTOM) points.push(x + 0.5 + share(d, c), y + 1.5);
    else points.push(x + 0.5, y + 0.5 + share(a, d));
    if (side === TOP && a < level && b >= level) pass(x, y);
    if (side === TOP) y--;
    else if (side === RIGHT) x++;
    else if (side === BOTTOM) y++;
    else x--;
    // It comes into the next cell by the side across.
    side = (side + 2) % 4;
  } while (x !== startX || y !== startY - 1 || side !== BOTTOM);
  return Float64Array.from(points);
}

/**
 * The side by which a ring leaves a cell that it came into by another. Seen going in, the corner to the left of that side is
 * paper and the one to its right ink; what lies behind them tells where it turns.
 */
function leaves(bits: number, from: number, isJoined: boolean): number {
  const isInk = (corner: number) => ((bits >> (corner % 4)) & 1) === 1;
  const [farLeft, farRight] = [isInk(from + 2), isInk(from + 3)];
  const [toLeft, ahead, toRight] = [(from + 1) % 4, (from + 2) % 4, (from + 3) % 4];
  if (farRight) return farLeft ? toLeft : ahead;
  return farLeft && isJoined ? toLeft : toRight;
}
