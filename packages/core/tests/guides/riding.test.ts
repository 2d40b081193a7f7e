import fc from 'fast-check';
import { project, rideGuide, ridingOn, trackOf } from '../../src/guides';
import { drawStroke, LiveStroke, recalm } from '../../src/ink';
import { spineLength } from '../../src/curve';
import { chain, distance, rotation, scaling, translation } from '../../src/math';
import { mapStroke, type Stroke } from '../../src/stroke';
import type { Calm, PenSample } from '../../src/hand';
import type { GuidePath } from '../../src/curve';
import type { Nib } from '../../src/nib';
import { SHIPPED_NIBS } from '../../src/rack';
import { TEMPLATES } from '../../src/templates';
import { brush, drawn, even, liner, raw, straight, tapered, wave, zigzag } from '../hands';
import { at, bow, guide, places } from './guides';

const rail: GuidePath = { kind: 'line', x: 120, y: 210, dx: Math.cos(0.3), dy: Math.sin(0.3) };
const ring: GuidePath = { kind: 'ellipse', x: 300, y: 200, rx: 320, ry: 140, angle: 0.5 };
const curve: GuidePath = { kind: 'curve', course: bow };
const french: GuidePath = { kind: 'curve', course: TEMPLATES.find(({ id }) => id === 'hook')?.rings[0] ?? bow };
const paths = { rail, ring, curve, french };
const ways: Calm[] = [
  raw,
  even(60),
  { way: 'tow', strength: 40, lag: 30 },
  { way: 'sprung', strength: 50, drag: 80, stops: true },
];
const far = (stroke: Stroke, path: GuidePath): number =>
  Math.max(...places(stroke.spine, 8).map((place) => project(path, place).distance));

