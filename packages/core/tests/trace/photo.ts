import { applyProjective, type Matrix3x3, type Point } from '../../src/math';
import { homographyBetween, inverseOf, type Quad } from '../../src/select';
import type { InkRaster, Picture } from '../../src/trace';

/** A camera that looks at a sheet on a table. Angles in radians. */
export interface Shot {
  readonly width: number;
  readonly height: number;
  /** The focal length in px. */
  readonly lens: number;
  readonly turn: number;
  readonly tilt: number;
  readonly lean: number;
  /** How far the sheet is away, in its own heights. */
  readonly away: number;
}

/** Where the corners of a sheet so wide for its height fall in a picture: a pinhole that looks at its middle (Hartley & Zisserman 2004, §6.1). */
export function cornersIn({ width, height, lens, turn, tilt, lean, away }: Shot, proportion: number): Quad {
  const [ct, st, cx, sx, cy, sy] = [Math.cos(turn), Math.sin(turn), Math.cos(tilt), Math.sin(tilt), Math.cos(lean), Math.sin(lean)];
  const seen = (x: number, y: number): Point => {
    const [a, b] = [ct * x - st * y, st * x + ct * y];
    const [c, d] = [cx * b, sx * b];
    const [e, f] = [cy * a + sy * d, -sy * a + cy * d];
    const depth = away + f;
    return { x: width / 2 + (lens * e) / depth, y: height / 2 + (lens * c) / depth };
  };
  const w = proportion / 2;
  return [seen(-w, -0.5), seen(w, -0.5), seen(w, 0.5), seen(-w, 0.5)];
}

/** A photo of a sheet with ink on it: on a wooden table, with a shadow across both, grain, and light that falls off. */
export function photoOf(sheet: InkRaster, corners: Quad, { width, height, seed = 5 }: { readonly width: number; readonly height: number; readonly seed?: number }): Picture {
  const back: Matrix3x3 = inverseOf(
    homographyBetween(
      [
        { x: 0, y: 0 },
        { x: sheet.width, y: 0 },
        { x: sheet.width, y: sheet.height },
        { x: 0, y: sheet.height },
      ],
      corners,
    ),
  );
  let state = seed >>> 0;
  const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      // Four looks at each px, or the edge of the sheet would step.
      let color = [0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const [px, py] = [x + 0.25 + 0.5 * (k & 1), y + 0.25 + 0.5 * (k >> 1)];
        const at = applyProjective(back, px, py);
        const isOn = at.x >= 0 && at.y >= 0 && at.x < sheet.width && at.y < sheet.height;
        const own = isOn ? paperAt(sheet, at) : woodAt(px, py, height);
        color = color.map((value, c) => value + own[c] / 4);
      }
      const light = lightAt(x / width, y / height);
      const grain = 5 * (random() + random() - 1);
      for (let c = 0; c < 3; c++) data[i + c] = color[c] * light + grain;
      data[i + 3] = 255;
    }
  return { width, height, data };
}

function paperAt({ width, ink }: InkRaster, { x, y }: Point): number[] {
  const white = 1 - 0.92 * (ink[Math.floor(y) * width + Math.floor(x)] / 255);
  return [243 * white, 238 * white, 225 * white];
}

function woodAt(x: number, y: number, height: number): number[] {
  const ring = Math.sin(0.05 * y + 1.4 * Math.sin(0.004 * x + 0.002 * y) + 0.02 * x) + 0.4 * Math.sin(0.31 * y + 0.01 * x);
  const plank = Math.floor((6 * y) / height) % 2;
  const by = 1 + 0.09 * ring - 0.08 * plank;
  return [146 * by, 104 * by, 66 * by];
}

/** The lamp stands to the upper left, and something tall throws a soft shadow over the lower right. */
function lightAt(x: number, y: number): number {
  const lamp = 1.02 - 0.22 * Math.hypot(x - 0.2, y - 0.1);
  const edge = 1 / (1 + Math.exp(-(x + 0.6 * y - 1.02) * 38));
  return lamp * (1 - 0.42 * edge);
}
