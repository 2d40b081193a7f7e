import fc from 'fast-check';
import { nearestOnSpine, spineLength } from '../../src/curve';
import { drawStroke, LiveStroke } from '../../src/ink';
import { pressureOf } from '../../src/hand';
import { taperAt, taperLengths, widthUnder } from '../../src/nib';
import { SHIPPED_NIBS } from '../../src/rack';
import { brush, drawn, even, liner, raw, straight, tapered, wave, zigzag } from '../hands';

const widths = (points: Float64Array) => Array.from(points.filter((_, k) => k % 3 === 2));

describe('a stroke', () => {
  it('of a fixed nib is as wide as the nib everywhere, however hard one presses (common practice)', () => {
    const hand = drawn(wave, { tremor: 1, pressure: (t) => 0.1 + 0.9 * t });
    for (const width of widths(drawStroke(hand, { ...liner, size: 30 }, even(40)).spine.points))
      expect(width).toBeCloseTo(30, 6);
  });

  it('of a pressure nib swells with the pressure and with nothing else', () => {
    const { spine } = drawStroke(drawn(straight, { count: 400, pressure: (t) => t }), brush, raw);
    const at = (t: number) => {
      const [x, y] = straight(t);
      return nearestOnSpine(spine, { x, y }).width;
    };
    for (const t of [0.1, 0.4, 0.7, 0.95]) expect(at(t)).toBeCloseTo(widthUnder(brush, t), 0);
    expect(at(0.9)).toBeGreaterThan(at(0.5));
  });

  it('of a tapered nib runs to a point at both ends and is full in between', () => {
    const hand = drawn(straight, { count: 300 });
    const { spine } = drawStroke(hand, tapered, raw);
    expect(spine.points[2]).toBeCloseTo(0, 6);
    expect(spine.points.at(-1)).toBeCloseTo(0, 6);
    const [x, y] = straight(0.45);
    expect(nearestOnSpine(spine, { x, y }).width).toBeCloseTo(16, 1);
  });

  it('keeps the raw hand apart from the line it made', () => {
    const live = new LiveStroke(liner, even(60), 1);
    live.add(drawn(wave, { tremor: 3 }));
    expect(spineLength(live.spine())).toBeGreaterThan(100);
    expect(live.kept).toHaveLength(120);
    expect(live.kept[5].x * 16).toBe(Math.round(live.kept[5].x * 16));
  });

  it('of one touch is a dot', () => {
    const { spine } = drawStroke([{ x: 5, y: 6, pressure: 1 }], brush, even(40));
    expect(Array.from(spine.points)).toEqual([5, 6, 24, 5, 6, 24, 5, 6, 24, 5, 6, 24]);
  });

  it('needs samples, and finite ones', () => {
    expect(() => drawStroke([], liner, raw)).toThrow(RangeError);
    expect(() => drawStroke([{ x: 1, y: NaN, pressure: 1 }], liner, raw)).toThrow(/finite/);
  });
});

describe('a stroke while it is drawn', () => {
  const hands = fc.record({
    course: fc.constantFrom(wave, straight, zigzag),
    count: fc.integer({ min: 2, max: 300 }),
    seed: fc.integer({ min: 1, max: 99 }),
    nib: fc.constantFrom(liner, brush, tapered),
    strength: fc.integer({ min: 0, max: 100 }),
    zoom: fc.constantFrom(0.2, 1, 4),
    batch: fc.integer({ min: 1, max: 9 }),
  });

  it('is the stroke that lifting the pen leaves, number for number', () => {
    fc.assert(
      fc.property(hands, ({ course, count, seed, nib, strength, zoom, batch }) => {
        const hand = drawn(course, { count, tremor: 1.5, seed, pressure: (t) => 0.2 + 0.7 * t });
        const live = new LiveStroke(nib, even(strength), zoom);
        for (let k = 0; k < hand.length; k += batch) {
          live.add(hand.slice(k, k + batch));
          live.spine();
        }
        expect(live.spine().points).toEqual(drawStroke(hand, nib, even(strength), { zoom }).spine.points);
      }),
      { numRuns: 60 },
    );
  });

  it('never changes what it has called settled', () => {
    fc.assert(
      fc.property(hands, ({ course, count, seed, nib, strength, zoom }) => {
        const live = new LiveStroke(nib, even(strength), zoom);
        let frozen = new Float64Array(0);
        for (const sample of drawn(course, { count, tremor: 1, seed })) {
          live.add([sample]);
          const { points } = live.spine();
          expect(frozen.every((value, k) => value === points[k])).toBe(true);
          frozen = points.slice(0, live.settledLength);
        }
      }),
      { numRuns: 25 },
    );
  });
});

describe('nibs', () => {
  it('read 0.5 from what has no sensor (W3C Pointer Events, pressure)', () => {
    expect(pressureOf('mouse', 1)).toBe(0.5);
    expect(pressureOf('touch', 0)).toBe(0.5);
    expect(pressureOf('pen', 0.8)).toBe(0.8);
    expect(pressureOf('pen', 7)).toBe(1);
  });

  it('never grow beyond their size nor below their thinnest', () => {
    fc.assert(
      fc.property(fc.double({ min: -1, max: 2, noNaN: true }), (pressure) => {
        expect(widthUnder(brush, pressure)).toBeGreaterThanOrEqual(brush.size * brush.thinnest - 1e-9);
        expect(widthUnder(brush, pressure)).toBeLessThanOrEqual(brush.size + 1e-9);
      }),
    );
  });

  it('shorten both tapers alike on a line too short for them', () => {
    expect(taperLengths(tapered, 1_000)).toEqual([96, 128]);
    expect(taperLengths(tapered, 112)).toEqual([48, 64]);
    expect(taperAt(tapered, 0, 112)).toBe(0);
    expect(taperAt(tapered, 48, 112)).toBeCloseTo(1, 9);
    expect(taperAt(liner, 0, 112)).toBe(1);
  });

  it('that ship taper from at least 10 px, so that the tip is not jagged (common practice)', () => {
    for (const { nib } of SHIPPED_NIBS.filter(({ nib }) => nib.taperIn + nib.taperOut > 5))
      expect(nib.size).toBeGreaterThanOrEqual(10);
  });
});
