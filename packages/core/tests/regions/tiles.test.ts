import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { boxOfPoints, distance, growBox, seededRandom, type Box } from '../../src/math';
import {
  basinsAfter,
  basinsOf,
  leaksOf,
  regionCount,
  regionsAt,
  regionsOf,
  type Coverage,
  type RegionMap,
} from '../../src/regions';

const done = <T>(work: Generator<number, T>): T => {
  for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
};

describe('regions that are found tile by tile', () => {
  /** A raster with thick lines across it, drawn by a seed. */
  function scene(seed: number): { readonly coverage: Coverage; readonly draw: (lays: number) => Box } {
    const random = seededRandom(seed);
    const [width, height] = [160 + Math.floor(120 * random()), 150 + Math.floor(120 * random())];
    const ink = new Uint8Array(width * height);
    const draw = (lays: number): Box => {
      const [x, y, r] = [width * random(), height * random(), 1 + 3 * random()];
      const [u, v] = [x + (random() - 0.5) * width, y + (random() - 0.5) * height];
      const steps = Math.ceil(2 * Math.hypot(u - x, v - y)) + 1;
      for (let k = 0; k <= steps; k++) {
        const [cx, cy] = [x + ((u - x) * k) / steps, y + ((v - y) * k) / steps];
        for (let row = Math.max(0, Math.floor(cy - r)); row <= Math.min(height - 1, cy + r); row++)
          for (let column = Math.max(0, Math.floor(cx - r)); column <= Math.min(width - 1, cx + r); column++)
            if ((column - cx) ** 2 + (row - cy) ** 2 <= r * r) ink[row * width + column] = lays;
      }
      return growBox(
        boxOfPoints([
          { x, y },
          { x: u, y: v },
        ]),
        r + 1,
      );
    };
    for (let k = 0; k < 14; k++) draw(255);
    return { coverage: { width, height, ink, scale: 1, x: 0, y: 0 }, draw };
  }
  /** The region of each px, numbered in the order in which they come. */
  function numbered(map: RegionMap): string {
    const names = new Map<number, number>([[0, 0]]);
    const all = Array.from(map.basins.labels, (label) => {
      const region = map.regionOf[label];
      const name = names.get(region) ?? names.size;
      names.set(region, name);
      return name;
    });
    return all.join(' ');
  }

  it('are as many, with the same openings between them, as those that are found as a whole', () => {
    for (let seed = 1; seed <= 25; seed++) {
      const { coverage } = scene(seed);
      const [whole, tiled] = [4096, 48].map((side) => done(basinsOf(coverage, undefined, side)));
      for (const gap of [4, 10, 20]) {
        const [one, other] = [whole, tiled].map((basins) => regionsAt(basins, gap));
        expect(regionCount(other)).toBe(regionCount(one));
        // Along a corridor the place that is named may be another, and where hardly a px is open a corner may count twice.
        const [lone, ltwo] = [one, other].map((map) => leaksOf(map, 0).filter(({ width }) => width > 4));
        for (const [from, to] of [
          [lone, ltwo],
          [ltwo, lone],
        ])
          for (const leak of from) expect(to.some((near) => distance(near, leak) < 20)).toBe(true);
      }
    }
  });

  it('after lines have come and gone are px for px those that are found anew', () => {
    for (let seed = 1; seed <= 8; seed++) {
      const { coverage, draw } = scene(seed);
      let basins = done(basinsOf(coverage, undefined, 48));
      for (const lays of [255, 0, 255, 0]) {
        basins = done(basinsAfter(basins, [draw(lays), draw(lays)]));
        const anew = done(basinsOf({ ...coverage, ink: coverage.ink.slice() }, undefined, 48));
        expect(numbered(regionsAt(basins, 10))).toBe(numbered(regionsAt(anew, 10)));
        expect(basins.openings.map(({ width }) => width).sort()).toEqual(
          anew.openings.map(({ width }) => width).sort(),
        );
      }
    }
    const { coverage } = scene(3);
    const basins = done(basinsOf(coverage));
    expect(done(basinsAfter(basins, [{ minX: -90, minY: -90, maxX: -50, maxY: -50 }]))).toBe(basins);
  });
});

describe('regions of line drawings', () => {
  // Source of the drawings: the icons of lucide-static 1.62, lines of a twelfth of their side.
  const folder = join(dirname(require.resolve('lucide-static/package.json')), 'icons');
  const icons = readdirSync(folder).filter((name, k) => name.endsWith('.svg') && k % 60 === 0);

  it('are all that a plain flood finds: none is lost, none is of two, and hardly one is parted', async () => {
    let [whole, parted] = [0, 0];
    for (const icon of icons) {
      const svg = readFileSync(join(folder, icon));
      const { data, info } = await sharp(svg, { density: 720 })
        .resize(200, 200)
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const ink = Uint8Array.from({ length: info.width * info.height }, (_, k) => data[4 * k + 3]);
      const coverage = { width: info.width, height: info.height, ink, scale: 1, x: 0, y: 0 };
      const flooded = floodOf(coverage);
      // A gap of a third of the lines' width.
      const { basins, regionOf } = regionsOf(coverage, { gap: 6 });
      const floodOfRegion = new Map<number, number>();
      for (let k = 0; k < ink.length; k++) {
        const region = regionOf[basins.labels[k]];
        if ((region === 0) !== (flooded.labels[k] === 0)) throw new Error(`A px of ${icon} is of no region.`);
        if (region === 0) continue;
        const known = floodOfRegion.get(region);
        if (known !== undefined && known !== flooded.labels[k]) throw new Error(`A region of ${icon} is of two.`);
        floodOfRegion.set(region, flooded.labels[k]);
      }
      expect(new Set(floodOfRegion.values()).size).toBe(flooded.count);
      whole += flooded.count;
      parted += floodOfRegion.size - flooded.count;
    }
    expect(whole).toBeGreaterThan(80);
    expect(parted).toBeLessThan(0.35 * whole);
  });
});

/** What hangs together of open px by their sides, found by filling from each. */
function floodOf({ width, height, ink }: Coverage): { readonly labels: Int32Array; readonly count: number } {
  const labels = new Int32Array(width * height);
  let count = 0;
  for (let start = 0; start < labels.length; start++) {
    if (ink[start] >= 64 || labels[start] !== 0) continue;
    labels[start] = ++count;
    const heap = [start];
    for (let at = heap.pop(); at !== undefined; at = heap.pop())
      for (const [next, isThere] of [
        [at - 1, at % width > 0],
        [at + 1, at % width < width - 1],
        [at - width, at >= width],
        [at + width, at < width * (height - 1)],
      ] as const)
        if (isThere && ink[next] < 64 && labels[next] === 0) {
          labels[next] = count;
          heap.push(next);
        }
  }
  return { labels, count };
}
