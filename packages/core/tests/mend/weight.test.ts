import fc from 'fast-check';
import ClipperLib from 'clipper-lib';
import { courseOf, endOf, lengthOf, nodeCount } from '../../src/curve';
import { drawStroke } from '../../src/ink';
import {
  cutByLoop,
  poolEdits,
  reversed,
  reweigh,
  rubStroke,
  swell,
  tug,
  weighed,
  Widths,
  withNib,
} from '../../src/mend';
import { checkStroke, type Stroke, type StrokeEntity } from '../../src/stroke';
import { area, inkArea, inkBetween, inkOf, toRing } from '../areas';
import { asBlot, brush, drawn, edgeKinkOf, even, liner, raw, wave } from '../hands';
import { bar, circle, entities, kinkOf, straightSpine, widthAt } from './lines';

describe('weights', () => {
  const level = straightSpine([0, 0], [400, 0], 10);
  const hand = (pressure: (t: number) => number) =>
    Array.from({ length: 80 }, (_, k) => ({ x: 100 + (200 * k) / 79, y: 2, pressure: pressure(k / 79), time: 8 * k }));

  it('are drawn anew under pressure, and blend into what was there', () => {
    const spine = reweigh(
      level,
      hand(() => 1),
      { ...brush, size: 24 },
      15,
    );
    expect(widthAt(spine, 200)).toBeCloseTo(24, 0);
    expect(widthAt(spine, 50)).toBeCloseTo(10, 6);
    expect(widthAt(spine, 350)).toBeCloseTo(10, 6);
    expect(widthAt(spine, 108)).toBeLessThan(14);
    expect(lengthOf(courseOf(spine))).toBeCloseTo(400, 3);
    expect(
      reweigh(
        level,
        hand(() => 1).map((one) => ({ ...one, y: 40 })),
        brush,
        15,
      ),
    ).toBe(level);
  });

  it('follow a profile where a mouse has no pressure', () => {
    const spine = reweigh(
      level,
      hand(() => 0.5),
      { ...liner, size: 20 },
      15,
      'lens',
    );
    for (const along of [100.5, 150, 200, 250, 299])
      expect(Math.abs(widthAt(spine, along) - 20 * Math.sin((Math.PI * (along - 100)) / 200))).toBeLessThan(0.8);
  });

  it('grow and shrink towards the width that the brush strives for, faster with pressure', () => {
    const run = (pressure: number, width: number) => {
      const widths = new Widths(level);
      for (let x = 100; x < 300; x += 4)
        swell(widths, level, { x: x - 4, y: 0, pressure }, { x, y: 0, pressure }, { width, radius: 30 });
      return widths.apply();
    };
    expect(widthAt(run(1, 20), 200)).toBeGreaterThan(16);
    expect(widthAt(run(1, 20), 200)).toBeLessThanOrEqual(20.01);
    expect(widthAt(run(0.3, 20), 200)).toBeLessThan(widthAt(run(1, 20), 200));
    expect(widthAt(run(1, 4), 200)).toBeLessThan(6);
    expect(widthAt(run(1, 20), 40)).toBeCloseTo(10, 6);
    const far = new Widths(level);
    expect(
      swell(far, level, { x: 0, y: 200, pressure: 1 }, { x: 9, y: 200, pressure: 1 }, { width: 20, radius: 30 }),
    ).toBe(false);
    expect(far.apply()).toBe(level);
  });

  it('swell alike under a quick hand that tells few places and a slow one', () => {
    const course = straightSpine([0, 0], [400, 0], 10);
    const passed = (step: number) => {
      const passing = new Widths(course);
      for (let x = step; x <= 400; x += step)
        swell(passing, course, { x: x - step, y: 0, pressure: 1 }, { x, y: 0, pressure: 1 }, { width: 24, radius: 20 });
      return passing.apply();
    };
    const [slow, quick] = [passed(2), passed(80)];
    for (let along = 40; along <= 360; along += 5)
      expect(Math.abs(widthAt(quick, along) - widthAt(slow, along))).toBeLessThan(0.6);
    expect(widthAt(quick, 200)).toBeGreaterThan(18);
  });

  it('that were drawn anew, swelled or pooled go on smoothly, by few nodes', () => {
    const samples = drawn(wave, { count: 120, pressure: (t) => 0.4 + 0.2 * Math.sin(6 * t) });
    const { spine } = drawStroke(samples, brush, even(40));
    const across = new Widths(spine);
    for (let y = 100; y < 300; y += 10)
      swell(
        across,
        spine,
        { x: 260, y, pressure: 0.8 },
        { x: 262, y: y + 10, pressure: 0.8 },
        { width: 40, radius: 50 },
      );
    const pressed = samples.slice(30, 90).map((sample, k) => ({ ...sample, pressure: 0.3 + 0.5 * Math.sin(k / 19) }));
    const crossing = drawStroke(
      drawn((t) => [150 + 120 * t, 330 - 260 * t]),
      liner,
      raw,
    );
    const pool = { radius: 40, strength: 0.8, angle: Math.PI };
    const [met] = poolEdits(entities([{ ...crossing, spine }, crossing]), pool);
    for (const changed of [across.apply(), reweigh(spine, pressed, brush, 30), (met.after as StrokeEntity).spine]) {
      expect(changed).not.toBe(spine);
      // A tenth of a degree; widths that only lay near those asked for turned by 4°.
      expect(edgeKinkOf(changed)).toBeLessThan(0.002);
      expect(nodeCount(changed)).toBeLessThan(nodeCount(spine) + 20);
    }
  });

  it('go on smoothly where a closed line begins, from wherever it is touched', () => {
    // A ring that is wide below, so that its width rises at the seam, which lies at its right.
    const points = circle(300, 300, 120).spine.points.slice();
    for (let i = 0; i < points.length; i += 3) points[i + 2] = 12 + points[i + 1] / 40;
    const ring = { points, closed: true };
    const [x, y] = points;
    const touches = [
      [0, 0],
      [0, 9],
      [0, -9],
      [4, 30],
      [4, -30],
    ] as const;
    for (const [dx, dy] of touches) {
      const widths = new Widths(ring);
      const at = { x: x + dx, y: y + dy, pressure: 0.8, time: 0 };
      expect(swell(widths, ring, at, { ...at, y: at.y + 6 }, { width: 30, radius: 28 })).toBe(true);
      const changed = widths.apply();
      const last = changed.points.length - 3;
      expect(changed.points[last + 2]).toBeCloseTo(changed.points[2], 9);
      expect(edgeKinkOf(changed)).toBeLessThan(0.002);
    }
  });

  it('that were drawn anew are not told by the samples any more, and the line lies on its guide still', () => {
    const line: Stroke = {
      ...bar([0, 0], [400, 0], 10),
      origin: { samples: 's', calm: raw, zoom: 1 },
      guide: { id: 'g', path: { kind: 'line', x: 0, y: 0, dx: 1, dy: 0 } },
    };
    const profiled = weighed(line, { deed: 'profile', profile: 'lens', width: 10 });
    expect([profiled.origin?.left, profiled.guide?.id]).toEqual(['edited', 'g']);
    expect(weighed(line, { deed: 'times', factor: 2 }).origin?.left).toBeUndefined();
  });

  it('of whole lines are multiplied, set, profiled and tapered', () => {
    const line = bar([0, 0], [400, 0], 10);
    expect(widthAt(weighed(line, { deed: 'times', factor: 1.5 }).spine, 200)).toBeCloseTo(15, 6);
    expect(weighed(line, { deed: 'times', factor: 1.5 }).nib.size).toBe(15);
    expect(widthAt(weighed(line, { deed: 'width', width: 7 }).spine, 10)).toBe(7);
    expect(widthAt(weighed(line, { deed: 'profile', profile: 'in', width: 10 }).spine, 0)).toBe(0);
    const pointed = weighed(line, { deed: 'taper', length: 10 }).spine;
    expect([widthAt(pointed, 0), widthAt(pointed, 200), widthAt(pointed, 400)].map((w) => Math.round(w))).toEqual([
      0, 10, 0,
    ]);
    const ring = circle(0, 0, 50);
    expect(weighed(ring, { deed: 'taper', length: 10 })).toBe(ring);
  });
});

