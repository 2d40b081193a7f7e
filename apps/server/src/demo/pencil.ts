import { seededRandom, type Point } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import sharp from 'sharp';
import { drift, walked, type Random } from './hand';
import type { Mark, Sketch } from './sketch';

const GRAPHITE = '#3d4148';

/**
 * The sketch as a pencil drawing: several loose passes over every line, running past their ends, over paler construction
 * lines, on paper with a tooth. A PNG of `width` px across; the same seed gives the same drawing.
 */
export async function pencilled(sketch: Sketch, page: PageSize, width: number, seed: number): Promise<Buffer> {
  const random = seededRandom(seed);
  const height = Math.round((page.height * width) / page.width);
  const paths = sketch.marks.flatMap((mark) => passes(mark, random)).join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${page.width} ${page.height}">
    <rect width="100%" height="100%" fill="#fff"/><g fill="none" stroke="${GRAPHITE}" stroke-linecap="round" stroke-linejoin="round">${paths}</g></svg>`;
  const { data } = await sharp(Buffer.from(svg), { unlimited: true })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  grain(data, width, height, random);
  return sharp(data, { raw: { width, height, channels: 1 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
}

function passes(mark: Mark, random: Random): string[] {
  const count = mark.as === 'construction' ? 1 : mark.weight > 0.8 ? 3 : 2;
  const length = mark.points.reduce(
    (sum, p, k) => (k === 0 ? 0 : sum + Math.hypot(p.x - mark.points[k - 1].x, p.y - mark.points[k - 1].y)),
    0,
  );
  return Array.from({ length: count }, (_, pass) => {
    const loose = 1.5 + Math.min(5.5, length * 0.005);
    const way = walked(past(mark.points, mark.as === 'construction' ? 0 : Math.min(46, length * 0.07) * random()), 14);
    const dx = drift(way.length, Math.max(0.6, way.length / 70), random);
    const dy = drift(way.length, Math.max(0.6, way.length / 70), random);
    const shift = { x: (random() - 0.5) * loose * 2, y: (random() - 0.5) * loose * 2 };
    const d = way.map(
      ({ x, y }, k) =>
        `${k ? 'L' : 'M'}${(x + shift.x + dx[k] * loose).toFixed(1)} ${(y + shift.y + dy[k] * loose).toFixed(1)}`,
    );
    const strength = mark.as === 'construction' ? 0.16 : 0.34 + 0.22 * mark.weight + random() * 0.12 - pass * 0.08;
    const thick = mark.as === 'construction' ? 3 : 4.5 + 5 * mark.weight * (0.7 + 0.6 * random());
    return `<path d="${d.join('')}" stroke-width="${thick.toFixed(1)}" stroke-opacity="${strength.toFixed(2)}"/>`;
  });
}

/** Runs a line past both ends, as a loose hand does. */
function past(points: readonly Point[], by: number): Point[] {
  const beyond = (from: Point, to: Point) => {
    const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
    return { x: to.x + ((to.x - from.x) * by) / length, y: to.y + ((to.y - from.y) * by) / length };
  };
  const last = points.length - 1;
  return [beyond(points[1] ?? points[0], points[0]), ...points, beyond(points[last - 1] ?? points[last], points[last])];
}

/** Lets the tooth of the paper break the graphite up: smooth noise at two sizes takes some of the grey away. */
function grain(grey: Buffer, width: number, height: number, random: Random): void {
  const side = 512;
  const tooth = Uint8Array.from({ length: side * side }, () => random() * 256);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (grey[i] === 255) continue;
      const fine = tooth[(y % side) * side + (x % side)];
      const coarse = tooth[((y >> 1) % side) * side + ((x >> 1) % side)];
      const held = 0.62 + (0.38 * (fine + coarse)) / 400;
      grey[i] = Math.min(255, Math.round(255 - (255 - grey[i]) * held));
    }
}
