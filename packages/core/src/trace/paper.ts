import type { Matrix3x3, Point } from '../math';
import { homographyBetween, inverseOf, type Quad } from '../select';

/** Colours px by px, row by row: red, green, blue and opacity, 0..255. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Sheets whose proportion is known: long side to short side. A-sizes by ISO 216, Letter by ANSI Y14.1. */
export const SHEETS = [
  { name: 'A-size', ratio: Math.SQRT2 },
  { name: 'Letter', ratio: 11 / 8.5 },
] as const;

/** How far a proportion that was measured may lie from a known one to be taken for it, as a share. */
const ALIKE = 0.03;
/** Px that a side of a flat sheet may have. */
const MOST_SIDE = 10_000;
/** The focal length of a camera that cannot be told from the corners, in long sides of its picture. */
const USUAL_LENS = 1;

/** A sheet laid flat: its size in px, and which it is, if that is known. */
export interface FlatSheet {
  readonly width: number;
  readonly height: number;
  readonly name?: (typeof SHEETS)[number]['name'];
}

/** The share of the long side of a sheet at whose edge the table shows through. */
const RIM = 0.002;

const UNIT: Quad = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/**
 * How wide a sheet is for its height whose corners lie so in a picture, from its upper left one clockwise. The picture of its
 * two directions gives the lens, and with that their lengths (Zhang & He, "Whiteboard scanning and image enhancement", 2007,
 * §3); the lens looks at the middle of the picture. Throws a PageError for corners that fold.
 */
export function sheetProportion(corners: Quad, picture: { readonly width: number; readonly height: number }): number {
  const middle = { x: picture.width / 2, y: picture.height / 2 };
  const about = corners.map(({ x, y }) => ({ x: x - middle.x, y: y - middle.y }));
  const [a, b, c, d] = about;
  const [ux, vx, , uy, vy, , uz, vz] = homographyBetween(UNIT, [a, b, c, d]);
  const side = Math.max(picture.width, picture.height);
  const usual = (USUAL_LENS * side) ** 2;
  const told = -(ux * vx + uy * vy) / (uz * vz);
  // A sheet seen straight on, or turned about one axis alone, tells nothing of the lens.
  const isTold = Number.isFinite(told) && told > 0.16 * side * side && told < 25 * side * side;
  const lens = isTold ? told : usual;
  return Math.sqrt(((ux * ux + uy * uy) / lens + uz * uz) / ((vx * vx + vy * vy) / lens + vz * vz));
}

/** The size of the sheet between four corners, as many px long as the picture has of its longest side; a known proportion is made exact. */
export function flatSheet(corners: Quad, picture: { readonly width: number; readonly height: number }): FlatSheet {
  const proportion = sheetProportion(corners, picture);
  const ratio = Math.max(proportion, 1 / proportion);
  const known = SHEETS.map((sheet) => ({ sheet, off: Math.abs(ratio / sheet.ratio - 1) })).sort(
    (p, q) => p.off - q.off,
  )[0];
  const exact = known.off <= ALIKE ? known.sheet : undefined;
  const sides = corners.map((corner, k) =>
    Math.hypot(corner.x - corners[(k + 1) % 4].x, corner.y - corners[(k + 1) % 4].y),
  );
  const long = Math.min(MOST_SIDE, Math.max(1, Math.round(Math.max(...sides))));
  const short = Math.max(1, Math.round(long / (exact?.ratio ?? ratio)));
  const size = proportion >= 1 ? { width: long, height: short } : { width: short, height: long };
  return { ...size, ...(exact && { name: exact.name }) };
}

/** The corners after quarter turns to the right: the sheet is read from another of them. */
export function turnedSheet(corners: Quad, quarters: number): Quad {
  const at = (k: number): Point => corners[(((k - quarters) % 4) + 4) % 4];
  return [at(0), at(1), at(2), at(3)];
}

/**
 * What lies between four corners of a picture as a flat sheet, mixed of the four px around each place (bilinear). The very
 * edge, where the table shows through, is as the sheet beside it.
 */
export function straighten(
  picture: Picture,
  corners: Quad,
  { width, height }: { readonly width: number; readonly height: number } = flatSheet(corners, picture),
): Picture {
  const map = inverseOf(
    homographyBetween(corners, [
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: width, y: height },
      { x: 0, y: height },
    ]),
  );
  const data = new Uint8ClampedArray(4 * width * height);
  const rim = Math.min(Math.ceil(RIM * Math.max(width, height)), (width - 1) >> 1, (height - 1) >> 1);
  for (let y = rim; y < height - rim; y++)
    straightRow(picture, map, y, data.subarray(4 * y * width, 4 * (y + 1) * width));
  // The rim goes on as the sheet does beside it.
  const px = new Uint32Array(data.buffer);
  for (let y = rim; y < height - rim; y++) {
    const row = y * width;
    px.fill(px[row + rim], row, row + rim);
    px.fill(px[row + width - 1 - rim], row + width - rim, row + width);
  }
  for (let y = 0; y < rim; y++) {
    px.copyWithin(y * width, rim * width, (rim + 1) * width);
    px.copyWithin((height - 1 - y) * width, (height - 1 - rim) * width, (height - rim) * width);
  }
  return { width, height, data };
}

/** Writes a row of a flat sheet; `m` takes its px to the picture. */
function straightRow({ width, height, data }: Picture, m: Matrix3x3, y: number, target: Uint8ClampedArray): void {
  let px = m[0] * 0.5 + m[1] * (y + 0.5) + m[2];
  let py = m[3] * 0.5 + m[4] * (y + 0.5) + m[5];
  let depth = m[6] * 0.5 + m[7] * (y + 0.5) + m[8];
  for (let to = 0; to < target.length; to += 4, px += m[0], py += m[3], depth += m[6]) {
    const [u, v] = [px / depth - 0.5, py / depth - 0.5];
    if (!(u > -1 && v > -1 && u < width && v < height)) {
      target.fill(255, to, to + 4);
      continue;
    }
    const [left, top] = [Math.max(0, Math.floor(u)), Math.max(0, Math.floor(v))];
    const [s, t] = [Math.max(0, u - left), Math.max(0, v - top)];
    const i = 4 * (top * width + left);
    const right = left + 1 < width ? 4 : 0;
    const below = top + 1 < height ? 4 * width : 0;
    for (let k = 0; k < 3; k++) {
      const above = data[i + k] + s * (data[i + right + k] - data[i + k]);
      const under = data[i + below + k] + s * (data[i + below + right + k] - data[i + below + k]);
      target[to + k] = above + t * (under - above);
    }
    target[to + 3] = 255;
  }
}