describe('pooling', () => {
  const vee = entities([bar([0, 0], [200, 0], 6), bar([0, 30], [200, -30], 6), bar([150, -80], [150, 80], 6)]);

  it('gathers ink where lines meet at sharp angles only, and thins ends the other way', () => {
    const settings = { radius: 30, strength: 0.6, angle: 0.7 };
    const edits = poolEdits(vee, settings);
    // The upright one crosses both at a right angle, nearly: it stays.
    expect(edits.map(({ before }) => (before as StrokeEntity).id)).toEqual(['line-0', 'line-1']);
    const after = edits[0].after as StrokeEntity;
    expect(widthAt(after.spine, 100)).toBeCloseTo(6 * 1.6, 1);
    expect(widthAt(after.spine, 20)).toBeCloseTo(6, 6);
    expect(poolEdits(vee, { ...settings, strength: 0 })).toEqual([]);
    expect(poolEdits(vee, { ...settings, strength: -0.5 })).toEqual([]);
    const tee = entities([bar([0, 0], [200, 0], 6), bar([100, 2], [100, 90], 6)]);
    const thin = poolEdits(tee, { radius: 30, strength: -0.5, angle: 2 });
    expect(thin.map(({ before }) => (before as StrokeEntity).id)).toEqual(['line-1']);
    expect(widthAt((thin[0].after as StrokeEntity).spine, 0)).toBeCloseTo(3, 1);
  });
});

