import { flattenSpine, spineLength } from '../../src/curve';
import { calmed, drawStroke, LiveStroke, recalm, sprung, TOW_PAUSE, whyNotRecalm } from '../../src/ink';
import { type Calm, type PenSample, packSamples, unpackSamples } from '../../src/hand';
import type { Stroke } from '../../src/stroke';
import { mappedStroke } from '../../src/drawn';
import { brush, drawn, even, liner, raw, ring, straight, tapered, wave } from '../hands';

const tow = (strength: number, lag = 0): Calm => ({ way: 'tow', strength, lag });
const spring = (strength: number, drag = 100): Calm => ({ way: 'sprung', strength, drag });
const farthest = (samples: readonly PenSample[], from: (sample: PenSample) => number) => Math.max(...samples.map(from));

/** A square corner drawn at an even speed, with a tremor. */
const corner = (t: number) => (t < 0.5 ? ([100 + 400 * t, 100] as const) : ([300, 100 + 400 * (t - 0.5)] as const));

describe('Even', () => {
  it('keeps a corner that the hand has drawn, where a plain mean would cut it', () => {
    const hand = drawn(corner, { count: 161, tremor: 0.4, seed: 4 });
    for (const strength of [20, 50, 90]) {
      const near = Math.min(...calmed(hand, even(strength)).map(({ x, y }) => Math.hypot(x - 300, y - 100)));
      expect(near).toBeLessThan(1);
    }
  });

  it('takes a small loop for a loop, not for corners', () => {
    const loop = (t: number) => [200 + 22 * Math.cos(12 * t), 200 + 22 * Math.sin(12 * t)] as const;
    const calm = calmed(drawn(loop, { count: 140, tremor: 0.3 }), even(30));
    const radii = calm.slice(30, -30).map(({ x, y }) => Math.hypot(x - 200, y - 200));
    expect(Math.max(...radii) - Math.min(...radii)).toBeLessThan(2.2);
  });

  it('smooths the weight apart when asked to', () => {
    const shaky = drawn(straight, { pressure: (t) => 0.5 + 0.3 * Math.sin(200 * t) });
    const swing = (calm: Calm) => {
      const middle = calmed(shaky, calm)
        .slice(30, -30)
        .map(({ pressure }) => pressure);
      return Math.max(...middle) - Math.min(...middle);
    };
    expect(swing({ ...even(5), weight: 100 })).toBeLessThan(0.4 * swing({ ...even(5), weight: 5 }));
    expect(swing({ way: 'raw', weight: 80 })).toBeLessThan(0.4 * swing(raw));
  });

  it('ends short of the pen when it stops there', () => {
    const end = calmed(drawn(straight), { ...even(100), stops: true }).at(-1)!;
    expect(end.x).toBeLessThan(415);
    expect(calmed(drawn(straight), even(100)).at(-1)!.x).toBeCloseTo(420, 6);
  });
});

describe('Tow', () => {
  it('pulls nothing within the slack, and then stays that far behind', () => {
    const still = Array.from({ length: 40 }, (_, k) => ({
      x: 100 + 20 * Math.cos(k),
      y: 100 + 20 * Math.sin(k),
      pressure: 0.5,
      time: 8 * k,
    }));
    const start = still[0];
    for (const { x, y } of calmed(still, { ...tow(80), stops: true }))
      expect(Math.hypot(x - start.x, y - start.y)).toBeLessThan(2);
    const hand = drawn(straight);
    const end = calmed(hand, { ...tow(50), stops: true }).at(-1)!;
    expect(Math.hypot(end.x - hand.at(-1)!.x, end.y - hand.at(-1)!.y)).toBeCloseTo(30, 6);
  });

  it('goes after the pen as a towed point does: a tractrix', () => {
    // The pen walks along x with a string of 30 px whose tip starts at its side. Tractrix (Huygens 1692):
    // x = a·ln((a + √(a² − y²)) / y) − √(a² − y²) behind the pen's start.
    const slack = 30;
    const hand = Array.from({ length: 401 }, (_, k) => ({ x: k * 0.5, y: 0, pressure: 0.5, time: 4 * k }));
    const start = [{ x: 0, y: slack, pressure: 0.5, time: -4 }, ...hand];
    const calm = calmed(start, { ...tow(50), stops: true });
    for (const { x, y } of calm.filter(({ y }) => y < slack - 1 && y > 8)) {
      const root = Math.sqrt(slack * slack - y * y);
      expect(Math.abs(x - (slack * Math.log((slack + root) / y) - root))).toBeLessThan(0.75);
    }
  });

  it('goes up to a pen that pauses, and turns a sharp corner there', () => {
    const before = Array.from({ length: 60 }, (_, k) => ({ x: 100 + 3 * k, y: 100, pressure: 0.5, time: 8 * k }));
    const at = before.at(-1)!;
    const after = (pause: number) =>
      Array.from({ length: 60 }, (_, k) => ({
        x: at.x,
        y: 100 + 3 * (k + 1),
        pressure: 0.5,
        time: at.time + pause + 8 * (k + 1),
      }));
    const nearest = (pause: number) =>
      Math.min(...calmed([...before, ...after(pause)], tow(50)).map(({ x, y }) => Math.hypot(x - at.x, y - at.y)));
    expect(nearest(TOW_PAUSE + 10)).toBeLessThan(1e-9);
    expect(nearest(0)).toBeGreaterThan(3);
  });

  it('is drawn on to the pen, or stops where it is', () => {
    const hand = drawn(wave);
    expect(calmed(hand, tow(60, 50)).at(-1)).toMatchObject({ x: hand.at(-1)!.x, y: hand.at(-1)!.y });
    const stopped = calmed(hand, { ...tow(60, 50), stops: true }).at(-1)!;
    expect(Math.hypot(stopped.x - hand.at(-1)!.x, stopped.y - hand.at(-1)!.y)).toBeGreaterThan(30);
  });

  it('keeps the tip of a flick: the line ends as thin as the hand let go', () => {
    const flick = drawn(straight, { count: 60, pressure: (t) => 0.9 * (1 - t) });
    const { spine } = drawStroke(flick, { ...brush, thinnest: 0 }, { ...tow(50), weight: 0, stops: true });
    expect(spine.points.at(-1)).toBeLessThan(0.05 * Math.max(...spine.points.filter((_, k) => k % 3 === 2)));
  });
});