describe('a stroke on a guide', () => {
  it('stays on the path however the hand shakes, with every nib and every way of calming', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<keyof typeof paths>('rail', 'ring', 'curve', 'french'),
        fc.constantFrom(wave, straight, zigzag),
        fc.constantFrom<Nib>(liner, brush, tapered, ...SHIPPED_NIBS.map(({ nib }) => nib)),
        fc.constantFrom(...ways),
        fc.integer({ min: 1, max: 999 }),
        (name, course, nib, calm, seed) => {
          const hand = drawn(course, { tremor: 4, seed, count: 150 });
          const path = paths[name];
          const stroke = drawStroke(hand, nib, calm, { seed, riding: ridingOn(path) });
          expect(far(stroke, path)).toBeLessThan(0.05);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('on parallels deviates by no angle at all (10⁻⁶ rad)', () => {
    const across = drawn(straight, { tremor: 5, count: 200 }).map((sample) => ({ ...sample, y: sample.y + 40 }));
    const other: GuidePath = { ...rail, x: 100, y: 300 };
    for (const [hand, path] of [
      [drawn(straight, { tremor: 5, count: 200 }), rail],
      [across, other],
    ] as const) {
      const { points } = drawStroke(hand, brush, even(40), { riding: ridingOn(path) }).spine;
      for (let i = 3; i < points.length; i += 3) {
        const [x, y] = [points[i] - points[0], points[i + 1] - points[1]];
        if (Math.hypot(x, y) > 1) expect(Math.abs(Math.sin(Math.atan2(y, x) - 0.3))).toBeLessThan(1e-6);
      }
    }
  });

  it('has the weight of the hand where the hand was', () => {
    const hand = drawn(straight, { count: 400, pressure: (t) => t });
    const level: GuidePath = { kind: 'line', x: 0, y: 50, dx: 1, dy: 0 };
    const guided = drawStroke(hand, brush, raw, { riding: ridingOn(level) }).spine.points;
    const free = drawStroke(hand, brush, raw).spine.points;
    expect(guided[2]).toBeCloseTo(free[2], 1);
    expect(guided.at(-1)).toBeCloseTo(free.at(-1) ?? 0, 1);
  });

  it('is the same while it is drawn and when the pen lifts, and what has settled stays', () => {
    let settled = 0;
    for (const path of Object.values(paths))
      for (const calm of ways) {
        const hand = drawn(wave, { tremor: 2, count: 240 });
        const live = new LiveStroke(brush, calm, 1, { riding: ridingOn(path) });
        let before: Float64Array = new Float64Array();
        for (let k = 0; k < hand.length; k += 7) {
          live.add(hand.slice(k, k + 7));
          const { points } = live.spine();
          for (let i = 0; i < before.length; i++) expect(points[i]).toBe(before[i]);
          before = points.slice(0, live.settledLength);
        }
        settled += before.length;
        expect(live.spine().points).toEqual(drawStroke(hand, brush, calm, { riding: ridingOn(path) }).spine.points);
      }
    expect(settled).toBeGreaterThan(200);
  });

  it('does not turn back for a tremor, but for a hand that does', () => {
    const level: GuidePath = { kind: 'line', x: 0, y: 0, dx: 1, dy: 0 };
    const to = (from: number, until: number): PenSample[] =>
      Array.from({ length: 60 }, (_, k) => ({ x: from + ((until - from) * k) / 59 + (k % 2), y: 0, pressure: 0.5 }));
    const once = drawStroke(to(0, 300), liner, raw, { riding: ridingOn(level) }).spine.points;
    for (let i = 3; i < once.length; i += 3) expect(once[i]).toBeGreaterThanOrEqual(once[i - 3]);
    const back = drawStroke([...to(0, 300), ...to(300, 120)], liner, raw, { riding: ridingOn(level) }).spine.points;
    expect(Math.max(...back.filter((_, k) => k % 3 === 0))).toBeGreaterThan(299);
    expect(back[back.length - 3]).toBeCloseTo(121, 0);
  });

  it('is calmed again along its path, wherever it was moved since', () => {
    const hand = drawn(wave, { tremor: 3, count: 200 });
    const stroke: Stroke = {
      ...drawStroke(hand, brush, even(40), { riding: ridingOn(ring) }),
      origin: { samples: 'hand', calm: even(40), zoom: 1 },
      guide: { id: 'ripples', path: ring },
    };
    expect(recalm(stroke, hand, even(40)).spine.points).toEqual(stroke.spine.points);
    expect(far(recalm(stroke, hand, raw), ring)).toBeLessThan(0.05);
    // Turned, moved and made larger: it rides the path where that went.
    const moved = mapStroke(stroke, chain(rotation(0.7), scaling(1.5), translation(300, -80)));
    const again = recalm(moved, hand, even(40));
    for (const end of [0, -1]) {
      const [a, b] = [again, moved].map(({ spine }) => places(spine).at(end) ?? at(NaN, NaN));
      expect(distance(a, b)).toBeLessThan(0.05);
    }
    // The fit may place its nodes elsewhere: a path that is rounded differently is enough for that.
    expect(spineLength(again.spine) / spineLength(moved.spine)).toBeCloseTo(1, 2);
    const path = moved.guide?.path;
    if (path?.kind !== 'ellipse') throw new Error('lost');
    expect(path.rx).toBeCloseTo(480, 6);
    expect(far(recalm(moved, hand, raw), path)).toBeLessThan(0.05);
    expect(far(recalm(moved, hand, raw), ring)).toBeGreaterThan(50);
  });

  it('of one touch is a dot on the path, and of a hand that goes round comes round', () => {
    const dot = drawStroke([{ x: 300, y: 90, pressure: 1 }], brush, even(40), { riding: ridingOn(ring) });
    expect(far(dot, ring)).toBeLessThan(0.05);
    const round = Array.from({ length: 200 }, (_, k): PenSample => {
      const { x, y } = trackOf(ring).place((k / 190) * 2 * Math.PI * 320);
      return { x: x + 3 * Math.sin(k), y, pressure: 0.5, time: k * 8 };
    });
    const stroke = drawStroke(round, liner, even(30), { riding: ridingOn(ring) });
    const start = at(stroke.spine.points[0], stroke.spine.points[1]);
    const seen = places(stroke.spine, 24).map((place) => Math.atan2(place.y - 200, place.x - 300));
    expect(new Set(seen.map((angle) => Math.round(angle * 4))).size).toBeGreaterThan(24);
    expect(project(ring, start).distance).toBeLessThan(0.05);
  });
});

describe('the samples of a hand', () => {
  const level = guide({ kind: 'rails', x: 0, y: 40, angle: 0 });
  const steep = guide({ kind: 'rails', x: 0, y: 40, angle: 1.2 });
  const hand: PenSample[] = Array.from({ length: 20 }, (_, k) => ({
    x: 50 + 4 * k,
    y: 40 + k,
    pressure: 0.3,
    time: 7 * k,
    tiltX: 20,
  }));

  it('are taken to the guide that their first movement chooses, with all else that the pen told', () => {
    const ridden = rideGuide(hand, [steep, level], { reach: 10, choosing: 6 });
    ridden.forEach((sample, k) => expect(sample).toEqual({ ...hand[k], y: 40 }));
  });

  it('stay as they are where none acts', () => {
    expect(rideGuide(hand, [{ ...level, acting: false }], { reach: 10, choosing: 6 })).toEqual(hand);
    expect(rideGuide([], [level], { reach: 10, choosing: 6 })).toEqual([]);
  });
});