describe('the pare knife', () => {
  const level = bar([0, 100], [400, 100], 12);
  const loop = [
    { x: 150, y: 0 },
    { x: 260, y: 0 },
    { x: 230, y: 200 },
    { x: 170, y: 200 },
  ];

  it('leaves bevelled ends exactly on the loop', () => {
    const pieces = cutByLoop(level, loop)!;
    expect(pieces).toHaveLength(2);
    // Source: clipper-lib 6.4.2, difference and intersection of the inked shape and the loop.
    const ring = toRing(loop.flatMap(({ x, y }) => [x, y]));
    const wanted = area(ClipperLib.ClipType.ctDifference, inkOf([level]), [ring]);
    expect(Math.abs(inkArea(pieces) - wanted)).toBeLessThan(0.5);
    expect(area(ClipperLib.ClipType.ctIntersection, inkOf(pieces), [ring])).toBeLessThan(0.1);
    const [middle, ...more] = cutByLoop(level, loop, { outside: true })!;
    expect(more).toEqual([]);
    expect(Math.abs(inkArea([middle]) - (inkArea([level]) - wanted))).toBeLessThan(0.5);
  });

  it('sharpens a taper: a loop laid slantwise shaves a point', () => {
    const wedge = [
      { x: 300, y: 120 },
      { x: 300, y: 107 },
      { x: 406, y: 97 },
      { x: 420, y: 120 },
    ];
    const other = wedge.map(({ x, y }) => ({ x, y: 200 - y }));
    const pointed = cutByLoop(cutByLoop(level, wedge)![0], other)!;
    const rings = [wedge, other].map((corners) => toRing(corners.flatMap(({ x, y }) => [x, y])));
    const wanted = area(ClipperLib.ClipType.ctDifference, inkOf([level]), rings.slice(0, 1));
    expect(Math.abs(inkArea(cutByLoop(level, wedge)!) - wanted)).toBeLessThan(0.5);
    expect(area(ClipperLib.ClipType.ctIntersection, inkOf(pointed), rings.slice(1))).toBeLessThan(0.5);
  });

  it('opens rings, takes what lies inside whole, and leaves alone what it does not touch', () => {
    const ring = circle(200, 100, 60);
    const pieces = cutByLoop(ring, loop)!;
    const polygon = toRing(loop.flatMap(({ x, y }) => [x, y]));
    expect(Math.abs(inkArea(pieces) - area(ClipperLib.ClipType.ctDifference, inkOf([ring]), [polygon]))).toBeLessThan(
      0.5,
    );
    expect(cutByLoop(bar([190, 100], [210, 100], 4), loop)).toEqual([]);
    expect(cutByLoop(bar([0, 0], [50, 0], 4), loop)).toBeUndefined();
    expect(cutByLoop(level, loop.slice(0, 2))).toBeUndefined();
  });

  it.each([
    [
      [-20, -20],
      [20, -20],
      [20, 0],
      [-20, 0],
    ],
    [
      [-20, -20],
      [0, -20],
      [0, 20],
      [-20, 20],
    ],
    [
      [3, -20],
      [20, -20],
      [20, 20],
      [3, 20],
    ],
    [
      [-20, 4],
      [20, 4],
      [20, 20],
      [-20, 20],
    ],
  ])('takes of a dot what lies inside, from whichever side it comes (%p)', (...corners) => {
    const dot = drawStroke([{ x: 0, y: 0, pressure: 1 }], liner, raw);
    const half = corners.map(([x, y]) => ({ x, y }));
    const polygon = toRing(corners.flat());
    const wanted = area(ClipperLib.ClipType.ctDifference, inkOf([dot]), [polygon]);
    expect(Math.abs(inkArea(cutByLoop(dot, half)!) - wanted)).toBeLessThan(0.5);
    const inside = cutByLoop(dot, half, { outside: true })!;
    expect(Math.abs(inkArea(inside) - (inkArea([dot]) - wanted))).toBeLessThan(0.5);
    const away = half.map(({ x, y }) => ({ x: x + 90, y }));
    expect(cutByLoop(dot, away)).toBeUndefined();
    expect(cutByLoop(dot, away, { outside: true })).toEqual([]);
  });
});

