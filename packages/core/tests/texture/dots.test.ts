import { dotsLeft, type DotsEntity } from '../../src/dots';
import { gapTo, mapped, markBox, marksOf, shownUnder } from '../../src/drawn';
import { drawnToSvg, svgToDrawn } from '../../src/formats';
import { PageError } from '../../src/gate';
import { projectiveOf, scaling, type Point } from '../../src/math';
import { checkEntity } from '../../src/page';
import { foundInLoop } from '../../src/select';
import { roomFor, Shaker, stipple, type DotSettings } from '../../src/texture';
import { rubbedDots } from '../../src/tools';
import { liner } from '../hands';
import { spectrumOf } from '../spectrum';

const SIDE = 512;
const loop: readonly Point[] = [
  { x: 0, y: 0 },
  { x: SIDE, y: 0 },
  { x: SIDE, y: SIDE },
  { x: 0, y: SIDE },
];
const settings: DotSettings = { size: 5 };
const places = (dots: Float64Array): Point[] =>
  Array.from({ length: dots.length / 3 }, (_, k) => ({ x: dots[3 * k], y: dots[3 * k + 1] }));
const nearestTo = (all: readonly Point[], { x, y }: Point, own = -1): number =>
  all.reduce((least, p, k) => (k === own ? least : Math.min(least, Math.hypot(p.x - x, p.y - y))), Infinity);
const covered = (dots: Float64Array): number =>
  dots.reduce((sum, value, i) => (i % 3 === 2 ? sum + (Math.PI / 4) * value * value : sum), 0);

describe('strewn dots', () => {
  const share = 0.2;
  const dots = stipple(loop, { share }, settings, 3);
  const all = places(dots);
  const room = roomFor(share, settings);

  it('lie no nearer than the room that each keeps, and leave no hole twice as large (Bridson 2007)', () => {
    // In a part of them, so that it does not take long.
    const some = all.filter(({ x, y }) => x > 100 && x < 240 && y > 100 && y < 240);
    const inner = some.filter(({ x, y }) => x > 120 && x < 220 && y > 120 && y < 220);
    expect(inner.length).toBeGreaterThan(50);
    const least = inner.map((p) => nearestTo(some, p, some.indexOf(p)));
    expect(Math.min(...least)).toBeGreaterThanOrEqual(room - 1e-9);
    const holes: number[] = [];
    for (let y = 120; y < 220; y += room / 2)
      for (let x = 120; x < 220; x += room / 2) holes.push(nearestTo(some, { x, y }));
    expect(Math.max(...holes)).toBeLessThan(2 * room);
  });

  it('cover the share that is asked for', () => {
    for (const asked of [0.03, 0.1, 0.3])
      expect(Math.abs(covered(stipple(loop, { share: asked }, settings, 5)) / SIDE ** 2 / asked - 1)).toBeLessThan(
        0.03,
      );
  });

  it('follow a tone along its way, by less than 3 of 100 on average', () => {
    const ramp = { shape: 'straight', from: { x: 0, y: 0 }, to: { x: SIDE, y: 0 }, share: 0.34 } as const;
    const bands = 8;
    const sums = new Float64Array(bands);
    for (const seed of [1, 2]) {
      const strewn = stipple(loop, { share: 0.02, ramp }, settings, seed);
      for (let i = 0; i < strewn.length; i += 3)
        sums[Math.floor((strewn[i] * bands) / SIDE)] += ((Math.PI / 4) * strewn[i + 2] ** 2) / 2;
    }
    const errors = [...sums].map((sum, k) => {
      const asked = 0.02 + (0.32 * (k + 0.5)) / bands;
      return Math.abs(sum / (SIDE ** 2 / bands) / asked - 1);
    });
    expect(errors.reduce((sum, own) => sum + own, 0) / bands).toBeLessThan(0.03);
  });

  it('have little power below their principal frequency: blue noise (Ulichney 1987)', () => {
    const picture = new Float64Array(SIDE * SIDE);
    for (const { x, y } of all) picture[Math.floor(y) * SIDE + Math.floor(x)]++;
    const power = spectrumOf(picture, SIDE);
    // Of a grey g the principal frequency is its root over the width of a dot: here by how many dots there are.
    const principal = Math.sqrt(all.length);
    const mean = (low: number, high: number) => {
      let [sum, count] = [0, 0];
      for (let v = 0; v < SIDE; v++)
        for (let u = 0; u < SIDE; u++) {
          const at = Math.hypot(Math.min(u, SIDE - u), Math.min(v, SIDE - v));
          if (at < low || at >= high || at < 2) continue;
          sum += power[v * SIDE + u];
          count++;
        }
      return sum / count;
    };
    expect(mean(2, 0.5 * principal) / mean(1.5 * principal, 3 * principal)).toBeLessThan(0.15);
  });

  it('get fewer away from an edge', () => {
    const strewn = places(stipple(loop, { share: 0.3, inward: { share: 0.02, over: 150 } }, settings, 2));
    const rim = strewn.filter(({ x, y }) => Math.min(x, y, SIDE - x, SIDE - y) < 40).length;
    const core = strewn.filter(({ x, y }) => Math.min(x, y, SIDE - x, SIDE - y) > 160).length;
    expect(rim / (SIDE ** 2 - (SIDE - 80) ** 2)).toBeGreaterThan((6 * core) / (SIDE - 320) ** 2);
  });

  it('never touch, however dark a tone is asked for, and are the same for the same seed', () => {
    const dark = places(stipple(loop, { share: 0.95 }, settings, 2));
    expect(Math.min(...dark.slice(0, 200).map((p, k) => nearestTo(dark, p, k)))).toBeGreaterThan(settings.size);
    expect(stipple(loop, { share }, settings, 3)).toEqual(dots);
    expect(stipple(loop, { share }, settings, 4)).not.toEqual(dots);
  });

  it('say what is wrong', () => {
    expect(() => stipple([], { share }, settings, 1)).toThrow(PageError);
    expect(() => stipple(loop, { share }, { size: 0 }, 1)).toThrow(/width/);
    expect(() =>
      stipple(
        loop.map(({ x, y }) => ({ x: 40 * x, y: 40 * y })),
        { share },
        settings,
        1,
      ),
    ).toThrow(/some [\d,]+ dots/);
    expect(stipple(loop, { share: 0 }, settings, 1)).toHaveLength(0);
  });
});