/** Heun's method in many small steps: a solution that knows no closed form. */
function solved(
  start: readonly [number, number],
  slope: (state: readonly [number, number]) => readonly [number, number],
  time: number,
): readonly [number, number] {
  const steps = 24_000;
  const dt = time / steps;
  let state = start;
  for (let k = 0; k < steps; k++) {
    const first = slope(state);
    const second = slope([state[0] + dt * first[0], state[1] + dt * first[1]]);
    state = [state[0] + (dt / 2) * (first[0] + second[0]), state[1] + (dt / 2) * (first[1] + second[1])];
  }
  return state;
}

describe('Sprung', () => {
  it.each([1, 0.6, 0.3])('swings as the closed form and as a numeric solution say, damping %p', (damping) => {
    const omega = 0.02;
    const exact = solved([1, 0], ([e, v]) => [v, -2 * damping * omega * v - omega * omega * e], 120);
    let spring = { away: 1, speed: 0 };
    for (let k = 0; k < 30; k++) spring = sprung(spring, omega, damping, 4);
    expect(spring.away).toBeCloseTo(exact[0], 6);
    expect(spring.speed).toBeCloseTo(exact[1], 6);
  });

  it('steps as a critically damped spring does: 1 − (1 + ωt) e^(−ωt)', () => {
    for (const time of [10, 50, 200]) {
      const { away } = sprung({ away: -1, speed: 0 }, 0.02, 1, time);
      expect(1 + away).toBeCloseTo(1 - (1 + 0.02 * time) * Math.exp(-0.02 * time), 12);
    }
  });

  it('trails a steady hand by twice its time, and is drawn on to the pen without a hook', () => {
    const hand = Array.from({ length: 200 }, (_, k) => ({ x: 2 * k, y: 50, pressure: 0.5, time: 8 * k }));
    const stopped = calmed(hand, { ...spring(50), stops: true }).at(-1)!;
    expect(hand.at(-1)!.x - stopped.x).toBeCloseTo(2 * 60 * (2 / 8), 3);
    const whole = calmed(hand, spring(50));
    expect(whole.at(-1)!.x).toBe(hand.at(-1)!.x);
    for (let k = 1; k < whole.length; k++) expect(whole[k].x).toBeGreaterThanOrEqual(whole[k - 1].x - 1e-9);
  });

  it('draws the way of a hand that tells no times', () => {
    const hand = drawn(ring, { count: 200 }).map(({ x, y, pressure }) => ({ x, y, pressure }));
    const { spine } = drawStroke(hand, liner, spring(50));
    expect(spineLength(spine)).toBeGreaterThan(0.8 * 90 * 6.2);
    // And as one whose device counts 125 a second.
    expect(spine).toEqual(drawStroke(drawn(ring, { count: 200 }), liner, spring(50)).spine);
  });

  it('takes a tremor out of a line', () => {
    const shaky = (t: number) => [20 + 600 * t, 100 + 2 * Math.sin(2 * Math.PI * 10 * 1.6 * t)] as const;
    const calm = calmed(drawn(shaky, { count: 201 }), spring(50)).filter(({ x }) => x > 150 && x < 500);
    expect(farthest(calm, ({ y }) => Math.abs(y - 100))).toBeLessThan(0.4);
  });
});

