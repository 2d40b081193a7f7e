import sharp from 'sharp';
import { checkFill, nested, type Area, type Screen, type ToneFill } from '../../src/area';
import { areaMarks, marksAt } from '../../src/drawn';
import { areaOfRings, boxOfRings, withoutRings } from '../../src/math';
import { polylineSpine, ellipseSpine } from '../../src/shapes';
import { crossedShare, dotRadius, toneDots, toneRows } from '../../src/tone';

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
const covered = (fill: ToneFill, area: Pick<Area, 'rings'>) => areaOfRings(withoutRings(toneDots(fill, area), []));

describe('the share of a tone', () => {
  const SCREENS: readonly Screen[] = ['dots', 'lines', 'crossed'];
  it.each(SCREENS)('is what its %s cover, from 5 to 95 of 100, to half of one', (screen) => {
    const area = square(600);
    for (const share of [0.05, 0.2, 0.5, 0.7, 0.8, 0.95])
      expect(Math.abs(covered(tone({ screen, share }), area) / 600 ** 2 - share)).toBeLessThan(0.005);
  });

  it('is none at 0 and all at 1', () => {
    expect(toneDots(tone({ share: 0 }), square(200))).toHaveLength(0);
    expect(covered(tone({ share: 1 }), square(200)) / 200 ** 2).toBeCloseTo(1, 3);
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
    const [radius, side] = [dotRadius(0.9), 1000];
    let inside = 0;
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++) {
        const [u, v] = [(x + 0.5) / side, (y + 0.5) / side];
        if (Math.hypot(Math.min(u, 1 - u), Math.min(v, 1 - v)) < radius) inside++;
      }
    expect(inside / side ** 2).toBeCloseTo(0.9, 3);
  });

  it('follows a gradient along its way', () => {
    const ramp = { shape: 'straight', from: { x: 0, y: 0 }, to: { x: 600, y: 0 }, share: 0.9 } as const;
    for (const screen of SCREENS) {
      const rings = toneDots(tone({ screen, share: 0.1, ramp }), square(600));
      for (const k of [0, 1, 2, 3, 4, 5]) {
        const band = square(1).rings.length && [
          Float64Array.of(100 * k, 0, 100 * k + 100, 0, 100 * k + 100, 600, 100 * k, 600),
        ];
        const left = withoutRings(band || [], rings);
        const share = 1 - areaOfRings(left) / 60_000;
        expect(Math.abs(share - (0.1 + (0.8 * (k + 0.5)) / 6))).toBeLessThan(0.01);
      }
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
    const rows = { map: [1, 0, 0, 1, 0, 0] as const, x: 0, y: 0, width: 600, height: 600 };
    for (const screen of ['dots', 'lines', 'crossed'] as const) {
      const px = toneRows(tone({ screen, share, angle: (40 * Math.PI) / 180, period: 9.7 }), rows, square(600));
      const inked = px.reduce((sum, value) => sum + value, 0);
      expect(Math.abs(inked / 360_000 - share)).toBeLessThan(0.005);
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

void sharp;
