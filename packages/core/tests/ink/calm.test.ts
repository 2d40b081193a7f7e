import fc from 'fast-check';
import { calmed, calmerFor, calmReach, makeCalmer } from '../../src/ink';
import type { Calm } from '../../src/hand';
import { seededRandom } from '../../src/math';
import { drawn, even, raw, straight, wave, zigzag } from '../hands';

/** The mean distance of neighbouring samples' turns: how much a line shivers. */
function shiver(samples: readonly { x: number; y: number }[]): number {
  let sum = 0;
  for (let k = 1; k + 1 < samples.length; k++)
    sum += Math.hypot(
      samples[k + 1].x - 2 * samples[k].x + samples[k - 1].x,
      samples[k + 1].y - 2 * samples[k].y + samples[k - 1].y,
    );
  return sum / samples.length;
}

describe('calming', () => {
  it('Raw leaves the hand as it is', () => {
    const hand = drawn(wave, { tremor: 2 });
    expect(calmed(hand, raw)).toEqual(hand);
    expect(calmed(hand, even(0))).toEqual(hand);
  });

  it('Even takes the shiver out, more so the stronger it is', () => {
    const hand = drawn(wave, { count: 400, tremor: 1.5, seed: 5 });
    const [some, more] = [even(20), even(60)].map((calm) => shiver(calmed(hand, calm)));
    expect(some).toBeLessThan(shiver(hand) / 2);
    expect(more).toBeLessThan(some);
  });

  /** What *Even* leaves of a tremor of 8 to 12 Hz in the middle of a straight line, px: of 1 px, root mean square. */
  const tremorLeft = (speed: number, strength: number): number => {
    const squares = [1, 2, 3, 4].flatMap((seed) => {
      const random = seededRandom(seed);
      const part = () => ({ rate: 8 + 4 * random(), phase: 2 * Math.PI * random() });
      const [across, along] = [1, 2].map(() => {
        const parts = [part(), part(), part()];
        return (t: number) =>
          parts.reduce((sum, { rate, phase }) => sum + Math.sqrt(2 / 3) * Math.sin(2 * Math.PI * rate * t + phase), 0);
      });
      const hand = Array.from({ length: 480 }, (_, k) => {
        const t = k / 120;
        return { x: speed * t + 0.2 * along(t), y: across(t), pressure: 0.5, time: 1000 * t };
      });
      return calmed(hand, even(strength)).flatMap(({ x, y }) => (x > speed && x < 3 * speed ? [y * y] : []));
    });
    return Math.sqrt(squares.reduce((sum, square) => sum + square, 0) / squares.length);
  };

  it.each([100, 150, 200, 300, 450, 600, 800])(
    'Even leaves no more of a tremor the stronger it is, at %i px a second',
    (speed) => {
      const left = [5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100].map((strength) => tremorLeft(speed, strength));
      for (let k = 1; k < left.length; k++) expect(left[k]).toBeLessThanOrEqual(left[k - 1] + 0.005);
      expect(left[left.length - 1]).toBeLessThan(0.1);
    },
  );

  it('Even starts and ends where the hand did', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 2, max: 200 }), (strength, count) => {
        const hand = drawn(wave, { count, tremor: 1, seed: count });
        const calm = calmed(hand, even(strength));
        expect(calm).toHaveLength(hand.length);
        for (const at of [0, -1]) {
          expect(calm.at(at)!.x).toBeCloseTo(hand.at(at)!.x, 9);
          expect(calm.at(at)!.y).toBeCloseTo(hand.at(at)!.y, 9);
        }
      }),
    );
  });

  it('Even leaves a straight, steady line where it is', () => {
    const hand = drawn(straight);
    for (const [k, { x, y }] of calmed(hand, even(80)).entries()) {
      expect(x).toBeCloseTo(hand[k].x, 6);
      expect(y).toBeCloseTo(hand[k].y, 6);
    }
  });

  it('Even never leaves the room that the hand went through', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0, max: 300, noNaN: true }), fc.double({ min: 0, max: 300, noNaN: true })), {
          minLength: 2,
          maxLength: 60,
        }),
        (places) => {
          const calm = calmed(
            places.map(([x, y]) => ({ x, y, pressure: 0.5 })),
            even(70),
          );
          for (const { x, y, pressure } of calm) {
            expect(Math.min(x, y)).toBeGreaterThanOrEqual(-1e-6);
            expect(Math.max(x, y)).toBeLessThanOrEqual(300 + 1e-6);
            expect(pressure).toBeCloseTo(0.5, 9);
          }
        },
      ),
    );
  });

  it('goes by what the eye sees: twice the zoom, half the reach on the page', () => {
    expect(calmReach(even(50), 2)).toBe(calmReach(even(50), 1) / 2);
    expect(calmReach(raw, 1)).toBe(0);
  });

  const ways: Calm[] = [
    raw,
    even(10),
    even(75),
    { ...even(60), weight: 5 },
    { ...even(60), stops: true },
    { way: 'tow', strength: 40, lag: 0 },
    { way: 'tow', strength: 30, lag: 50, stops: true },
    { way: 'sprung', strength: 50, drag: 100 },
    { way: 'sprung', strength: 80, drag: 20, weight: 60 },
  ];

  it.each(ways.map((calm) => [JSON.stringify(calm), calm] as const))(
    'gives the same in pieces as all at once, and takes nothing back: %s',
    (_name, calm) => {
      for (const course of [wave, zigzag]) {
        const hand = drawn(course, { count: 250, tremor: 2, seed: 7, pressure: (t) => 0.3 + 0.5 * t });
        const calmer = makeCalmer(calm);
        const pieces = [];
        for (let k = 0; k < hand.length; k += 1 + (k % 5)) pieces.push(...calmer.push(hand.slice(k, k + 1 + (k % 5))));
        expect([...pieces, ...calmer.finish()]).toEqual(calmed(hand, calm));
        expect(pieces.length).toBeGreaterThan(calm.way === 'even' ? 60 : 100);
      }
    },
  );

  it.each(ways.map((calm) => [JSON.stringify(calm), calm] as const))(
    'does not move what it has called settled: %s',
    (_name, calm) => {
      const hand = drawn(zigzag, { count: 250, tremor: 2, seed: 8 });
      const calmer = calmerFor(calm, 1);
      const frozen: number[] = [];
      for (const { x, y, pressure, time } of hand) {
        calmer.add(x, y, pressure, time!);
        calmer.update();
        const settled = calmer.settled(0, 0);
        for (let k = frozen.length / 3; k < settled; k++) frozen.push(...calmer.points.slice(3 * k, 3 * k + 3));
        expect(Array.from(calmer.points.slice(0, frozen.length))).toEqual(frozen);
      }
      expect(frozen.length / 3).toBeGreaterThan(100);
    },
  );
});