describe('lengths of a calm', () => {
  it('are what the eye sees, or page px when the artist says so', () => {
    const hand = drawn(wave, { tremor: 2 });
    const near = hand.map((sample) => ({ ...sample, x: sample.x / 4, y: sample.y / 4 }));
    const far = calmed(hand, even(40));
    calmed(near, even(40), 4).forEach(({ x, y }, k) => {
      expect(4 * x).toBeCloseTo(far[k].x, 6);
      expect(4 * y).toBeCloseTo(far[k].y, 6);
    });
    expect(calmed(hand, { ...even(40), byPage: true }, 4)).toEqual(calmed(hand, { ...even(40), byPage: true }, 1));
  });
});

describe('a hand that sends nonsense', () => {
  const ways: Calm[] = [raw, even(60), tow(40, 40), spring(60, 40)];
  it.each(ways)('draws a line all the same: repeated places, times that run backwards, wild pressures (%p)', (calm) => {
    const odd = drawn(wave, { count: 80 }).flatMap((sample, k) => [
      sample,
      { ...sample, time: 500 - 9 * k, pressure: k % 2 ? 7 : -3 },
    ]);
    const { spine } = drawStroke(odd, { ...brush, speed: -0.5, tilt: 1 }, calm);
    expect(spine.points.every(Number.isFinite)).toBe(true);
    const widths = flattenSpine(spine, 0.05).filter((_, k) => k % 3 === 2);
    expect(Math.max(...widths)).toBeLessThanOrEqual(brush.size + 1);
  });

  it.each(ways)('says which sample has no numbers (%p)', (calm) => {
    expect(() => drawStroke([{ x: NaN, y: 0, pressure: 1 }], liner, calm)).toThrow(/finite numbers/);
  });

  it('may be 100,000 samples long', () => {
    for (const calm of ways) {
      const { spine } = drawStroke(drawn(ring, { count: 100_000, tremor: 0.5 }), liner, calm);
      expect(spine.points.every(Number.isFinite)).toBe(true);
    }
  });
});

describe('re-calming', () => {
  const live = new LiveStroke(brush, even(60));
  live.add(drawn(wave, { tremor: 1.5, seed: 3 }));
  const hand = unpackSamples(packSamples(live.kept));
  const stroke: Stroke = { ...drawStroke(hand, brush, even(60)), origin: { samples: 's', calm: even(60), zoom: 1 } };

  it('gives what the other calm would have drawn, and comes back exactly', () => {
    const rawer = recalm(stroke, hand, raw);
    expect(rawer.spine).toEqual(drawStroke(hand, brush, raw).spine);
    expect(rawer.origin?.calm).toEqual(raw);
    expect(recalm(rawer, hand, even(60))).toEqual(stroke);
  });

  it('follows a line that was moved and turned since, and keeps its weight', () => {
    const [c, s] = [Math.cos(0.4), Math.sin(0.4)];
    const moved = mappedStroke(stroke, [c, -s, 30, s, c, -12, 0, 0, 1], { scaleWidth: false });
    const again = recalm(moved, hand, even(60));
    again.spine.points.forEach((value, k) => expect(value).toBeCloseTo(moved.spine.points[k], 9));
  });

  it.each([3, 0.4])('keeps the tapers of a line that was made %p times as large with its weight', (factor) => {
    const sharp: Stroke = { ...drawStroke(hand, tapered, even(60)), origin: { samples: 's', calm: even(60), zoom: 1 } };
    const grown = mappedStroke(sharp, [factor, 0, 30, 0, factor, -12, 0, 0, 1], { scaleWidth: true });
    const again = recalm(grown, hand, even(60));
    expect(again.nib.size).toBeCloseTo(tapered.size * factor, 9);
    again.spine.points.forEach((value, k) => expect(value).toBeCloseTo(grown.spine.points[k], 6));
    const twice = mappedStroke(grown, [2, 0, 0, 0, 2, 0, 0, 0, 1], { scaleWidth: true });
    recalm(twice, hand, even(60)).spine.points.forEach((value, k) =>
      expect(value).toBeCloseTo(twice.spine.points[k], 6),
    );
  });

  it('says of a line that was edited by hand that it has left its samples', () => {
    const edited: Stroke = { ...stroke, origin: { ...stroke.origin!, left: 'edited' } };
    expect(whyNotRecalm(edited)).toMatch(/has left its samples/);
    expect(() => recalm(edited, hand, raw)).toThrow(/has left its samples/);
    expect(whyNotRecalm({ ...stroke, origin: undefined })).toMatch(/no hand to go back to/);
  });
});
