import fc from 'fast-check';
import type { Spine } from '../../src/curve';
import { flatRing } from '../../src/area';
import { outlineOf } from '../../src/ink';
import { arcSpine, ellipseSpine, polylineSpine, rectSpine } from '../../src/shapes';
import { inked, type Stroke } from '../../src/stroke';
import {
  areaOf,
  basinsOf,
  colourRegions,
  exactWidths,
  flatPage,
  leaksOf,
  regionAt,
  regionCount,
  regionsAt,
  regionsOf,
  saidOf,
  squaredDistances,
  type Coverage,
  type RegionMap,
} from '../../src/regions';
import { liner } from '../hands';
import { coverageOf } from './raster';

const nib = { ...liner, size: 6 };
const rings = (stroke: Stroke) => outlineOf(stroke, 0.05).rings;
const line = (course: Spine, size = 6) => inked(course, { ...nib, size });
const disc = (x: number, y: number, r: number): Spine => ellipseSpine({ centre: { x, y }, rx: r, ry: r });
const done = <T>(work: Generator<number, T>): T => {
  for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
};
/** A raster of letters: # is ink. */
function drawn(rows: readonly string[]): Coverage {
  const ink = Uint8Array.from(rows.flatMap((row) => [...row].map((letter) => (letter === '#' ? 255 : 0))));
  return { width: rows[0].length, height: rows.length, ink, scale: 1, x: 0, y: 0 };
}

