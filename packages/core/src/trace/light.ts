import type { Hue, LightSettings } from '../page';
import type { Picture } from './paper';
import type { InkRaster } from './types';

/** The middle of each colour on its wheel and how far it reaches to either side, degrees. */
const SECTORS: Readonly<Record<Hue, readonly [middle: number, reach: number]>> = {
  blue: [220, 55],
  red: [355, 40],
  green: [120, 50],
};
/** Parts of the long side that the paper's light is looked at in. */
const TILES = 80;
/** The share of px of a tile that are darker than its paper. */
const PAPER = 0.75;
/** A tile that is darker than this share of the paper around it is black: no shadow is so deep. */
const DARK = 0.33;
/** Chroma from which a px has a colour, of 255. */
const COLOURED = 22;

/**
 * The picture with its paper white all over: each colour is divided by that of the paper there, which is the brightest quarter
 * of every small tile, carried over tiles that are black. Then colours that are to go are made as light as their lightest part.
 * The picture itself is not changed.
 */
export function evenLight(picture: Picture, { evened, drop }: LightSettings): Picture {
  const data = Uint8ClampedArray.from(picture.data);
  const result = { ...picture, data };
  onWhite(data);
  if (evened) divide(result, paperOf(result));
  if (drop.length > 0) dropHues(data, drop);
  return result;
}

function onWhite(data: Uint8ClampedArray): void {
  for (let i = 3; i < data.length; i += 4) {
    if (data[i] === 255) continue;
    const share = data[i] / 255;
    for (let k = 1; k <= 3; k++) data[i - k] = 255 - share * (255 - data[i - k]);
    data[i] = 255;
  }
}

/** What the paper looks like, tile by tile: red, green, blue. */
interface Paper {
  readonly side: number;
  readonly across: number;
  readonly down: number;
  readonly colors: Float64Array;
}

function paperOf({ width, height, data }: Picture): Paper {
  const side = Math.max(8, Math.ceil(Math.max(width, height) / TILES));
  const [across, down] = [Math.ceil(width / side), Math.ceil(height / side)];
  const colors = new Float64Array(3 * across * down);
  const counts = new Uint32Array(3 * 256);
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      counts.fill(0);
      let seen = 0;
      for (let y = row * side; y < Math.min(height, (row + 1) * side); y += 2)
        for (
          let x = column * side, i = 4 * (y * width + x);
          x < Math.min(width, (column + 1) * side);
          x += 2, i += 8, seen++
        )
          for (let k = 0; k < 3; k++) counts[256 * k + data[i + k]]++;
      for (let k = 0; k < 3; k++) {
        let [value, below] = [0, 0];
        while (value < 255 && (below += counts[256 * k + value]) < PAPER * seen) value++;
        colors[3 * (row * across + column) + k] = value;
      }
    }
  fillDark(colors, across, down);
  return { side, across, down, colors };
}

/** Gives tiles that are black the paper of those around them. */
function fillDark(colors: Float64Array, across: number, down: number): void {
  const light = (tile: number) => colors[3 * tile] + colors[3 * tile + 1] + colors[3 * tile + 2];
  // A black may be large: what is bright is looked for far around.
  const reach = Math.ceil(Math.max(across, down) / 4);
  const isDark = new Uint8Array(across * down);
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      let brightest = 0;
      for (let y = Math.max(0, row - reach); y <= Math.min(down - 1, row + reach); y++)
        for (let x = Math.max(0, column - reach); x <= Math.min(across - 1, column + reach); x++)
          brightest = Math.max(brightest, light(y * across + x));
      if (light(row * across + column) < DARK * brightest) isDark[row * across + column] = 1;
    }
  // From the edge of a black inwards, each tile the mean of its neighbours that are known.
  for (let left = isDark.reduce((sum, dark) => sum + dark, 0); left > 0;) {
    const filled: { readonly tile: number; readonly color: readonly number[] }[] = [];
    for (let row = 0; row < down; row++)
      for (let column = 0; column < across; column++) {
        const tile = row * across + column;
        if (!isDark[tile]) continue;
        const sum = [0, 0, 0, 0];
        for (let y = Math.max(0, row - 1); y <= Math.min(down - 1, row + 1); y++)
          for (let x = Math.max(0, column - 1); x <= Math.min(across - 1, column + 1); x++)
            if (!isDark[y * across + x]) {
              for (let k = 0; k < 3; k++) sum[k] += colors[3 * (y * across + x) + k];
              sum[3]++;
            }
        if (sum[3] > 0) filled.push({ tile, color: sum.slice(0, 3).map((value) => value / sum[3]) });
      }
    if (filled.length === 0) return;
    for (const { tile, color } of filled) {
      isDark[tile] = 0;
      color.forEach((value, k) => (colors[3 * tile + k] = value));
    }
    left -= filled.length;
  }
}

