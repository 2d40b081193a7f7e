import fc from 'fast-check';
import svgpath from 'svgpath';
import { CURVE_RINGS, curvesOf } from '../../src/formats/curves';
import { ringData } from '../../src/formats/svgData';
import { drawStroke, outlineOf } from '../../src/ink';
import { windingOf } from '../../src/math';
import type { Nib } from '../../src/nib';
import { brush, drawn, even, liner, tapered, wave, zigzag } from '../hands';

/** How far a place lies from a closed polygon. */
function fromRing(ring: Float64Array, x: number, y: number): number {
  let best = Infinity;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [dx, dy] = [ring[i] - ring[j], ring[i + 1] - ring[j + 1]];
    const square = dx * dx + dy * dy;
    const share = square > 0 ? Math.max(0, Math.min(1, ((x - ring[j]) * dx + (y - ring[j + 1]) * dy) / square)) : 0;
    best = Math.min(best, Math.hypot(x - ring[j] - share * dx, y - ring[j + 1] - share * dy));
  }
  return best;
}

/** Whether ink lies all around a place: folds of an outline within the line show nowhere. */
const isWithin = (ring: Float64Array, x: number, y: number): boolean =>
  Array.from({ length: 12 }, (_, k) => (k * Math.PI) / 6).every(
    (angle) => windingOf(ring, { x: x + 0.035 * Math.cos(angle), y: y + 0.035 * Math.sin(angle) }) !== 0,
  );

/** Places on the curves that path data tells, in px: read by an independent library (svgpath 2.6). */
function placesOn(data: string): number[][] {
  const places: number[][] = [];
  svgpath(data)
    .abs()
    .iterate(([command, ...values], _k, x, y) => {
      const v = values.map(Number);
      const [a, b, c, d, e, f] = command === 'C' ? v : [x, y, v[0], v[1], v[0], v[1]];
      if (command === 'C' || command === 'L')
        for (let k = 0; k <= 8; k++) {
          const [t, s] = [k / 8, 1 - k / 8];
          const at = (p: number, q: number, r: number, w: number) =>
            (s * s * s * p + 3 * s * s * t * q + 3 * s * t * t * r + t * t * t * w) / 100;
          places.push([at(x, a, c, e), at(y, b, d, f)]);
        }
    });
  return places;
}

const worst = (nib: Nib, course: typeof wave, tremor: number, seed: number): number => {
  const stroke = drawStroke(drawn(course, { tremor, seed }), nib, even(30));
  const [exact] = outlineOf(stroke, 0.0005).rings;
  const places = outlineOf(stroke, CURVE_RINGS).rings.flatMap((ring) => placesOn(ringData(ring)));
  return Math.max(
    ...places.map(([x, y]) => {
      const away = fromRing(exact, x, y);
      return away > 0.02 && isWithin(exact, x, y) ? 0 : away;
    }),
  );
};

describe('An outline as curves', () => {
  it('strays no more than 0.03 px from the exact one, as it is written and read back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(liner, brush, tapered),
        fc.constantFrom(wave, zigzag),
        fc.double({ min: 0, max: 1.5, noNaN: true }),
        fc.integer({ min: 1, max: 1e6 }),
        (nib, course, tremor, seed) => worst(nib, course, tremor, seed) <= 0.03,
      ),
      { numRuns: 12, seed: 7 },
    );
  });

  it('takes few curves: less than a fifth of the chords that show no facet', () => {
    const stroke = drawStroke(drawn(wave), brush, even(30));
    const [chords] = outlineOf(stroke, 0.005).rings;
    const [ring] = outlineOf(stroke, CURVE_RINGS).rings;
    expect((curvesOf(ring).length - 2) / 6).toBeLessThan(chords.length / 2 / 5);
  });

  it('keeps corners and straight edges: a square is four lines', () => {
    expect(ringData(Float64Array.of(0, 0, 100, 0, 100, 50, 0, 50))).toBe('M0 0l10000 0 0 5000-10000 0z');
  });

  it('is nothing where there is no ring', () => {
    expect(ringData(Float64Array.of(3, 4))).toBe('');
    expect(ringData(Float64Array.of(3, 4, 3, 4, 3, 4))).not.toContain('NaN');
  });
});
