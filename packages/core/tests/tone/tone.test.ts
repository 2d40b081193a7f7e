import { checkFill, checkTone, nested, type Area, type Screen, type ToneFill } from '../../src/area';
import { areaMarks, mapped, marksAt } from '../../src/drawn';
import { areaOfRings, boxOfRings, projectiveOf, rotation, withoutRings } from '../../src/math';
import { polylineSpine, ellipseSpine } from '../../src/shapes';
import { crossedShare, dotRadius, toneDots, toneRows } from '../../src/tone';
import { darknessOf } from '../painted';
import { spectrumOf } from '../spectrum';

const square = (side: number): Pick<Area, 'rings'> => ({
  rings: nested([
    polylineSpine(
      [
        { x: 0, y: 0 },
        { x: side, y: 0 },
        { x: side, y: side },
        { x: 0, y: side },
      ],
      true,
    ),
  ]),
});
const tone = (change: Partial<ToneFill> = {}): ToneFill => ({
  ...{ as: 'tone', color: '#14161a', screen: 'dots', period: 10, angle: Math.PI / 4, at: { x: 3, y: 5 }, share: 0.3 },
  ...change,
});

describe('the share of a tone', () => {
  const SCREENS: readonly Screen[] = ['dots', 'lines', 'crossed'];
  const inner = { x: 20, y: 20, side: 200 };
  it.each(SCREENS)('is what its %s cover as they are painted, from 5 to 95 of 100, to half of one', async (screen) => {
    for (const share of [0.05, 0.2, 0.5, 0.7, 0.8, 0.95]) {
      const dots = toneDots(tone({ screen, share }), square(240));
      expect(Math.abs((await darknessOf([dots], inner)) - share)).toBeLessThan(0.005);
    }
  });

  it('is none at 0 and all at 1', async () => {
    expect(toneDots(tone({ share: 0 }), square(240))).toHaveLength(0);
    expect(await darknessOf([toneDots(tone({ share: 1 }), square(240))], inner)).toBeCloseTo(1, 2);
  });

  it('goes by what screens let through that know nothing of each other (Murray 1936, after Davies)', () => {
    for (const share of [0.1, 0.5, 0.9]) {
      const each = crossedShare(share);
      expect(each + each - each * each).toBeCloseTo(share, 12);
    }
  });

  it('of round dots is the area of their circles, and of what overlaps only once', () => {
    expect(Math.PI * dotRadius(0.5) ** 2).toBeCloseTo(0.5, 12);
    expect(dotRadius(Math.PI / 4)).toBeCloseTo(0.5, 12);
    // Counted px by px, as an outside check of the closed form.
    const [radius, side] = [dotRadius(0.9), 400];
    let inside = 0;
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++) {
        const [u, v] = [(x + 0.5) / side, (y + 0.5) / side];
        const [du, dv] = [u < 0.5 ? u : 1 - u, v < 0.5 ? v : 1 - v];
        if (du * du + dv * dv < radius * radius) inside++;
      }
    expect(inside / side ** 2).toBeCloseTo(0.9, 3);
  });

  it.each(SCREENS)('of %s follows a gradient along its way', async (screen) => {
    const ramp = { shape: 'straight', from: { x: 0, y: 0 }, to: { x: 300, y: 0 }, share: 0.9 } as const;
    const dots = toneDots(tone({ screen, share: 0.1, ramp, angle: 0.4 }), square(300));
    for (const x of [50, 150, 220]) {
      const dark = await darknessOf([dots], { x, y: 100, side: 60 });
      expect(Math.abs(dark - (0.1 + (0.8 * (x + 30)) / 300))).toBeLessThan(0.015);
    }
  });
});

describe('the screen of a tone', () => {
  const size = 256;
  /** The strongest frequency of a tone in whole px: its period, px, and its angle, degrees within a quarter turn. */
  function peakOf(fill: ToneFill) {
    const rows = { map: [1, 0, 0, 1, 0, 0] as const, x: 0, y: 0, width: size, height: size };
    const power = spectrumOf(toneRows(fill, rows, square(size)), size);
    let [best, u, v] = [0, 0, 0];
    for (let k = 0; k < power.length; k++) {
      const [x, y] = [k % size, Math.floor(k / size)];
      if (power[k] > best && y < size / 2) [best, u, v] = [power[k], x < size / 2 ? x : x - size, y];
    }
    const turn = (Math.atan2(v, u) * 180) / Math.PI;
    return { period: size / Math.hypot(u, v), angle: ((turn % 90) + 90) % 90 };
  }

  it.each([
    [60, 45],
    [55, 20],
    [65, 70],
  ])('of %p lines per inch at %p° has that period and angle: the peak of its Fourier transform', (lpi, degrees) => {
    const period = 600 / lpi;
    const fill = tone({ period, angle: (degrees * Math.PI) / 180, share: 0.35 });
    for (const screen of ['dots', 'lines'] as const) {
      const peak = peakOf({ ...fill, screen });
      // The transform of so many px tells frequencies half a step apart.
      expect(Math.abs(peak.period / period - 1)).toBeLessThan(0.03);
      expect(Math.abs(peak.angle - degrees)).toBeLessThan(1.5);
    }
  });
});

