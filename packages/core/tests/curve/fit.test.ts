import fitCurve from 'fit-curve';
import { fitSpine, nearestOnSpine, pointAt, segmentCount, SpineFitter } from '../../src/curve';
import { drawn, edgeKinkOf, ring, straight, wave, zigzag } from '../hands';

const TOLERANCE = 0.4;
const hands = [
  ['a straight line', drawn(straight, { tremor: 0.3, seed: 2 })],
  ['a wave', drawn(wave, { count: 300, tremor: 0.3, seed: 3 })],
  ['a ring', drawn(ring, { count: 200, tremor: 0.2, seed: 4 })],
  ['a slow wave', drawn(wave, { count: 900 })],
  ['a still ring', drawn(ring, { count: 400 })],
] as const;

const worst = (spine: ReturnType<typeof fitSpine>, samples: readonly { x: number; y: number }[]) =>
  Math.max(...samples.map((sample) => nearestOnSpine(spine, sample).distance));

describe('fitting a spine', () => {
  it.each(hands)('strays at most the tolerance from every sample of %s', (_name, samples) => {
    expect(worst(fitSpine(samples, TOLERANCE), samples)).toBeLessThanOrEqual(TOLERANCE + 1e-9);
  });

  it('needs no more than 1.2 × the cubics of the fit-curve library in all, and at most two more than that for any hand', () => {
    // fit-curve 0.2.0 (Schneider 1990, Graphics Gems); its tolerance is squared.
    const counts = hands.map(([, samples]) => ({
      own: segmentCount(fitSpine(samples, TOLERANCE)),
      theirs: fitCurve(
        samples.map(({ x, y }) => [x, y]),
        TOLERANCE ** 2,
      ).length,
    }));
    const total = (of: 'own' | 'theirs') => counts.reduce((sum, count) => sum + count[of], 0);
    expect(total('own')).toBeLessThanOrEqual(1.2 * total('theirs'));
    for (const { own, theirs } of counts) expect(own).toBeLessThanOrEqual(1.2 * theirs + 2);
  });

  it('of a circle is as round as the tolerance asks, between the samples too', () => {
    const spine = fitSpine(
      drawn((t) => [1000 * Math.cos(6 * t), 1000 * Math.sin(6 * t)], { count: 700 }),
      0.5,
    );
    for (let segment = 0; segment < segmentCount(spine); segment++)
      for (let k = 0; k <= 50; k++) {
        const { x, y } = pointAt(spine, { segment, t: k / 50 });
        expect(Math.abs(Math.hypot(x, y) - 1000)).toBeLessThan(0.5);
      }
  });

  it('keeps corners', () => {
    const corners = [1, 2, 3, 4, 5].map((k) => zigzag(k / 6));
    const samples = drawn(zigzag, { count: 361 });
    const spine = fitSpine(samples, TOLERANCE);
    const nodes = Array.from({ length: segmentCount(spine) + 1 }, (_, k) => [
      spine.points[9 * k],
      spine.points[9 * k + 1],
    ]);
    for (const [x, y] of corners)
      expect(Math.min(...nodes.map(([a, b]) => Math.hypot(a - x, b - y)))).toBeLessThan(0.01);
  });

  it('keeps smooth joints smooth', () => {
    const { points } = fitSpine(drawn(wave, { count: 400 }), 0.2);
    for (let i = 9; i + 9 < points.length; i += 9) {
      const before = Math.atan2(points[i + 1] - points[i - 2], points[i] - points[i - 3]);
      const after = Math.atan2(points[i + 4] - points[i + 1], points[i + 3] - points[i]);
      expect(Math.abs(Math.sin(after - before))).toBeLessThan(1e-6);
    }
  });

  it('widens alike on both sides of smooth joints: the edges of the line have no kink', () => {
    const shaken = drawn(wave, { count: 400, tremor: 0.2, pressure: (t) => 0.5 + 0.4 * Math.sin(11 * t) });
    const spine = fitSpine(
      shaken.map(({ x, y, pressure }, k) => ({ x, y, width: 30 * pressure + 0.4 * Math.sin(2.3 * k) })),
      0.2,
    );
    expect(segmentCount(spine)).toBeGreaterThan(5);
    expect(edgeKinkOf(spine)).toBeLessThan(1e-6);
  });

  it('fits the width with the course', () => {
    const samples = drawn(wave, { count: 300 }).map((sample, k) => ({ ...sample, width: 10 + 8 * Math.sin(k / 20) }));
    const spine = fitSpine(samples, TOLERANCE);
    for (const sample of samples) {
      const { segment, t } = nearestOnSpine(spine, sample);
      expect(Math.abs(pointAt(spine, { segment, t }).width - sample.width)).toBeLessThan(4 * TOLERANCE);
    }
  });

  it('gives the same spine, number for number, point by point or all at once', () => {
    const samples = drawn(wave, { count: 500, tremor: 0.8, seed: 9 });
    const fitter = new SpineFitter(TOLERANCE);
    for (const [k, { x, y }] of samples.entries()) {
      fitter.add(x, y, 3);
      if (k % 50 === 0) fitter.preview(new Float64Array(0));
    }
    expect(fitter.finish().points).toEqual(
      fitSpine(
        samples.map((sample) => ({ ...sample, width: 3 })),
        TOLERANCE,
      ).points,
    );
  });

  it('makes a dot of a single point, and says what it cannot fit', () => {
    expect(fitSpine([{ x: 3, y: 4, width: 2 }], 1).points).toHaveLength(12);
    expect(() => fitSpine([], 1)).toThrow(RangeError);
    expect(() => fitSpine([{ x: NaN, y: 0 }], 1)).toThrow(/finite/);
    expect(() => fitSpine([{ x: 0, y: 0 }], 0)).toThrow(/tolerance/);
  });
});
