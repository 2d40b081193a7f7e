import { applyProjective, seededRandom, type Point } from '@true-nib/core/math';
import type { Corners } from '@true-nib/core/page';
import { homographyBetween } from '@true-nib/core/select';
import type { Picture } from '@true-nib/core/trace';

/** A camera that looks at a sheet on a table. Angles in radians. */
export interface Shot {
  readonly width: number;
  readonly height: number;
  /** The focal length, px. */
  readonly lens: number;
  /** How the sheet lies on the table, and how the camera leans over it. */
  readonly turn: number;
  readonly tilt: number;
  readonly lean: number;
  /** How far the sheet is away, in its own heights. */
  readonly away: number;
}

/**
 * Where the corners of a sheet so wide for its height fall in a picture, from the upper left one clockwise: a pinhole that
 * looks at its middle (Hartley & Zisserman, "Multiple View Geometry", 2004, §6.1).
 */
export function cornersInShot({ width, height, lens, turn, tilt, lean, away }: Shot, proportion: number): Corners {
  const [ct, st, cx, sx] = [Math.cos(turn), Math.sin(turn), Math.cos(tilt), Math.sin(tilt)];
  const [cy, sy] = [Math.cos(lean), Math.sin(lean)];
  const seen = (x: number, y: number): Point => {
    const [a, b] = [ct * x - st * y, st * x + ct * y];
    const [c, d] = [cx * b, sx * b];
    const depth = away - sy * a + cy * d;
    return { x: width / 2 + (lens * (cy * a + sy * d)) / depth, y: height / 2 + (lens * c) / depth };
  };
  const w = proportion / 2;
  return [seen(-w, -0.5), seen(w, -0.5), seen(w, 0.5), seen(-w, 0.5)];
}

/** A photo of a sheet, on a wooden table with a shadow across it: light that falls off, and grain. The same seed gives the same photo. */
export function paperPhoto(
  sheet: Picture,
  corners: Corners,
  { width, height }: Pick<Shot, 'width' | 'height'>,
  seed: number,
): Picture {
  const onSheet = homographyBetween(corners, [
    { x: 0, y: 0 },
    { x: sheet.width, y: 0 },
    { x: sheet.width, y: sheet.height },
    { x: 0, y: sheet.height },
  ]);
  const random = seededRandom(seed);
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const [light, grain] = [lightAt(x / width, y / height) / LOOKS, 6 * (random() - random())];
      let [r, g, b] = [grain, grain, grain];
      // Some looks at each px, or the edge of the sheet would step.
      for (let k = 0; k < LOOKS; k++) {
        const [px, py] = [x + 0.25 + 0.5 * (k & 1), y + 0.25 + 0.5 * (k >> 1)];
        const at = applyProjective(onSheet, px, py);
        const isOn = at.x >= 0 && at.y >= 0 && at.x < sheet.width && at.y < sheet.height;
        const [red, green, blue] = isOn ? paperAt(sheet, at) : woodAt(px, py, height);
        r += red * light;
        g += green * light;
        b += blue * light;
      }
      data[i] = r;
      data[i + 1] = g;
      data[i + 2] = b;
      data[i + 3] = 255;
    }
  return { width, height, data };
}

const LOOKS = 4;

/** Cream paper under what is drawn on it. */
function paperAt({ width, data }: Picture, { x, y }: Point): readonly [number, number, number] {
  const i = 4 * (Math.floor(y) * width + Math.floor(x));
  return [12 + 0.91 * data[i], 12 + 0.89 * data[i + 1], 12 + 0.84 * data[i + 2]];
}

function woodAt(x: number, y: number, height: number): readonly [number, number, number] {
  const ring =
    Math.sin(0.05 * y + 1.4 * Math.sin(0.004 * x + 0.002 * y) + 0.02 * x) + 0.4 * Math.sin(0.31 * y + 0.01 * x);
  const by = 1 + 0.09 * ring - 0.08 * (Math.floor((6 * y) / height) % 2);
  return [146 * by, 104 * by, 66 * by];
}

/** The lamp stands to the upper left, and something tall throws a soft shadow over the lower right. */
function lightAt(x: number, y: number): number {
  const lamp = 1.02 - 0.22 * Math.hypot(x - 0.2, y - 0.1);
  return lamp * (1 - 0.42 / (1 + Math.exp(-(x + 0.6 * y - 1.02) * 38)));
}
