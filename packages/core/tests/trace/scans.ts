import sharp from 'sharp';
import { evenLight, inkOf, type InkRaster, type Picture } from '../../src/trace';

/** A grey picture as one with colours. */
export function pictureOf({ width, height, ink }: InkRaster): Picture {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let k = 0; k < ink.length; k++) data.fill(255 - ink[k], 4 * k, 4 * k + 3);
  for (let i = 3; i < data.length; i += 4) data[i] = 255;
  return { width, height, data };
}

/** Ink as it is taken off a scan: the light evened, grain taken out. */
export const takenFrom = (raster: InkRaster): InkRaster =>
  inkOf(evenLight(pictureOf(raster), { evened: true, drop: [] }));

/** A drawing in SVG as ink. */
export async function inkFrom(inside: string, width: number, height: number): Promise<InkRaster> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#fff"/>${inside}</svg>`;
  const { data } = await sharp(Buffer.from(svg)).removeAlpha().greyscale().raw().toBuffer({ resolveWithObject: true });
  return { width, height, ink: Uint8Array.from(data, (grey) => 255 - grey) };
}
