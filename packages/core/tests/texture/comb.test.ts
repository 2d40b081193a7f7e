import { PageError } from '../../src/gate';
import { flattenSpine, STRIDE } from '../../src/curve';
import { planeHomography, trackOf, type FrameShape } from '../../src/guides';
import { outlineOf } from '../../src/ink';
import { applyProjective, legsApart, pointToLeg, type Point } from '../../src/math';
import { arcSpine } from '../../src/shapes';
import type { Stroke } from '../../src/stroke';
import { combRows, combShare, type CombSettings } from '../../src/texture';
import { liner } from '../hands';
import { darknessOf } from '../painted';

const box = (side: number, x = 0, y = 0): Point[] => [
  { x, y },
  { x: x + side, y },
  { x: x + side, y: y + side },
  { x, y: y + side },
];
const loop = box(600);
const rails = { kind: 'rails', x: 0, y: 0, angle: 0.4 } as const;
const nib = { ...liner, size: 3 };
const settings: CombSettings = { nib, spacing: 12 };
const inks = (rows: readonly Stroke[]) => rows.map((row) => outlineOf(row, 0.05).rings);
const inner = { x: 100, y: 100, side: 400 };
/** The places of a row, 1 px apart or less. */
const placesOf = ({ spine }: Stroke): Point[] => {
  const line = flattenSpine(spine, 0.02);
  return Array.from({ length: line.length / STRIDE }, (_, k) => ({ x: line[STRIDE * k], y: line[STRIDE * k + 1] }));
};
/** How near two rows come to each other. */
const apart = (a: Stroke, b: Stroke): number => {
  const [p, q] = [placesOf(a), placesOf(b)];
  let least = Infinity;
  for (let i = 1; i < p.length; i++)
    for (let j = 1; j < q.length; j++)
      least = Math.min(
        least,
        legsApart(p[i - 1].x, p[i - 1].y, p[i].x, p[i].y, q[j - 1].x, q[j - 1].y, q[j].x, q[j].y),
      );
  return Math.sqrt(least);
};

const street: FrameShape = {
  ...{ kind: 'frame', asleep: [], fixed: [], focal: 900, corner: { x: 300, y: 400 }, grids: {}, edges: [] },
  points: { right: [1500, 100, 1], left: [-900, 100, 1], height: [0, 1, 0] },
  centre: { x: 300, y: 100 },
};

describe('rows of a comb, as they are painted', () => {
  it.each([6, 12, 30])('cover their weight over their spacing, %p px', async (spacing) => {
    const dark = await darknessOf(inks(combRows(loop, rails, { nib, spacing }, 1)), inner);
    expect(Math.abs(dark - 3 / spacing)).toBeLessThan(0.01);
  });

  it.each([90, 50])('crossed at %p° cover a + b − ab (Murray 1936, after Davies)', async (turn) => {
    const across = [{ turn: (turn * Math.PI) / 180, from: 0 }];
    const dark = await darknessOf(inks(combRows(loop, rails, { ...settings, across }, 1)), inner);
    const each = 3 / 12;
    expect(combShare(3, 12, 2)).toBeCloseTo(2 * each - each * each, 12);
    expect(Math.abs(dark - combShare(3, 12, 2))).toBeLessThan(0.01);
  });

  it.each(['weight', 'closer', 'broken'] as const)('by %s go from light to dark as they are asked to', async (by) => {
    const ramp = { shape: 'straight', from: { x: 0, y: 0 }, to: { x: 600, y: 0 } } as const;
    const toned = combRows(
      loop,
      { ...rails, angle: 1.2 },
      { nib: { ...nib, size: 4 }, spacing: 6, tone: { ramp, light: 0.06, dark: 0.54, by } },
      7,
    );
    const paths = inks(toned);
    for (const k of [1, 3]) {
      const dark = await darknessOf(paths, { x: 150 * k - 75, y: 225, side: 150 });
      expect(Math.abs(dark - (0.06 + (0.48 * k) / 4))).toBeLessThan(by === 'weight' ? 0.015 : 0.03);
    }
  });

  it('of a further set are there only where the tone asks for more', () => {
    const ramp = { shape: 'straight', from: { x: 0, y: 0 }, to: { x: 600, y: 0 } } as const;
    const tone = { ramp, light: 0, dark: 1, by: 'weight' } as const;
    const crossing = combRows(
      loop,
      { ...rails, angle: 0 },
      { nib, spacing: 12, tone, across: [{ turn: 0.8, from: 0.5 }] },
      3,
    );
    const slanted = crossing.filter((row) => Math.abs(placesOf(row)[0].y - (placesOf(row).at(-1)?.y ?? 0)) > 1);
    expect(slanted.length).toBeGreaterThan(20);
    for (const row of slanted) for (const { x } of placesOf(row)) expect(x).toBeGreaterThan(600 * 0.45);
  });
});