describe('distances', () => {
  it('are those of looking at every pair (Felzenszwalb & Huttenlocher 2012)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 22 }),
        fc.integer({ min: 1, max: 18 }),
        fc.infiniteStream(fc.integer({ min: 0, max: 30 })),
        (width, height, chance) => {
          const ink = Uint8Array.from({ length: width * height }, () => (chance.next().value === 0 ? 255 : 0));
          const reach = 9;
          const found = squaredDistances({ width, height, ink, scale: 1, x: 0, y: 0 }, reach);
          for (let y = 0; y < height; y++)
            for (let x = 0; x < width; x++) {
              let least = Infinity;
              for (let v = -1; v <= height; v++)
                for (let u = -1; u <= width; u++) {
                  const isInk = u < 0 || v < 0 || u === width || v === height || ink[v * width + u] === 255;
                  if (isInk) least = Math.min(least, (u - x) ** 2 + (v - y) ** 2);
                }
              const own = found[y * width + x];
              if (least <= reach * reach) expect(own).toBe(least);
              else expect(own).toBeGreaterThan(reach * reach);
            }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('gaps', () => {
  /** A circle of a line with one opening, at an angle. */
  function broken(width: number, angle: number) {
    const r = 60;
    const half = Math.asin((width + nib.size) / 2 / r);
    const centre = { x: 100.3, y: 99.6 };
    const course = arcSpine(centre, r, angle + half, 2 * Math.PI - 2 * half);
    const across = r * Math.cos(half);
    return {
      stroke: line(course),
      centre,
      at: { x: centre.x + across * Math.cos(angle), y: centre.y + across * Math.sin(angle) },
    };
  }

  it.each([4, 10, 20])(
    'law of the trapped ball (Zhang et al. 2009) at a gap of %i: what is narrower never leaks, what is wider by a px always does',
    async (gap) => {
      for (let width = 1; width <= 32; width++) {
        const { stroke, centre, at } = broken(width, 0.37 * width);
        const outline = rings(stroke);
        const coverage = await coverageOf([outline], 200, 200);
        const map = regionsOf(coverage, { gap, exactWidth: exactWidths(coverage, () => outline) });
        const [inside, outside] = [regionAt(map, centre), regionAt(map, { x: 5, y: 5 })];
        expect([inside, outside]).not.toContain(0);
        if (width < gap) expect([width, inside === outside]).toEqual([width, false]);
        if (width >= gap + 1) expect([width, inside === outside]).toEqual([width, true]);
        if (width < gap && width > 1) {
          const [leak] = leaksOf(map);
          expect(Math.hypot(leak.x - at.x, leak.y - at.y)).toBeLessThan(2);
          expect(Math.abs(leak.width - width)).toBeLessThan(1);
        }
      }
    },
  );

  it('a closed line of one px never leaks, whichever way it lies', async () => {
    for (let k = 0; k < 12; k++) {
      const ring = line(disc(60.5 + 0.09 * k, 60 - 0.07 * k, 40 + 0.31 * k), 1);
      const map = regionsOf(await coverageOf([rings(ring)], 130, 130), { gap: 4 });
      expect(regionAt(map, { x: 60, y: 60 })).not.toBe(regionAt(map, { x: 3, y: 3 }));
    }
  });

  it('the slider asks only which openings are closed: the map at a gap is that which was made for it', async () => {
    const { stroke, centre } = broken(9, 1);
    const outline = rings(stroke);
    const coverage = await coverageOf([outline], 200, 200);
    const basins = done(
      basinsOf(
        coverage,
        exactWidths(coverage, () => outline),
      ),
    );
    const isClosed = (map: RegionMap) => regionAt(map, centre) !== regionAt(map, { x: 5, y: 5 });
    expect([4, 8, 10, 20].map((gap) => isClosed(regionsAt(basins, gap)))).toEqual([false, false, true, true]);
    expect(isClosed(regionsAt(basins, 4, () => 'closed'))).toBe(true);
    expect(isClosed(regionsAt(basins, 20, () => 'open'))).toBe(false);
  });

  it('what was said of an opening counts more than its width, also when that has moved a little', async () => {
    const { stroke, centre, at } = broken(9, 1);
    const outline = rings(stroke);
    const coverage = await coverageOf([outline], 200, 200);
    const basins = done(
      basinsOf(
        coverage,
        exactWidths(coverage, () => outline),
      ),
    );
    const [opening] = basins.openings;
    const said = (as: 'stop' | 'meant', dx = 0) =>
      saidOf(coverage, [{ as, from: { x: at.x + dx - 4, y: at.y }, to: { x: at.x + dx + 4, y: at.y } }])(opening)?.as;
    expect([said('stop'), said('meant', 3), said('stop', 40)]).toEqual(['stop', 'meant', undefined]);
    const map = regionsAt(basins, 20);
    expect(leaksOf(map)).toHaveLength(1);
    expect(leaksOf(map, 0, () => true)).toEqual([]);
    expect(regionAt(map, centre)).not.toBe(regionAt(map, { x: 5, y: 5 }));
  });

  it('px that touch by their corners alone do not hang together: a thin slanting line keeps colour in', () => {
    const map = regionsOf(
      drawn(['......', '...#..', '..#...', '.#....', '#.....', '......'].map((r, y) => (y === 0 ? '....#.' : r))),
      { gap: 1 },
    );
    expect(regionAt(map, { x: 0.5, y: 0.5 })).not.toBe(regionAt(map, { x: 5.5, y: 5.5 }));
  });

  it.each([
    ['no ink', drawn(Array.from({ length: 40 }, () => '.'.repeat(40))), 1],
    ['all ink', drawn(Array.from({ length: 9 }, () => '#'.repeat(9))), 0],
    ['one px', drawn(['###', '#.#', '###']), 1],
    ['a single px in all', drawn(['.']), 1],
  ])('%s has as many regions as there are', (_name, coverage, count) => {
    expect(regionCount(regionsOf(coverage, { gap: 10 }))).toBe(count);
  });

  it('ten thousand slivers are as many regions', () => {
    const rows = Array.from({ length: 200 }, (_, y) => (y % 2 === 0 ? '#'.repeat(201) : '#..'.repeat(67)));
    expect(regionCount(regionsOf(drawn(rows), { gap: 4 }))).toBe(6_700);
  });
});

describe('areas of regions', () => {
  const strokes = [
    line(rectSpine({ x: 20, y: 20 }, { x: 280, y: 220 }, 0)),
    line(
      polylineSpine([
        { x: 20, y: 90 },
        { x: 150, y: 130 },
        { x: 280, y: 80 },
      ]),
    ),
    line(disc(150, 130, 40)),
  ];

  const mapOf = async () => regionsOf(await coverageOf(strokes.map(rings), 300, 240), { gap: 4 });
  const size = (all: readonly Spine[]) => Math.abs(all.reduce((sum, ring) => sum + signed(flatRing(ring)), 0));
  const signed = (ring: Float64Array) => {
    let sum = 0;
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      sum += (ring[j] * ring[i + 1] - ring[i] * ring[j + 1]) / 2;
    return sum;
  };

  it('reach under the lines to their middle: a disc within a ring has the ring’s radius', async () => {
    const ring = line(disc(150, 130, 60), 8);
    const map = regionsOf(await coverageOf([rings(ring)], 300, 260), { gap: 4 });
    const inside = regionAt(map, { x: 150, y: 130 });
    // A quarter px all round.
    expect(Math.abs(size(areaOf(map, inside, { under: 'middle' })) - Math.PI * 60 ** 2)).toBeLessThan(Math.PI * 30);
    expect(Math.abs(size(areaOf(map, inside, { under: 0 })) - Math.PI * 56 ** 2)).toBeLessThan(Math.PI * 56);
    expect(Math.abs(size(areaOf(map, inside, { under: 2 })) - Math.PI * 58 ** 2)).toBeLessThan(Math.PI * 58);
    const outside = areaOf(map, regionAt(map, { x: 3, y: 3 }), { under: 'middle' });
    expect(outside).toHaveLength(2);
    expect(Math.abs(size(outside) + Math.PI * 3600 - 300 * 260)).toBeLessThan(Math.PI * 30);
  });

  it('meet under the lines without a slit or an overlap, and cover the page with the ink to 0.1 % (clipper-lib)', async () => {
    const map = await mapOf();
    const { flats } = done(flatPage(map, { under: 'middle', least: 0 }));
    expect(flats.length).toBe(regionCount(map));
    const total = flats.reduce((sum, { rings: own }) => sum + size(own), 0);
    expect(Math.abs(total - 300 * 240)).toBeLessThan(0.001 * 300 * 240);
    const { overlap, covered } = await measured(flats.map(({ rings: own }) => own.map((one) => flatRing(one, 0.01))));
    expect(overlap).toBeLessThan(1);
    expect(covered).toBeGreaterThan(0.999 * 300 * 240);
  });

  async function measured(flats: readonly (readonly Float64Array[])[]) {
    const { default: ClipperLib } = await import('clipper-lib');
    const grid = (ring: Float64Array) =>
      Array.from({ length: ring.length / 2 }, (_, k) => ({
        X: Math.round(1000 * ring[2 * k]),
        Y: Math.round(1000 * ring[2 * k + 1]),
      }));
    const { pftNonZero } = ClipperLib.PolyFillType;
    const run = (op: number, a: { X: number; Y: number }[][], b: { X: number; Y: number }[][]) => {
      const clipper = new ClipperLib.Clipper();
      clipper.AddPaths(a, ClipperLib.PolyType.ptSubject, true);
      clipper.AddPaths(b, ClipperLib.PolyType.ptClip, true);
      const found: { X: number; Y: number }[][] = [];
      clipper.Execute(op, found, pftNonZero, pftNonZero);
      return Math.abs(found.reduce((sum, path) => sum + ClipperLib.Clipper.Area(path), 0)) / 1e6;
    };
    let overlap = 0;
    for (const [k, own] of flats.entries())
      for (const other of flats.slice(k + 1))
        overlap += run(ClipperLib.ClipType.ctIntersection, own.map(grid), other.map(grid));
    const covered = run(
      ClipperLib.ClipType.ctUnion,
      flats.flatMap((own) => own.map(grid)),
      [],
    );
    return { overlap, covered };
  }

  it('are few: hatching does not make a flat of each gap, and what was poured is left alone', async () => {
    const hatching = Array.from({ length: 12 }, (_, k) =>
      line(
        polylineSpine([
          { x: 90 + 8 * k, y: 20 },
          { x: 90 + 8 * k, y: 220 },
        ]),
        2,
      ),
    );
    const map = regionsOf(await coverageOf([...strokes.slice(0, 1), ...hatching].map(rings), 300, 240), { gap: 12 });
    expect(regionCount(map)).toBe(14);
    const { flats } = done(flatPage(map, { under: 'middle', least: 4_000 }));
    expect(flats.length).toBe(3);
    const kept = regionAt(map, { x: 26, y: 26 });
    const { flats: left } = done(flatPage(map, { under: 'middle', least: 0 }, (region) => region === kept));
    expect(left.some(({ region }) => region === kept)).toBe(false);
  });

  it('neighbours differ in colour, with no more than six', async () => {
    const map = await mapOf();
    const { neighbours } = done(flatPage(map, { under: 'middle', least: 0 }));
    const colours = colourRegions(neighbours);
    expect(neighbours.size).toBe(regionCount(map));
    for (const [region, beside] of neighbours)
      for (const [other] of beside) expect(colours.get(region)).not.toBe(colours.get(other));
    expect(Math.max(...colours.values())).toBeLessThan(6);
    // A wheel of five spokes round a hub needs four; those that are given stay.
    const wheel = new Map(
      Array.from(
        { length: 6 },
        (_, k) =>
          [
            k,
            new Map(
              k === 5
                ? [0, 1, 2, 3, 4].map((one) => [one, 1] as const)
                : [
                    [(k + 1) % 5, 1],
                    [(k + 4) % 5, 1],
                    [5, 1],
                  ],
            ),
          ] as const,
      ),
    );
    const given = colourRegions(wheel, new Map([[5, 2]]));
    expect(given.get(5)).toBe(2);
    expect(new Set(given.values()).size).toBe(4);
  });
});
