import { Matrix as Library } from 'ml-matrix';
import fc from 'fast-check';
import {
  combinedMaps,
  joinTwins,
  symmetricCopies,
  symmetricStrokes,
  symmetryMaps,
  type SymmetryShape,
  type WheelShape,
} from '../../src/guides';
import { rake } from '../../src/texture';
import { apply, distance, isInLoop, then } from '../../src/math';
import { inked } from '../../src/stroke';
import type { Nib } from '../../src/nib';
import { lineSpine } from '../../src/shapes';
import { liner, tapered } from '../hands';
import { at, bow, places } from './guides';

const mirror: SymmetryShape = { kind: 'mirror', x: 300, y: 0, angle: Math.PI / 2, joins: false };
const wheel = (sectors: number, reflects = false): WheelShape => ({
  ...{ kind: 'wheel', x: 200, y: 150, angle: 0.3, sectors, reflects, joins: false },
});

describe('a wheel of N', () => {
  it('that turns has N maps and is the group C of N; one that reflects has N and is the group D of N/2 (point groups)', () => {
    for (let n = 2; n <= 24; n++) {
      expect(symmetryMaps(wheel(n))).toHaveLength(n);
      if (n % 2 === 0) expect(symmetryMaps(wheel(n, true))).toHaveLength(n);
    }
  });

  it('is closed: what two of its maps do one after the other, one of them does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.boolean(), (half, reflects) => {
        const maps = symmetryMaps(wheel(2 * half, reflects));
        const p = at(371, -55);
        const images = maps.map((map) => apply(map, p));
        for (const a of maps)
          for (const b of maps)
            expect(Math.min(...images.map((image) => distance(image, apply(then(a, b), p))))).toBeLessThan(1e-9);
      }),
      { numRuns: 24 },
    );
  });

  it('turns as a matrix library (ml-matrix) does, to 10⁻⁹', () => {
    const shape = wheel(10);
    symmetryMaps(shape).forEach((map, k) => {
      const angle = (2 * Math.PI * k) / 10;
      const to = new Library([
        [1, 0, shape.x],
        [0, 1, shape.y],
        [0, 0, 1],
      ]);
      const turn = new Library([
        [Math.cos(angle), -Math.sin(angle), 0],
        [Math.sin(angle), Math.cos(angle), 0],
        [0, 0, 1],
      ]);
      const back = new Library([
        [1, 0, -shape.x],
        [0, 1, -shape.y],
        [0, 0, 1],
      ]);
      const [x, y] = to
        .mmul(turn)
        .mmul(back)
        .mmul(Library.columnVector([512, 77, 1]))
        .to1DArray();
      const ours = apply(map, at(512, 77));
      expect(Math.hypot(ours.x - x, ours.y - y)).toBeLessThan(1e-9);
    });
  });
});

describe('copies', () => {
  it('lie as far on the other side of a mirror', () => {
    const [own, other] = symmetricCopies(bow, mirror);
    expect(own).toBe(bow);
    for (let i = 0; i < bow.points.length; i += 3) {
      expect(other.points[i]).toBeCloseTo(600 - bow.points[i], 9);
      expect(other.points[i + 1]).toBeCloseTo(bow.points[i + 1], 9);
    }
  });

  it('of two mirrors that cross at a right angle are four, not more', () => {
    expect(combinedMaps([mirror, { ...mirror, angle: 0 }])).toHaveLength(4);
    expect(combinedMaps([])).toHaveLength(1);
  });

  it('know their set, turn a flat tip with them, and keep their weights', () => {
    const flat: Nib = { ...liner, tip: { shape: 'flat', angle: 0.2, thickness: 0.3 } };
    const strokes = symmetricStrokes(inked(bow, flat), symmetryMaps(mirror), 'set');
    expect(strokes.map(({ copy }) => copy?.set)).toEqual(['set', 'set']);
    // Across an upright axis an edge at 0.2 lies at π − 0.2.
    const { angle } = strokes[1].nib.tip ?? { angle: NaN };
    expect(Math.abs(Math.sin(angle - (Math.PI - 0.2)))).toBeLessThan(1e-9);
    expect(strokes[1].spine.points[2]).toBe(strokes[0].spine.points[2]);
  });

  it('that end on the axis grow together with their twins, also into a ring', () => {
    const half = inked(lineSpine(at(120, 40), at(299.7, 80)), liner);
    const [one, ...none] = joinTwins(symmetricStrokes(half, symmetryMaps(mirror), 'set'), 1);
    expect(none).toHaveLength(0);
    expect(one.spine.points[9]).toBeCloseTo(300, 9);
    expect([one.spine.points[0], one.spine.points.at(-3)].sort((a, b) => (a ?? 0) - (b ?? 0))).toEqual([120, 480]);
    const arch = inked({ ...bow, points: Float64Array.of(300, 40, 1, 100, 40, 1, 100, 400, 1, 300, 400, 1) }, liner);
    expect(joinTwins(symmetricStrokes(arch, symmetryMaps(mirror), 'set'), 1).map(({ spine }) => spine.closed)).toEqual([
      true,
    ]);
    const apart = inked(lineSpine(at(120, 40), at(290, 80)), liner);
    expect(joinTwins(symmetricStrokes(apart, symmetryMaps(mirror), 'set'), 1)).toHaveLength(2);
  });
});