describe('rows along a field', () => {
  it.each([
    { kind: 'ripples', x: 250, y: 260, ratio: 0.6, angle: 0.3 },
    { kind: 'rays', x: -50, y: 300 },
    { kind: 'echo', course: arcSpine({ x: 300, y: 900 }, 700, -2.2, 1.2) },
  ] as const)('of $kind keep to it within 0.05 px, and remember its guide', (field) => {
    const rows = combRows(loop, field, { ...settings, guideId: 'own' }, 1);
    expect(rows.length).toBeGreaterThan(10);
    for (const row of rows) {
      expect(row.guide?.id).toBe('own');
      const track = row.guide && trackOf(row.guide.path);
      for (const p of placesOf(row)) {
        const on = track?.place(track.nearest(p));
        expect(Math.hypot((on?.x ?? NaN) - p.x, (on?.y ?? NaN) - p.y)).toBeLessThan(0.05);
      }
    }
  });

  const floor = planeHomography(street, 'floor', { x: 300, y: 400 }, { width: 600, height: 600 });

  it('of a plane all run to its vanishing point, evenly spaced on the plane, thinner with distance', () => {
    const low = box(300, 150, 250);
    const rows = combRows(low, { kind: 'plane', map: floor, angle: 0 }, { ...settings, spacing: 20 }, 1);
    expect(rows.length).toBeGreaterThan(8);
    for (const row of rows) {
      const [a, b] = [placesOf(row)[0], placesOf(row).at(-1) ?? { x: 0, y: 0 }];
      // On the line to the point of that direction, which is known beforehand.
      const off = Math.min(
        ...[street.points.right, street.points.left].map(
          ([x, y]) => Math.abs((b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x)) / Math.hypot(x - a.x, y - a.y),
        ),
      );
      expect(off).toBeLessThan(0.05);
      const spine = row.spine.points;
      expect(Math.min(spine[2], spine[spine.length - 1])).toBeLessThan(Math.max(spine[2], spine[spine.length - 1]));
    }
    // A place of the plane 20 of its px from the origin lies on a row.
    for (const v of [20, 40, 60]) {
      const on = applyProjective(floor, 0, v);
      const away = rows.map((row) => {
        const [a, b] = [placesOf(row)[0], placesOf(row).at(-1) ?? { x: 0, y: 0 }];
        return Math.sqrt(pointToLeg(on.x, on.y, a.x, a.y, b.x, b.y));
      });
      expect(Math.min(...away)).toBeLessThan(0.05);
    }
  });

  it('stop where they would touch, first every second one, and crowd only where that is asked for', () => {
    const rays = { kind: 'rays', x: 150, y: 150 } as const;
    const rows = combRows(box(300), rays, settings, 1);
    for (let i = 0; i < rows.length; i++)
      for (let j = 0; j < i; j++) expect(apart(rows[i], rows[j])).toBeGreaterThan(1.5 * nib.size - 0.01);
    const crowded = combRows(box(300), rays, { ...settings, crowds: true }, 1);
    expect(Math.min(...crowded.slice(1).map((row) => apart(row, crowded[0])))).toBeLessThan(1);
    // Seen from far the spacing stays what it was.
    expect(rows.length).toBeGreaterThanOrEqual(crowded.length);
  });

  it('that are evenly spaced keep their spacing (Jobard and Lefer 1997: no less than d_test of it)', () => {
    const rows = combRows(
      box(160),
      { kind: 'echo', course: arcSpine({ x: 150, y: 500 }, 420, -2.2, 1.2) },
      settings,
      1,
    );
    for (let i = 0; i < rows.length; i++)
      for (let j = 0; j < i; j++) expect(apart(rows[i], rows[j])).toBeGreaterThan(0.9 * settings.spacing);
  });
});

describe('a comb', () => {
  const wild: CombSettings = { ...settings, stray: 0.6, missing: 0.3, short: 0.5 };

  it('is the same for the same seed, and another for another', () => {
    expect(combRows(loop, rails, wild, 5)).toEqual(combRows(loop, rails, wild, 5));
    expect(combRows(loop, rails, wild, 5)).not.toEqual(combRows(loop, rails, wild, 6));
  });

  it('leaves out the share of rows that it is asked to, and shortens none by more than it may', () => {
    const all = combRows(loop, rails, { nib, spacing: 2 }, 5);
    const some = combRows(loop, rails, { nib, spacing: 2, missing: 0.3 }, 5);
    expect(Math.abs(some.length / all.length - 0.7)).toBeLessThan(0.06);
    const level = { ...rails, angle: 0 };
    const lengths = combRows(loop, level, { nib, spacing: 2, short: 0.5 }, 5).map(
      (row) => (placesOf(row).at(-1)?.x ?? 0) - placesOf(row)[0].x,
    );
    expect(Math.min(...lengths)).toBeGreaterThan(300);
    expect(Math.min(...lengths)).toBeLessThan(330);
    expect(Math.max(...lengths)).toBeGreaterThan(570);
  });

  it('leaves the holes of an outline free', () => {
    const rows = combRows([loop, box(200, 200, 200)], { ...rails, angle: 0 }, settings, 1);
    for (const row of rows)
      for (const { x, y } of placesOf(row)) expect(x > 200.01 && x < 399.99 && y > 200 && y < 400).toBe(false);
    expect(rows.length).toBeGreaterThan(60);
  });

  it('says what is wrong', () => {
    expect(() => combRows([], rails, settings, 1)).toThrow(PageError);
    expect(() => combRows(loop, rails, { nib, spacing: 0.1 }, 1)).toThrow(/at least 0\.5 px/);
    expect(() => combRows(box(900_000), rails, settings, 1)).toThrow(/more than|would be [\d,]+ lines/);
    const far = {
      kind: 'plane',
      map: planeHomography(street, 'floor', { x: 300, y: 400 }, { width: 600, height: 600 }),
      angle: 0,
    } as const;
    expect(() => combRows(loop, far, settings, 1)).toThrow(/horizon/);
    expect(combRows(loop, rails, { nib, spacing: 2_000 }, 1).length).toBeLessThan(2);
  });
});
