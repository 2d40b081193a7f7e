import fc from 'fast-check';
import { monotoneAt, type CurvePoint } from '../../src/math';

const bend: CurvePoint[] = [
  [0, 0],
  [0.3, 0.1],
  [0.7, 0.8],
  [1, 1],
];

describe('a curve that is bent by hand', () => {
  it('goes through its points and stays level beyond them', () => {
    for (const [x, y] of bend) expect(monotoneAt(bend, x)).toBeCloseTo(y, 12);
    expect(monotoneAt(bend, -1)).toBe(0);
    expect(monotoneAt(bend, 2)).toBe(1);
  });

  it('rises where its points rise, however they lie (Fritsch & Carlson 1980)', () => {
    const steps = fc.array(fc.double({ min: 0.01, max: 1, noNaN: true }), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(
        steps,
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 8, maxLength: 8 }),
        (runs, rises) => {
          let [x, y] = [0, 0];
          const points = runs.map((run, k): CurvePoint => [(x += run), (y += rises[k])]);
          let before = -Infinity;
          for (let k = 0; k <= 200; k++) {
            const value = monotoneAt(points, points[0][0] + ((x - points[0][0]) * k) / 200);
            expect(value).toBeGreaterThanOrEqual(before - 1e-9);
            before = value;
          }
        },
      ),
    );
  });

  it('is a straight line through points on one', () => {
    for (const x of [0.1, 0.45, 0.9])
      expect(
        monotoneAt(
          [
            [0, 0],
            [0.2, 0.2],
            [0.6, 0.6],
            [1, 1],
          ],
          x,
        ),
      ).toBeCloseTo(x, 12);
  });
});