describe('a shaker', () => {
  it('strews more the harder it is pressed, and never two dots nearer than their size', () => {
    const shaken = (pressure: number, there?: Float64Array) => {
      const shaker = new Shaker({ ...settings, radius: 60, share: 0.3 }, 1, there);
      for (let k = 0; k < 120; k++) shaker.shake({ x: 100 + k, y: 100 }, pressure);
      return shaker.fallenAfter(0);
    };
    const [light, hard] = [shaken(0.1), shaken(1)];
    expect(hard.length).toBeGreaterThan(3 * light.length);
    const all = places(hard);
    all.forEach((p, k) => expect(nearestTo(all, p, k)).toBeGreaterThan(settings.size));
    // Over what lies there already it adds next to nothing.
    const again = shaken(1, hard);
    expect(again.length).toBeLessThan(hard.length / 3);
    for (const p of places(again)) expect(nearestTo(all, p)).toBeGreaterThan(settings.size);
  });
});

describe('many dots as one thing', () => {
  const dots: DotsEntity = {
    ...{ kind: 'dots', id: 'd', layerId: 'inks', order: 'a0', fill: { as: 'colour', color: '#14161a' } },
    dots: Float64Array.of(10, 10, 4, 700, 20, 6, 30, 900, 8),
  };

  it('passes the gate, and names what is wrong', () => {
    expect(checkEntity(dots)).toEqual(dots);
    expect(() => checkEntity({ ...dots, dots: [1, 2] })).toThrow(/x, y and width/);
    expect(() => checkEntity({ ...dots, dots: [1, 2, -3] })).toThrow(/px wide/);
    expect(() => checkEntity({ ...dots, fill: { as: 'tone' } })).toThrow(PageError);
  });

  it('is painted by the dots that are seen, each as large as it is', () => {
    const marks = marksOf(dots);
    expect(marks).toHaveLength(3);
    expect(markBox(dots)).toEqual({ minX: 8, minY: 8, maxX: 703, maxY: 904 });
    expect(marksOf({ ...dots, fill: { as: 'nothing' } }).every(({ cuts }) => cuts)).toBe(true);
    const wide = shownUnder(dots, { widthFactor: 2, color: '#aa0000', edge: 'soft' });
    expect(marksOf(wide)[0]).toMatchObject({ color: '#aa0000', box: { minX: 6, maxX: 14 } });
  });

  it('is touched, found, scaled, copied, and rubbed dot by dot', () => {
    const at = (x: number, y: number): Point => ({ x, y });
    expect(gapTo(dots, at(10, 15), at(10, 15), 20)).toBeCloseTo(3, 6);
    expect(foundInLoop([dots], [at(0, 0), at(720, 0), at(720, 920), at(0, 920)], { whole: true })).toHaveLength(1);
    expect(foundInLoop([dots], [at(0, 0), at(100, 0), at(100, 920), at(0, 920)], { whole: true })).toHaveLength(0);
    const [large] = mapped([dots], projectiveOf(scaling(2)), { scaleWidth: true });
    expect([...large.dots.slice(0, 3)]).toEqual([20, 20, 8].map((value) => expect.closeTo(value, 6)));
    const [back] = svgToDrawn(drawnToSvg([dots]), liner);
    expect(back).toMatchObject({ kind: 'dots', dots: dots.dots });
    const swept = { course: [at(690, 10), at(690, 40)], radius: 10 };
    expect(rubbedDots([dots], swept)[0].after).toMatchObject({ dots: Float64Array.of(10, 10, 4, 30, 900, 8) });
    expect(rubbedDots([dots], { ...swept, course: [at(200, 200)] })).toHaveLength(0);
    expect(dotsLeft(dots, () => true)?.dots).toHaveLength(0);
  });
});