describe('lines as other lines', () => {
  it('are drawn again from their samples with another nib, or scaled where they have none', () => {
    const samples = drawn(wave, { count: 80, pressure: (t) => t });
    const line: Stroke = { ...drawStroke(samples, brush, raw), origin: { samples: 's', calm: raw, zoom: 1 } };
    const big = { ...brush, size: 40 };
    expect(withNib(line, big, samples).spine.points).toEqual(drawStroke(samples, big, raw).spine.points);
    expect(withNib(bar([0, 0], [100, 0], 10), { ...liner, size: 5 }).spine.points[2]).toBe(5);
  });

  it('look the same reversed', () => {
    const line = drawStroke(drawn(wave, { count: 80, pressure: (t) => t }), brush, raw);
    expect(inkBetween([line], [reversed(line)])).toBeLessThan(0.5);
    expect(reversed(reversed(line)).spine).toEqual(line.spine);
  });

  it('that are blots lose what a rubber or a knife goes over, as a polygon library cuts it', () => {
    const blot = asBlot(bar([0, 100], [200, 100], 40));
    const way = [
      { x: 100, y: 0 },
      { x: 100, y: 200 },
    ];
    const halves = rubStroke(blot, way, 10)!;
    expect(halves).toHaveLength(2);
    expect(inkArea(halves)).toBeCloseTo(inkArea([blot]) - 20 * 40, -0.7);
    expect(rubStroke(blot, [{ x: 100, y: 300 }], 10)).toBeUndefined();
    const square = [
      { x: 50, y: 0 },
      { x: 150, y: 0 },
      { x: 150, y: 200 },
      { x: 50, y: 200 },
    ];
    const inner = cutByLoop(blot, square, { outside: true })!;
    expect(inkArea(inner)).toBeCloseTo(100 * 40, -0.7);
    expect(inkArea(cutByLoop(blot, square)!)).toBeCloseTo(inkArea([blot]) - 100 * 40, -0.7);
    expect(halves.every(({ fills }) => fills)).toBe(true);
  });

  it('keep their cut ends through a check, and ends that are no rings are refused', () => {
    const [piece] = cutByLoop(bar([0, 100], [400, 100]), [
      { x: 200, y: 0 },
      { x: 500, y: 0 },
      { x: 450, y: 200 },
    ])!;
    const [entity] = entities([piece]);
    expect(
      checkStroke(
        JSON.parse(
          JSON.stringify({
            ...entity,
            spine: { ...entity.spine, points: [...entity.spine.points] },
            ends: entity.ends.map((end) => (typeof end === 'string' ? end : { gone: [...end.gone] })),
          }),
        ),
      ),
    ).toEqual(entity);
    expect(() => checkStroke({ ...entity, ends: ['round', { gone: [1, 2, 3, 4] }] })).toThrow('gone');
    expect(() => checkStroke({ ...entity, ends: ['round', { gone: [1, 2, NaN, 4, 5, 6] }] })).toThrow();
    expect(() => checkStroke({ ...entity, ends: ['round', 'pointed'] })).toThrow();
  });

  it('stay as smooth as they were where they are tugged, wherever that is', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 0.95, noNaN: true }), (share) => {
        const spine = drawStroke(drawn(wave, { count: 120, tremor: 0.4 }), liner, even(20)).spine;
        const grip = share * endOf(spine);
        const pulled = tug(spine, grip, { x: 5, y: -8 }, { radius: 90, falloff: 0.3, isPinned: true });
        expect(kinkOf(pulled)).toBeLessThan(kinkOf(spine) + 0.05);
      }),
      { numRuns: 12 },
    );
  });
});
