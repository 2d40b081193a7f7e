import ClipperLib from 'clipper-lib';
import { flattenSpine, pointAt, segmentCount, spineLength } from '../../src/curve';
import { drawStroke, inkedRings, leanOf, LiveStroke, outlineOf, widthsOf } from '../../src/ink';
import { type Nib, pressureFor, profileAt, widthUnder } from '../../src/nib';
import type { PenSample } from '../../src/hand';
import { areaOf, brush, drawn, even, liner, raw, straight, wave } from '../hands';

const unionArea = (rings: readonly ArrayLike<number>[]): number => {
  const clipper = new ClipperLib.Clipper();
  for (const ring of rings) {
    const path = Array.from({ length: ring.length / 2 }, (_, k) => ({
      X: Math.round(ring[2 * k] * 1000),
      Y: Math.round(ring[2 * k + 1] * 1000),
    }));
    clipper.AddPath(path, ClipperLib.PolyType.ptSubject, true);
  }
  const joined: { X: number; Y: number }[][] = [];
  const { pftNonZero } = ClipperLib.PolyFillType;
  clipper.Execute(ClipperLib.ClipType.ctUnion, joined, pftNonZero, pftNonZero);
  return joined.reduce((sum, path) => sum + ClipperLib.Clipper.Area(path) / 1e6, 0);
};

const level = (count: number, change: (t: number) => Partial<PenSample> = () => ({})): PenSample[] =>
  Array.from({ length: count }, (_, k) => ({
    x: 20 + 4 * k,
    y: 100,
    pressure: 0.5,
    time: 8 * k,
    ...change(k / (count - 1)),
  }));

describe('what makes a width', () => {
  it.each([
    [
      'rises',
      [
        [0, 0],
        [1, 1],
      ],
    ],
    [
      'falls',
      [
        [0, 1],
        [1, 0],
      ],
    ],
    [
      'rises and falls',
      [
        [0, 0.2],
        [0.4, 1],
        [1, 0.1],
      ],
    ],
    [
      'falls and rises',
      [
        [0, 0.9],
        [0.7, 0.1],
        [1, 0.6],
      ],
    ],
  ] as const)('a pressure is found for every width that a curve gives which %s: the least one', (_how, press) => {
    const nib: Nib = { ...brush, thinnest: 0, press };
    for (let k = 0; k <= 50; k++) {
      const width = widthUnder(nib, k / 50);
      const found = pressureFor(nib, width);
      expect(widthUnder(nib, found)).toBeCloseTo(width, 3);
      expect(found).toBeLessThanOrEqual(k / 50 + 1e-4);
    }
    expect(widthUnder(nib, pressureFor(nib, 10 * nib.size))).toBeCloseTo(
      nib.size * Math.max(...press.map(([, y]) => y)),
      3,
    );
  });

  it('is the curve that the artist has bent', () => {
    const nib: Nib = {
      ...brush,
      size: 20,
      thinnest: 0,
      press: [
        [0, 0],
        [0.5, 0.25],
        [1, 1],
      ],
    };
    expect(widthsOf(level(3), nib)).toEqual([5, 5, 5]);
    expect(
      widthsOf(
        level(2, () => ({ pressure: 1 })),
        nib,
      ),
    ).toEqual([20, 20]);
  });

  it('thins where the hand is fast, by as much as the nib says', () => {
    const nib: Nib = { ...liner, size: 20, speed: -0.5 };
    const fast = level(200).map((sample, k) => ({ ...sample, x: 30 * k }));
    expect(widthsOf(level(200), nib).at(-1)).toBeCloseTo(20 * (1 - 0.5 * (4 / 8 / 3)), 1);
    expect(widthsOf(fast, nib).at(-1)).toBeCloseTo(10, 1);
  });

  it('takes no speed from a time that stands still or runs backwards', () => {
    const nib: Nib = { ...liner, size: 20, speed: -0.5 };
    for (const width of widthsOf(
      level(50, (t) => ({ time: -1000 * t })),
      nib,
    ))
      expect(width).toBe(20);
  });

  it('thickens as the pen leans', () => {
    const nib: Nib = { ...liner, size: 10, tilt: 1 };
    expect(
      widthsOf(
        level(100, () => ({ tiltX: 60 })),
        nib,
      ).at(-1),
    ).toBeCloseTo(20, 1);
    expect(widthsOf(level(100), nib).at(-1)).toBe(10);
  });

  it('reads tilts as the standard converts them', () => {
    // W3C Pointer Events 3: tiltX alone is an azimuth of 0 and an altitude of 90° less the tilt.
    expect(leanOf({ x: 0, y: 0, pressure: 1, tiltX: 30 })).toEqual({
      azimuth: 0,
      lean: expect.closeTo(Math.PI / 6, 12),
    });
    expect(leanOf({ x: 0, y: 0, pressure: 1, tiltY: -45 })!.azimuth).toBeCloseTo(-Math.PI / 2, 12);
    expect(leanOf({ x: 0, y: 0, pressure: 1 })).toBeUndefined();
  });

  it('is a chisel across its edge, and thin along it', () => {
    const nib: Nib = { ...liner, size: 20, tip: { shape: 'chisel', angle: 0, thickness: 0.1 } };
    const leaning = (tiltX: number, tiltY: number) =>
      widthsOf(
        level(120, () => ({ tiltX, tiltY })),
        nib,
      ).at(-1)!;
    expect(leaning(40, 0)).toBeCloseTo(2, 3);
    expect(leaning(0, 40)).toBeCloseTo(20, 3);
    expect(widthsOf(level(120), nib).at(-1)).toBeCloseTo(2, 3);
  });
});