describe('the edge of a tone', () => {
  it('cuts its dots: none reaches beyond, and none is missing beside a hole', () => {
    const rings = nested([
      ellipseSpine({ centre: { x: 300, y: 300 }, rx: 280, ry: 200 }),
      ellipseSpine({ centre: { x: 300, y: 300 }, rx: 120, ry: 60 }),
    ]);
    const fill = tone({ share: 0.4, period: 14 });
    const dots = toneDots(fill, { rings });
    const { minX, maxX, minY, maxY } = boxOfRings(dots);
    expect(minX).toBeGreaterThanOrEqual(19.9);
    expect(maxX).toBeLessThanOrEqual(580.1);
    expect(minY).toBeGreaterThanOrEqual(99.9);
    expect(maxY).toBeLessThanOrEqual(500.1);
    const whole = Math.PI * (280 * 200 - 120 * 60);
    expect(Math.abs(areaOfRings(withoutRings(dots, [])) / whole - 0.4)).toBeLessThan(0.005);
  });
});

describe('a tone in whole px', () => {
  it.each([0.1, 0.35, 0.6, 0.9])('inks a share of %p of them', (share) => {
    const rows = { map: [1, 0, 0, 1, 0, 0] as const, x: 0, y: 0, width: 300, height: 300 };
    for (const screen of ['dots', 'lines', 'crossed'] as const) {
      const px = toneRows(tone({ screen, share, angle: (40 * Math.PI) / 180, period: 9.7 }), rows, square(300));
      const inked = px.reduce((sum, value) => sum + value, 0);
      expect(Math.abs(inked / 90_000 - share)).toBeLessThan(0.005);
    }
  });
});

describe('a tone that is seen', () => {
  const { rings } = square(400);
  const [coarse] = areaMarks({ rings, fill: tone() });

  it('small is the grey of its share, and from its dots on they themselves', () => {
    expect(coarse.opacity).toBe(0.3);
    expect(marksAt([coarse], 0.39)).toEqual([coarse]);
    expect(marksAt([coarse], 0.4).length).toBeGreaterThan(1);
    expect(marksAt([coarse], 1).every(({ opacity }) => opacity === 1)).toBe(true);
    // However fine it is, at its true size it is dots.
    const [fine] = areaMarks({ rings, fill: tone({ period: 2 }) });
    expect(marksAt([fine], 1)).not.toContain(fine);
  });
});

it('a tone goes along with its area and turns with it, and stays as fine as it is', () => {
  const entity = { kind: 'area', id: 'a', layerId: 'inks', order: 'a0', ...square(100), fill: tone() } as const;
  const turned = rotation(0.5);
  const [moved] = mapped([entity], projectiveOf([2 * turned[0], 2 * turned[1], 2 * turned[2], 2 * turned[3], 7, 9]), {
    scaleWidth: true,
  });
  if (moved.fill.as !== 'tone') throw new Error('It is no tone any more.');
  expect(moved.fill.period).toBe(10);
  expect(moved.fill.angle).toBeCloseTo(Math.PI / 4 + 0.5, 12);
  expect(moved.fill.at.x).toBeCloseTo(2 * (3 * Math.cos(0.5) - 5 * Math.sin(0.5)) + 7, 12);
});

it('an area of too many dots is refused with their number', () => {
  expect(() => checkTone(tone({ period: 1 }), square(3000))).toThrow(/9 million dots/);
});

it('a fill from outside names what is wrong with it', () => {
  const from = { x: 0, y: 0 };
  expect(checkFill(tone())).toEqual(tone());
  expect(() => checkFill({ ...tone(), period: 0 })).toThrow(/"period" needs a number from 1/);
  expect(() => checkFill({ ...tone(), share: 1.2 })).toThrow(/"share"/);
  expect(() => checkFill({ as: 'gradient', ramp: { shape: 'round', from, to: from }, stops: [] })).toThrow(
    /from one place/,
  );
  const ramp = { shape: 'round', from, to: { x: 9, y: 0 } };
  expect(() => checkFill({ as: 'gradient', ramp, stops: [{ at: 0, color: '#000000' }] })).toThrow(/two colours/);
  const stops = [
    { at: 1, color: '#000000' },
    { at: 0, color: '#ffffff' },
  ];
  expect(() => checkFill({ as: 'gradient', ramp, stops })).toThrow(/in their order/);
});
