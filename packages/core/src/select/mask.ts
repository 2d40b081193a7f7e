import { intersectBoxes, isEmptyBox, uniteBoxes, type Box } from '../math';

/** A selection of pixels: how much of each page px is meant, 0..255, row by row from the px at (x, y). */
export interface Mask {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Pixels as a canvas has them: RGBA, not premultiplied, row by row from the page px at (x, y). */
export interface Pixels {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Half meant and more counts as meant where only yes or no will do. */
const HALF = 128;

export const emptyMask: Mask = { x: 0, y: 0, width: 0, height: 0, data: new Uint8Array(0) };

export const isEmptyMask = ({ width, height }: Mask): boolean => width === 0 || height === 0;

export const maskBox = ({ x, y, width, height }: Omit<Mask, 'data'>): Box => ({
  minX: x,
  minY: y,
  maxX: x + width,
  maxY: y + height,
});

/** The mask over another box of whole px: cut off where the box ends, nothing where the mask did not reach. */
export function maskOver(mask: Mask, { minX, minY, maxX, maxY }: Box): Mask {
  const over = { x: minX, y: minY, width: Math.max(0, maxX - minX), height: Math.max(0, maxY - minY) };
  const data = new Uint8Array(over.width * over.height);
  const both = intersectBoxes(maskBox(mask), maskBox(over));
  if (isEmptyBox(both)) return { ...over, data };
  for (let y = both.minY; y < both.maxY; y++) {
    const from = (y - mask.y) * mask.width - mask.x;
    data.set(mask.data.subarray(from + both.minX, from + both.maxX), (y - over.y) * over.width - over.x + both.minX);
  }
  return { ...over, data };
}

/** The mask without the rows and columns at its edges that mean nothing. */
export function trimMask(mask: Mask): Mask {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let y = 0; y < mask.height; y++)
    for (let x = 0; x < mask.width; x++)
      if (mask.data[y * mask.width + x] > 0) {
        minX = Math.min(minX, x);
        maxX = Math.max(maxX, x + 1);
        minY = Math.min(minY, y);
        maxY = y + 1;
      }
  if (minX > maxX) return emptyMask;
  return maskOver(mask, { minX: mask.x + minX, minY: mask.y + minY, maxX: mask.x + maxX, maxY: mask.y + maxY });
}

/** How a newly found area goes together with what is selected already. */
export type Joining = 'instead' | 'also' | 'less';

export function joinMasks(before: Mask, found: Mask, joining: Joining): Mask {
  if (joining === 'instead' || (isEmptyMask(before) && joining === 'also')) return trimMask(found);
  if (isEmptyMask(before)) return emptyMask;
  const reach = joining === 'less' ? maskBox(before) : uniteBoxes(maskBox(before), maskBox(found));
  const joint = maskOver(before, reach);
  const other = maskOver(found, reach);
  for (let i = 0; i < joint.data.length; i++)
    joint.data[i] =
      joining === 'also' ? Math.max(joint.data[i], other.data[i]) : Math.min(joint.data[i], 255 - other.data[i]);
  return trimMask(joint);
}

/** What of `within` (whole page px) the mask does not mean. */
export function invertMask(mask: Mask, within: Box): Mask {
  const over = maskOver(mask, within);
  for (let i = 0; i < over.data.length; i++) over.data[i] = 255 - over.data[i];
  return trimMask(over);
}

/**
 * Grows a mask by so many px all round, or shrinks it when `by` is negative, within a box of whole page px; what lies beyond
 * the box is not meant. Distances are exact (see `squaredDistances`), edges soft over one px.
 */
export function growMask(mask: Mask, by: number, within: Box): Mask {
  if (isEmptyMask(mask) || by === 0) return mask;
  const margin = Math.ceil(Math.max(0, by)) + 1;
  const wide = {
    minX: mask.x - margin,
    minY: mask.y - margin,
    maxX: mask.x + mask.width + margin,
    maxY: mask.y + mask.height + margin,
  };
  const over = maskOver(mask, by > 0 ? intersectBoxes(wide, within) : wide);
  const squares = squaredDistances(over, by > 0);
  for (let i = 0; i < over.data.length; i++) {
    const gap = Math.sqrt(squares[i]);
    const meant = 255 * Math.min(1, Math.max(0, by > 0 ? by + 1 - gap : gap + by));
    over.data[i] = by > 0 ? Math.max(over.data[i], meant) : Math.min(over.data[i], meant);
  }
  return trimMask(over);
}

/**
 * For each px of the mask the square of the distance to the nearest one that is meant, or that is not; what lies beyond is
 * never looked at. P. F. Felzenszwalb, D. P. Huttenlocher: Distance transforms of sampled functions, Theory of Computing 8
 * (2012): the lower envelope of parabolas, along columns and then along rows.
 */
export function squaredDistances({ width, height, data }: Mask, toMeant: boolean): Float32Array {
  const far = (width + height) ** 2;
  const squares = new Float32Array(width * height);
  for (let i = 0; i < squares.length; i++) squares[i] = data[i] >= HALF === toMeant ? 0 : far;
  const most = Math.max(width, height);
  const line = new Float64Array(most);
  const hulls = { place: new Int32Array(most), edge: new Float64Array(most + 1) };
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) line[y] = squares[y * width + x];
    envelope(line, height, hulls, (y, value) => (squares[y * width + x] = value));
  }
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) line[x] = squares[y * width + x];
    envelope(line, width, hulls, (x, value) => (squares[y * width + x] = value));
  }
  return squares;
}