/** Divides each px by the paper there, mixed of the tiles around it. */
function divide({ width, height, data }: Picture, { side, across, down, colors }: Paper): void {
  const near = (at: number, count: number): readonly [number, number, number] => {
    const place = Math.min(count - 1, Math.max(0, (at + 0.5) / side - 0.5));
    const low = Math.floor(place);
    return [low, Math.min(count - 1, low + 1), place - low];
  };
  const columns = Array.from({ length: width }, (_, x) => near(x, across));
  for (let y = 0, i = 0; y < height; y++) {
    const [top, under, t] = near(y, down);
    for (let x = 0; x < width; x++, i += 4) {
      const [left, right, s] = columns[x];
      const [a, b, c, d] = [
        3 * (top * across + left),
        3 * (top * across + right),
        3 * (under * across + left),
        3 * (under * across + right),
      ];
      for (let k = 0; k < 3; k++) {
        const above = colors[a + k] + s * (colors[b + k] - colors[a + k]);
        const below = colors[c + k] + s * (colors[d + k] - colors[c + k]);
        data[i + k] = (255 * data[i + k]) / Math.max(16, above + t * (below - above));
      }
    }
  }
}

function dropHues(data: Uint8ClampedArray, drop: readonly Hue[]): void {
  for (let i = 0; i < data.length; i += 4) {
    const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
    const [most, least] = [Math.max(r, g, b), Math.min(r, g, b)];
    const chroma = most - least;
    if (chroma < COLOURED) continue;
    // The angle on the wheel of colours, degrees (the hexagon of HSV, Smith 1978).
    const hue =
      most === r ? 60 * ((g - b) / chroma) : most === g ? 120 + (60 * (b - r)) / chroma : 240 + (60 * (r - g)) / chroma;
    const goes = drop.some((name) => {
      const [middle, reach] = SECTORS[name];
      return Math.abs(((hue - middle + 540) % 360) - 180) <= reach;
    });
    // What is dark besides is ink over the pencil, and stays as dark as its lightest part.
    if (goes) data.fill(most, i, i + 3);
  }
}

/** Darkness from which a px says how dark ink is, of 255, and the share of such px that are lighter than full ink. */
const SOME_INK = 70;
const FULL = 0.8;
/** Pencil is made darker by so much at most. */
const MOST_GAIN = 2.2;
/** Grain of paper or camera from which it is evened out before ink is measured, of 255. */
const GRAIN = 2.5;

/** How dark a picture is, px by px; the ink of it is made full where it is grey, and grain evened out. */
export function inkOf({ width, height, data }: Picture): InkRaster {
  const ink = new Uint8Array(width * height);
  const counts = new Uint32Array(256);
  for (let i = 0, k = 0; k < ink.length; i += 4, k++) {
    const share = data[i + 3] / 255;
    // Luma by ITU-R BT.601.
    const dark = 255 - (0.299 * data[i] + 0.587 * data[i + 1] + 0.114 * data[i + 2]);
    ink[k] = Math.round(share * dark);
    counts[ink[k]]++;
  }
  const raster = { width, height, ink };
  const even = grainOf(raster) > GRAIN ? softened(raster) : raster;
  let all = 0;
  for (let value = SOME_INK; value < 256; value++) all += counts[value];
  let [full, seen] = [SOME_INK, 0];
  while (full < 255 && (seen += counts[full]) < FULL * all) full++;
  const gain = all > 0 ? Math.min(MOST_GAIN, 255 / full) : 1;
  if (gain > 1.02)
    for (let k = 0; k < even.ink.length; k++) even.ink[k] = Math.min(255, Math.round(gain * even.ink[k]));
  return even;
}

/**
 * The standard deviation of the grain, of 255: the mean size of what a filter answers that neither planes nor edges move
 * (Immerkær, "Fast noise variance estimation", 1996), over px of paper.
 */
export function grainOf({ width, height, ink }: InkRaster): number {
  let [sum, count] = [0, 0];
  for (let y = 1; y < height - 1; y += 3)
    for (let x = 1, i = y * width + 1; x < width - 1; x += 3, i += 3) {
      if (ink[i] > 60) continue;
      const a = ink[i - width - 1] + ink[i - width + 1] + ink[i + width - 1] + ink[i + width + 1];
      const b = ink[i - 1] + ink[i + 1] + ink[i - width] + ink[i + width];
      const answer = Math.abs(a - 2 * b + 4 * ink[i]);
      // The edge of a line beside it is no grain.
      if (answer > 120) continue;
      sum += answer;
      count++;
    }
  return count > 0 ? (Math.sqrt(Math.PI / 2) * sum) / (6 * count) : 0;
}

/** Each px as the mean of itself and the eight around it, 1 2 1 each way. */
function softened({ width, height, ink }: InkRaster): InkRaster {
  const across = new Uint8Array(ink.length);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      across[i] = (ink[x > 0 ? i - 1 : i] + 2 * ink[i] + ink[x + 1 < width ? i + 1 : i] + 2) >> 2;
  const result = new Uint8Array(ink.length);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      result[i] = (across[y > 0 ? i - width : i] + 2 * across[i] + across[y + 1 < height ? i + width : i] + 2) >> 2;
  return { width, height, ink: result };
}