describe('a profile', () => {
  it.each(['in', 'out', 'lens'] as const)(
    '%s runs along the whole line and ends in points where it is none',
    (profile) => {
      const { spine } = drawStroke(level(120), { ...liner, size: 30, profile }, raw);
      const last = segmentCount(spine) - 1;
      expect(pointAt(spine, { segment: 0, t: 0 }).width).toBeCloseTo(30 * profileAt(profile, 0), 6);
      expect(pointAt(spine, { segment: last, t: 1 }).width).toBeCloseTo(30 * profileAt(profile, 1), 6);
      const length = spineLength(spine);
      for (let i = 0, along = 0; i <= last; i++) {
        const { x, width } = pointAt(spine, { segment: i, t: 0.5 });
        along = (x - 20) / length;
        expect(Math.abs(width - 30 * profileAt(profile, along))).toBeLessThan(0.25);
      }
    },
  );

  it('is what the artist has drawn', () => {
    const own = [
      [0, 0.2],
      [0.5, 1],
      [1, 0.4],
    ] as const;
    const { spine } = drawStroke(level(120), { ...liner, size: 30, profile: own }, raw);
    expect(spine.points[2]).toBeCloseTo(6, 6);
    expect(spine.points.at(-1)).toBeCloseTo(12, 6);
  });

  it('gives the same line while it grows and when it is done', () => {
    const hand = drawn(wave, { tremor: 1 });
    const live = new LiveStroke({ ...brush, profile: 'lens' }, even(40));
    for (const sample of hand) live.add([sample]);
    expect(live.stroke()).toEqual(drawStroke(hand, { ...brush, profile: 'lens' }, even(40)));
    expect(live.settledLength).toBe(0);
  });
});