function envelope(
  line: Float64Array,
  length: number,
  { place, edge }: { readonly place: Int32Array; readonly edge: Float64Array },
  put: (at: number, value: number) => void,
): void {
  const crossing = (q: number, p: number) => (line[q] + q * q - line[p] - p * p) / (2 * (q - p));
  let last = 0;
  place[0] = 0;
  edge[0] = -Infinity;
  edge[1] = Infinity;
  for (let q = 1; q < length; q++) {
    let meet = crossing(q, place[last]);
    while (meet <= edge[last]) meet = crossing(q, place[--last]);
    place[++last] = q;
    edge[last] = meet;
    edge[last + 1] = Infinity;
  }
  for (let q = 0, k = 0; q < length; q++) {
    while (edge[k + 1] < q) k++;
    put(q, (q - place[k]) ** 2 + line[place[k]]);
  }
}

/** What lies in pixels, by how much of each is covered. */
export function maskOfCover({ data, ...place }: Pixels): Mask {
  const meant = new Uint8Array(place.width * place.height);
  for (let i = 0; i < meant.length; i++) meant[i] = data[4 * i + 3];
  return trimMask({ ...place, data: meant });
}

/** All pixels in which anything lies, each of them whole: a shape is taken up with its soft edge. */
export function maskOfShape({ data, ...place }: Pixels): Mask {
  const meant = new Uint8Array(place.width * place.height);
  for (let i = 0; i < meant.length; i++) if (data[4 * i + 3] > 0) meant[i] = 255;
  return trimMask({ ...place, data: meant });
}

/** 8-bit steps by which a px may differ from a colour and still count as having it; its opacity is no matter. */
const LIKENESS = 24;

/** All pixels of the colour that lies at a page px; nothing where none lies. */
export function maskOfColour(pixels: Pixels, x: number, y: number): Mask {
  const like = colourTest(pixels, x, y);
  if (!like) return emptyMask;
  const meant = new Uint8Array(pixels.width * pixels.height);
  for (let i = 0; i < meant.length; i++) if (like(i)) meant[i] = 255;
  return trimMask({ ...pixels, data: meant });
}

/** The pixels of one colour that hang together with the one at a page px, side by side. */
export function maskOfPatch(pixels: Pixels, x: number, y: number): Mask {
  const like = colourTest(pixels, x, y);
  if (!like) return emptyMask;
  const { width, height } = pixels;
  const meant = new Uint8Array(width * height);
  const waiting = [(Math.floor(y) - pixels.y) * width + Math.floor(x) - pixels.x];
  while (waiting.length > 0) {
    const from = waiting.pop() ?? 0;
    if (meant[from] > 0) continue;
    const start = from - (from % width);
    let left = from;
    while (left > start && meant[left - 1] === 0 && like(left - 1)) left--;
    let right = from;
    while (right < start + width - 1 && meant[right + 1] === 0 && like(right + 1)) right++;
    meant.fill(255, left, right + 1);
    for (const row of [start - width, start + width]) {
      if (row < 0 || row >= width * height) continue;
      let isOpen = false;
      for (let i = row + left - start; i <= row + right - start; i++) {
        const isNext = meant[i] === 0 && like(i);
        if (isNext && !isOpen) waiting.push(i);
        isOpen = isNext;
      }
    }
  }
  return trimMask({ ...pixels, data: meant });
}

function colourTest({ x: left, y: top, width, height, data }: Pixels, x: number, y: number) {
  const column = Math.floor(x) - left;
  const row = Math.floor(y) - top;
  if (column < 0 || row < 0 || column >= width || row >= height) return undefined;
  const at = 4 * (row * width + column);
  if (data[at + 3] === 0) return undefined;
  return (i: number): boolean => {
    const alpha = data[4 * i + 3];
    if (alpha === 0) return false;
    // Canvases keep colours times alpha: where little lies they come back rough.
    const most = LIKENESS + 128 / alpha;
    for (let k = 0; k < 3; k++) if (Math.abs(data[4 * i + k] - data[at + k]) > most) return false;
    return true;
  };
}
