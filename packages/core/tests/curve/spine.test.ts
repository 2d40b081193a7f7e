import { Bezier } from 'bezier-js';
import fc from 'fast-check';
import {
  cutSpine,
  flattenSpine,
  makeSpine,
  nearestOnSpine,
  pointAt,
  spineBox,
  spineLength,
  splitSpine,
} from '../../src/curve';

const number = fc.double({ min: -500, max: 500, noNaN: true });
const width = fc.double({ min: 0, max: 40, noNaN: true });
const triples = (count: number) => fc.array(fc.tuple(number, number, width), { minLength: count, maxLength: count });
const spine = fc
  .integer({ min: 1, max: 4 })
  .chain((n) => triples(3 * n + 1).map((points) => makeSpine(Float64Array.from(points.flat()))));
const share = fc.double({ min: 0.001, max: 0.999, noNaN: true });

const quarter = (r: number) => {
  // The circle constant of one cubic for a quarter: 4/3·(√2 − 1) (from memory; recomputed below).
  const kappa = (4 / 3) * (Math.SQRT2 - 1);
  return makeSpine(Float64Array.of(r, 0, 2, r, kappa * r, 2, kappa * r, r, 2, 0, r, 2));
};

describe('a spine', () => {
  it('needs whole cubics', () => {
    expect(() => makeSpine(new Float64Array(9))).toThrow(/3n \+ 1 triples/);
    expect(() => makeSpine(new Float64Array(13))).toThrow(RangeError);
  });

  it('as a quarter circle strays by the known error of the circle constant, 2.7253e-4 of the radius', () => {
    // CHECKS: Schneider 1990 and common knowledge of cubic arcs; the value was recomputed there.
    const arc = quarter(1_000);
    let worst = 0;
    for (let k = 0; k <= 10_000; k++) {
      const { x, y } = pointAt(arc, { segment: 0, t: k / 10_000 });
      worst = Math.max(worst, Math.abs(Math.hypot(x, y) - 1_000));
    }
    expect(worst / 1_000).toBeCloseTo(2.7253e-4, 7);
  });

  it('is as long as an independent library says', () => {
    // bezier-js 6: length by Legendre–Gauss quadrature with 24 points; it is within 0.2 %.
    fc.assert(
      fc.property(triples(4), (points) => {
        const flat = points.flatMap(([x, y]) => [x, y]);
        const own = spineLength(makeSpine(Float64Array.from(points.flat())));
        expect(Math.abs(own - new Bezier(flat).length())).toBeLessThan(0.002 * own + 0.01);
      }),
      { numRuns: 60 },
    );
  });

  it('lies inside its box, width included', () => {
    fc.assert(
      fc.property(spine, share, (s, t) => {
        const box = spineBox(s);
        const { x, y, width: w } = pointAt(s, { segment: 0, t });
        expect(x - w / 2).toBeGreaterThanOrEqual(box.minX - 1e-9);
        expect(x + w / 2).toBeLessThanOrEqual(box.maxX + 1e-9);
        expect(y + w / 2).toBeLessThanOrEqual(box.maxY + 1e-9);
      }),
    );
  });
});

describe('splitting', () => {
  it('keeps course and width exactly', () => {
    fc.assert(
      fc.property(spine, share, share, (s, t, u) => {
        const segment = Math.floor((s.points.length - 3) / 9 / 2);
        const [before, after] = splitSpine(s, { segment, t });
        const p = pointAt(before, { segment, t: u });
        const q = pointAt(s, { segment, t: t * u });
        const r = pointAt(after, { segment: 0, t: u });
        const v = pointAt(s, { segment, t: t + (1 - t) * u });
        for (const [a, b] of [
          [p, q],
          [r, v],
        ] as const)
          for (const key of ['x', 'y', 'width'] as const) expect(Math.abs(a[key] - b[key])).toBeLessThan(1e-8);
      }),
    );
  });

  it('neither lengthens nor shortens', () => {
    fc.assert(
      fc.property(spine, share, (s, t) => {
        const [before, after] = splitSpine(s, { segment: 0, t });
        const whole = spineLength(s);
        expect(Math.abs(spineLength(before) + spineLength(after) - whole)).toBeLessThan(1e-4 * whole + 1e-6);
      }),
      { numRuns: 60 },
    );
  });

  it('cuts a part out of the middle', () => {
    const arc = quarter(100);
    const part = cutSpine(arc, { segment: 0, t: 0.25 }, { segment: 0, t: 0.75 });
    const [start, end] = [pointAt(part, { segment: 0, t: 0 }), pointAt(arc, { segment: 0, t: 0.25 })];
    expect(Math.hypot(start.x - end.x, start.y - end.y)).toBeLessThan(1e-9);
    expect(spineLength(part)).toBeLessThan(spineLength(arc));
  });

  it('refuses a place that is not on it', () => {
    expect(() => splitSpine(quarter(10), { segment: 1, t: 0.5 })).toThrow(/not on a spine/);
    expect(() => splitSpine(quarter(10), { segment: 0, t: 1.5 })).toThrow(RangeError);
  });
});

describe('the nearest place', () => {
  it('is no farther than any other place', () => {
    fc.assert(
      fc.property(spine, number, number, (s, x, y) => {
        const found = nearestOnSpine(s, { x, y });
        const count = (s.points.length - 3) / 9;
        for (let segment = 0; segment < count; segment++)
          for (let k = 0; k <= 40; k++) {
            const p = pointAt(s, { segment, t: k / 40 });
            expect(found.distance).toBeLessThanOrEqual(Math.hypot(p.x - x, p.y - y) + 1e-3);
          }
      }),
      { numRuns: 60 },
    );
  });

  it('of a point on the line is that point', () => {
    const arc = quarter(200);
    const p = pointAt(arc, { segment: 0, t: 0.37 });
    expect(nearestOnSpine(arc, p)).toMatchObject({
      segment: 0,
      t: expect.closeTo(0.37, 6),
      distance: expect.closeTo(0, 9),
    });
  });
});

describe('flattening', () => {
  it('stays within its tolerance and starts and ends on the line', () => {
    fc.assert(
      fc.property(triples(4), fc.constantFrom(0.05, 0.3, 2), (points, tolerance) => {
        const s = makeSpine(Float64Array.from(points.flat()));
        const line = flattenSpine(s, tolerance);
        expect([line[0], line[1]]).toEqual([s.points[0], s.points[1]]);
        for (let k = 0; k <= 50; k++) {
          const p = pointAt(s, { segment: 0, t: k / 50 });
          expect(distanceToPolyline(line, p.x, p.y)).toBeLessThan(tolerance + 1e-9);
        }
      }),
      { numRuns: 60 },
    );
  });
});

function distanceToPolyline(line: Float64Array, x: number, y: number): number {
  let best = Infinity;
  for (let i = 0; i + 3 < line.length; i += 3) {
    const [dx, dy] = [line[i + 3] - line[i], line[i + 4] - line[i + 1]];
    const along = Math.max(0, Math.min(1, ((x - line[i]) * dx + (y - line[i + 1]) * dy) / (dx * dx + dy * dy || 1)));
    best = Math.min(best, Math.hypot(line[i] + along * dx - x, line[i + 1] + along * dy - y));
  }
  return best;
}
