import sharp from 'sharp';
import { drawStroke, outlineOf } from '@true-nib/core/ink';
import { box, boxesMeet, boxOfFlat, growBox, seededRandom, type Box } from '@true-nib/core/math';
import {
  basinsAfter,
  basinsOf,
  exactWidths,
  inkMap,
  regionCount,
  regionsAt,
  type Coverage,
  type RingsNear,
} from '@true-nib/core/regions';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import type { Stroke } from '@true-nib/core/stroke';
import { middle, report, type Row } from './timing';

const [WIDTH, HEIGHT] = [4000, 6000];
/** Px that the app looks for regions in at most. */
const SCALE = Math.sqrt(16e6 / (WIDTH * HEIGHT));
const { nib } = SHIPPED_NIBS[1];

const timed = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
function done<T>(work: Generator<number, T>): T {
  for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
}

/** Bows all over a page, as a page of a comic has them: one in forty is long. */
function bows(count: number, width = WIDTH, height = HEIGHT, seed = 5): Stroke[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, k) => {
    const size = k % 40 === 0 ? 1400 : 60 + 160 * random();
    const [x, y, way, bow] = [width * random(), height * random(), 6.28 * random(), random() - 0.5];
    const samples = Array.from({ length: 40 }, (__, n) => {
      const t = n / 39;
      const side = bow * size * Math.sin(Math.PI * t) * 0.5;
      return {
        x: x + size * t * Math.cos(way) - side * Math.sin(way),
        y: y + size * t * Math.sin(way) + side * Math.cos(way),
        pressure: 0.4 + 0.3 * Math.sin(4 * t),
        time: 8 * n,
      };
    });
    return drawStroke(samples, nib, { way: 'even', strength: 20 });
  });
}

const ringsOf = (stroke: Stroke) => outlineOf(stroke, 0.05).rings;

/** The ink of lines as the app's worker has it, by librsvg. */
async function coverageOf(strokes: readonly Stroke[]): Promise<Coverage> {
  const [width, height] = [Math.round(WIDTH * SCALE), Math.round(HEIGHT * SCALE)];
  const d = strokes
    .map((stroke) =>
      ringsOf(stroke)
        .map((ring) => `M${Array.from(ring, (v) => v.toFixed(1)).join(' ')}Z`)
        .join(''),
    )
    .map((path) => `<path d="${path}"/>`);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${WIDTH} ${HEIGHT}">${d.join('')}</svg>`;
  const { data } = await sharp(Buffer.from(svg), { unlimited: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const ink = new Uint8Array(width * height);
  for (let i = 0; i < ink.length; i++) ink[i] = data[4 * i + 3];
  return { width, height, ink, scale: SCALE, x: 0, y: 0 };
}

/** Rings near a box, by cells of 200 page px. */
function nearby(strokes: readonly Stroke[]): RingsNear {
  const cells = new Map<string, Float64Array[]>();
  const over = ({ minX, minY, maxX, maxY }: Box, visit: (cell: string) => void) => {
    for (let y = Math.floor(minY / 200); y <= maxY / 200; y++)
      for (let x = Math.floor(minX / 200); x <= maxX / 200; x++) visit(`${x} ${y}`);
  };
  for (const ring of strokes.flatMap(ringsOf))
    over(boxOfFlat(ring, 2), (cell) => cells.set(cell, [...(cells.get(cell) ?? []), ring]));
  return (near) => {
    const found = new Set<Float64Array>();
    over(near, (cell) => cells.get(cell)?.forEach((ring) => boxesMeet(boxOfFlat(ring, 2), near) && found.add(ring)));
    return [...found];
  };
}

/** Every open px given a number by filling from it, row by row, with four neighbours: what a bucket of paint does. */
function plainFlood({ width, height, ink }: Coverage): number {
  const labels = new Int32Array(width * height);
  const stack: number[] = [];
  let count = 0;
  for (let start = 0; start < labels.length; start++) {
    if (ink[start] >= 64 || labels[start] !== 0) continue;
    count++;
    stack.push(start);
    for (let from = stack.pop(); from !== undefined; from = stack.pop()) {
      if (labels[from] !== 0) continue;
      const row = from - (from % width);
      let [a, b] = [from, from];
      while (a > row && ink[a - 1] < 64 && labels[a - 1] === 0) a--;
      while (b < row + width - 1 && ink[b + 1] < 64 && labels[b + 1] === 0) b++;
      labels.fill(count, a, b + 1);
      for (const step of [-width, width]) {
        let isRun = false;
        for (let i = a + step; i <= b + step; i++) {
          const isOpen = i >= 0 && i < labels.length && ink[i] < 64 && labels[i] === 0;
          if (isOpen && !isRun) stack.push(i);
          isRun = isOpen;
        }
      }
    }
  }
  return count;
}

const rows: Row[] = [];
for (const [count, most] of [
  [2_000, 8],
  [20_000, 25],
] as const) {
  const strokes = bows(count);
  const coverage = await coverageOf(strokes);
  const exact = exactWidths(coverage, nearby(strokes));
  plainFlood(coverage);
  const flood = middle([0, 1, 2].map(() => timed(() => plainFlood(coverage))));
  let basins = done(basinsOf(coverage, exact));
  const first = middle([0, 1, 2].map(() => timed(() => (basins = done(basinsOf(coverage, exact))))));
  const what = `${count.toLocaleString('en-GB')} strokes`;
  rows.push({ what: `regions, ${what}`, ours: first, other: flood, against: 'a plain flood', most });
  let regions = 0;
  const slider = middle([4, 9, 14, 19, 24].map((gap) => timed(() => (regions = regionCount(regionsAt(basins, gap))))));
  rows.push({ what: `the gap slider, ${what}`, ours: slider, other: first, against: 'the first time', most: 1 / 10 });
  // A stroke more: as long as most.
  const more = bows(9, WIDTH, HEIGHT, 77).slice(1);
  const after = middle(
    more.map((stroke) => {
      const at = growBox(boxOfFlat(ringsOf(stroke)[0], 2), 1);
      const px = box(at.minX * SCALE, at.minY * SCALE, at.maxX * SCALE, at.maxY * SCALE);
      // Its middle is enough: what is measured is what follows from a change there.
      const { points } = stroke.spine;
      for (let k = 0; k < points.length; k += 3) {
        const [x, y] = [Math.round(points[k] * SCALE), Math.round(points[k + 1] * SCALE)];
        if (x > 3 && y > 3 && x < coverage.width - 3 && y < coverage.height - 3)
          for (let row = -3; row <= 3; row++)
            coverage.ink.fill(255, (y + row) * coverage.width + x - 3, (y + row) * coverage.width + x + 4);
      }
      return timed(() => (basins = done(basinsAfter(basins, [px], exact))));
    }),
  );
  rows.push({ what: `after one stroke, ${what}`, ours: after, other: first, against: 'the first time', most: 1 / 20 });
  const { arrayBuffers, heapUsed } = process.memoryUsage();
  const megabytes = Math.round((arrayBuffers + heapUsed) / 1e6);
  console.log(
    `${what}: ${regions.toLocaleString('en-GB')} regions, ${basins.openings.length} openings, ${megabytes} MB with the lines themselves`,
  );
}
const loop = bows(500, 1_600, 1_600);
let pieces = 0;
const map = middle([0, 1, 2].map(() => timed(() => (pieces = inkMap(loop).length))));
rows.push({ what: `ink map of 500 strokes, ${pieces} pieces`, ours: map, other: 1_000, against: 'a second', most: 1 });
if (!report(rows)) process.exitCode = 1;