describe('a rake', () => {
  const loop = [at(0, 0), at(400, 0), at(400, 300), at(0, 300)];
  const settings = { nib: tapered, spacing: 10, jitter: 0, ragged: 0 };

  it('fills a loop with lines at even distances, along its rails', () => {
    const strokes = rake({ kind: 'rails', x: 0, y: 5, angle: 0 }, loop, settings, 1);
    expect(strokes).toHaveLength(30);
    strokes.forEach(({ spine: { points } }, k) => {
      expect(points[1]).toBeCloseTo(5 + 10 * k, 9);
      expect([points[0], points[points.length - 3]].map(Math.round)).toEqual([0, 400]);
    });
  });

  it('draws focus lines from outside to a middle that stays calm', () => {
    const middle = Array.from({ length: 40 }, (_, k) =>
      at(200 + 60 * Math.cos((k * Math.PI) / 20), 150 + 60 * Math.sin((k * Math.PI) / 20)),
    );
    const strokes = rake({ kind: 'rays', x: 200, y: 150 }, loop, { ...settings, middle }, 1);
    expect(strokes.length).toBeGreaterThan(100);
    for (const { spine } of strokes) {
      const { points } = spine;
      const away = (i: number) => distance(at(points[i], points[i + 1]), at(200, 150));
      expect(away(0)).toBeGreaterThan(away(points.length - 3));
      expect(away(points.length - 3)).toBeGreaterThan(59);
      const cross =
        (points[0] - 200) * (points[points.length - 2] - 150) - (points[1] - 150) * (points[points.length - 3] - 200);
      expect(Math.abs(cross) / away(0)).toBeLessThan(1e-6);
    }
  });

  it('draws rings and echoes, all of them inside', () => {
    for (const field of [
      { kind: 'ripples', x: 200, y: 150, ratio: 0.6, angle: 0.4 },
      { kind: 'echo', course: bow },
    ] as const) {
      const strokes = rake(field, loop, settings, 1);
      expect(strokes.length).toBeGreaterThan(20);
      for (const { spine } of strokes)
        for (const { x, y } of places(spine, 6)) {
          expect(x).toBeGreaterThan(-0.2);
          expect(x).toBeLessThan(400.2);
          expect(y).toBeGreaterThan(-0.2);
          expect(y).toBeLessThan(300.2);
        }
    }
  });

  it('strays and frays by its seed alone', () => {
    const wild = { ...settings, jitter: 0.8, ragged: 0.5 };
    const rails = { kind: 'rails', x: 0, y: 0, angle: 0.4 } as const;
    expect(rake(rails, loop, wild, 5)).toEqual(rake(rails, loop, wild, 5));
    expect(rake(rails, loop, wild, 5)).not.toEqual(rake(rails, loop, wild, 6));
  });

  it('says what is wrong', () => {
    const rails = { kind: 'rails', x: 0, y: 0, angle: 0.4 } as const;
    expect(() => rake(rails, loop.slice(0, 2), settings, 1)).toThrow(/loop/);
    expect(() => rake(rails, loop, { ...settings, spacing: 0 }, 1)).toThrow(/0\.5 px/);
    const huge = loop.map(({ x, y }) => at(x * 1e3, y * 1e3));
    expect(() => rake(rails, huge, { ...settings, spacing: 0.5 }, 1)).toThrow(/864,171 lines/);
  });

  it('knows inside from outside', () => {
    expect([at(5, 5), at(-1, 5), at(399, 299), at(401, 5)].map((p) => isInLoop(loop, p))).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
});