describe('a flat tip', () => {
  const flat = (angle: number): Nib => ({ ...liner, size: 40, tip: { shape: 'flat', angle, thickness: 0.1 } });

  it('is wide across its edge and thin along it', () => {
    const tall = outlineOf(drawStroke(level(100), flat(Math.PI / 2), raw)).box;
    const low = outlineOf(drawStroke(level(100), flat(0), raw)).box;
    expect(tall.maxY - tall.minY).toBeCloseTo(40, 1);
    expect(low.maxY - low.minY).toBeCloseTo(4, 1);
    expect(low.maxX - low.minX).toBeCloseTo(4 * 99 + 40, 1);
  });

  it('covers what an ellipse covers that is carried along (Minkowski sum by clipper-lib)', () => {
    const stroke = drawStroke(drawn(wave, { count: 80 }), flat(-0.6), raw);
    const line = flattenSpine(stroke.spine, 0.02);
    const tip = Array.from({ length: 96 }, (_, k) => {
      const [c, s] = [20 * Math.cos((2 * Math.PI * k) / 96), 2 * Math.sin((2 * Math.PI * k) / 96)];
      return {
        X: Math.round(1000 * (c * Math.cos(-0.6) - s * Math.sin(-0.6))),
        Y: Math.round(1000 * (c * Math.sin(-0.6) + s * Math.cos(-0.6))),
      };
    });
    const way = Array.from({ length: line.length / 3 }, (_, k) => ({
      X: Math.round(1000 * line[3 * k]),
      Y: Math.round(1000 * line[3 * k + 1]),
    }));
    const carried = ClipperLib.Clipper.MinkowskiSum(tip, way, false);
    const swept = unionArea(carried.map((path) => path.flatMap(({ X, Y }) => [X / 1000, Y / 1000])));
    expect(Math.abs(unionArea(outlineOf(stroke).rings) / swept - 1)).toBeLessThan(0.01);
  });
});

describe('a broken edge', () => {
  const rough: Nib = { ...liner, size: 30, edge: { kind: 'rough', amount: 0.4, grain: 6 } };
  const dry: Nib = { ...liner, size: 30, edge: { kind: 'dry', amount: 0.5, grain: 8 } };

  it.each([
    ['rough', rough],
    ['dry', dry],
  ] as const)('redraws the same from the same seed, and otherwise from another: %s', (_name, nib) => {
    const hand = drawn(straight);
    const draw = (seed: number) => outlineOf(drawStroke(hand, nib, raw, { seed })).rings;
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
  });

  it('stays within the clean line, and takes more of it the more it is broken', () => {
    const hand = drawn(straight);
    const clean = unionArea(outlineOf(drawStroke(hand, liner, raw)).rings) * 3;
    const left = [0.2, 0.6, 0.9].map((amount) =>
      unionArea(outlineOf(drawStroke(hand, { ...rough, edge: { ...rough.edge!, amount } }, raw)).rings),
    );
    expect(left[0]).toBeLessThan(clean);
    expect(left[1]).toBeLessThan(left[0]);
    expect(left[2]).toBeLessThan(left[1]);
  });

  it('breaks in a part as it does in the whole, so that live chunks fit', () => {
    const stroke = drawStroke(drawn(straight), rough, raw, { seed: 3 });
    const line = flattenSpine(stroke.spine, 0.05);
    const at = 3 * Math.floor(line.length / 6);
    let along = 0;
    for (let i = 3; i <= at; i += 3) along += Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]);
    const whole = inkedRings(line, stroke, 0.05);
    const [part] = inkedRings(line.slice(at), stroke, 0.05, along);
    const places = new Set(
      Array.from(
        { length: whole[0].length / 2 },
        (_, k) => `${whole[0][2 * k].toFixed(3)},${whole[0][2 * k + 1].toFixed(3)}`,
      ),
    );
    const shared = Array.from(
      { length: part.length / 2 },
      (_, k) => `${part[2 * k].toFixed(3)},${part[2 * k + 1].toFixed(3)}`,
    ).filter((place) => places.has(place));
    expect(shared.length).toBeGreaterThan(0.8 * (part.length / 2));
  });

  it('leaves paper between the bristles of a dry nib', () => {
    const stroke = drawStroke(drawn(straight), dry, raw, { seed: 5 });
    const { rings } = outlineOf(stroke);
    expect(rings.length).toBeGreaterThan(10);
    const share =
      unionArea(rings) / (Math.abs(areaOf(outlineOf(drawStroke(drawn(straight), liner, raw)).rings[0])) * 3);
    expect(share).toBeGreaterThan(0.3);
    expect(share).toBeLessThan(0.85);
  });
});
