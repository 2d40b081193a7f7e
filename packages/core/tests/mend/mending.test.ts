import fc from 'fast-check';
import ClipperLib from 'clipper-lib';
import simplify from 'simplify-js';
import fitCurve from 'fit-curve';
import { feature } from 'topojson-client';
import land110 from 'world-atlas/land-110m.json';
import {
  courseOf,
  directionAt,
  endOf,
  flattenSpine,
  isSmooth,
  lengthOf,
  makeSpine,
  nodeCount,
  placeAlong,
  placeOf,
  pointAt,
  segmentCount,
  spineLength,
  type Spine,
} from '../../src/curve';
import { drawStroke, OUTLINE_TOLERANCE, outlineOf } from '../../src/ink';
import {
  asBlots,
  bridge,
  bridgeEdits,
  bridgesAmong,
  Cover,
  cutByLoop,
  cutUnder,
  ease,
  poolEdits,
  retrace,
  reversed,
  reweigh,
  swell,
  tidyEnds,
  tidying,
  tug,
  turnBetween,
  weighed,
  Widths,
  withNib,
} from '../../src/mend';
import { checkStroke, type Stroke, type StrokeEntity } from '../../src/page';
import { area, inkArea, inkBetween, inkOf, toRing } from '../areas';
import { brush, drawn, even, liner, raw, wave } from '../hands';
import { bar, circle, entities, straightSpine } from './lines';

const widthAt = (spine: Spine, along: number) =>
  pointAt(spine, placeOf(spine, placeAlong(courseOf(spine), along))).width;
const at = (spine: Spine, along: number) => pointAt(spine, placeOf(spine, placeAlong(courseOf(spine), along)));

/** The greatest turn at any inner node, radians. */
function kinkOf(spine: Spine): number {
  let worst = 0;
  for (let k = spine.closed ? 0 : 1; k < segmentCount(spine); k++) {
    const before = directionAt(spine, { segment: k === 0 ? segmentCount(spine) - 1 : k - 1, t: 1 });
    const after = directionAt(spine, { segment: k, t: 0 });
    worst = Math.max(worst, Math.acos(Math.min(1, before.x * after.x + before.y * after.y)));
  }
  return worst;
}

describe('tidying ends', () => {
  /** A house drawn with overshoots: walls, floor, eaves and two roof lines. */
  const house = entities([
    bar([100, 70], [100, 315], 6),
    bar([300, 75], [300, 318], 6),
    bar([85, 300], [312, 300], 6),
    bar([80, 100], [320, 100], 6),
    bar([88, 112], [212, -12], 6),
    bar([312, 112], [188, -12], 6),
  ]);

  it('snips all overshoots of a house, and leaves its corners closed', () => {
    const { edits, report } = tidyEnds(house, { overshoot: 40, gap: 0 });
    expect(report.every(({ kind }) => kind === 'overshoot')).toBe(true);
    expect(report).toHaveLength(12);
    const after = house.map((line) => (edits.find(({ before }) => before === line)?.after ?? line) as StrokeEntity);
    // Nothing stands out beyond the roof, the walls and the floor, by more than a hair.
    const outline = toRing([97, 303, 97, 103, 90.5, 103, 200, -8.3, 309.5, 103, 303, 103, 303, 303]);
    expect(area(ClipperLib.ClipType.ctDifference, inkOf(after), [outline])).toBeLessThan(12);
    // Each corner of the floor is a whole square of 6 px.
    for (const x of [100, 300]) {
      const square = toRing([x - 2.9, 297.1, x + 2.9, 297.1, x + 2.9, 302.9, x - 2.9, 302.9]);
      expect(area(ClipperLib.ClipType.ctIntersection, inkOf(after), [square])).toBeCloseTo(5.8 * 5.8, 0);
    }
    // What is tidy stays as it is.
    expect(tidyEnds(after, { overshoot: 40, gap: 0 }).edits).toEqual([]);
  });

  it('keeps exceptions, longer ends and lines that may not be changed', () => {
    const all = tidyEnds(house, { overshoot: 40, gap: 0 });
    const exceptions = new Set([all.report[0].key]);
    const some = tidyEnds(house, { overshoot: 40, gap: 0, exceptions });
    expect(some.report.filter(({ isException }) => isException).map(({ key }) => key)).toEqual([...exceptions]);
    expect(some.report).toHaveLength(12);
    expect(tidyEnds(house, { overshoot: 5, gap: 0 }).report).toEqual([]);
    const { edits } = tidyEnds(house, { overshoot: 40, gap: 0, mayChange: ({ id }) => id === 'line-2' });
    expect(edits.map(({ before }) => before)).toEqual([house[2]]);
    const work = tidying(house, { overshoot: 40, gap: 0 });
    expect(work.next()).toEqual({ done: false, value: 0 });
  });

  it('grows ends that fall short within the gap, flush into the line they meet', () => {
    const lines = entities([bar([0, 100], [180, 100], 8), bar([200, 0], [200, 200], 12)]);
    expect(tidyEnds(lines, { overshoot: 10, gap: 0 }).edits).toEqual([]);
    expect(tidyEnds(lines, { overshoot: 10, gap: 4 }).edits).toEqual([]);
    const { edits, report } = tidyEnds(lines, { overshoot: 10, gap: 12 });
    expect(report).toEqual([expect.objectContaining({ key: 'line-0:1', kind: 'short' })]);
    expect(report[0].length).toBeCloseTo(10, 1);
    const after = edits[0].after as StrokeEntity;
    expect(inkBetween([after, lines[1]], [bar([0, 100], [200, 100], 8), lines[1]])).toBeLessThan(0.5);
  });
});

describe('tugging', () => {
  const arc = circle(200, 200, 100).spine;
  const level = straightSpine([0, 0], [400, 0]);

  it('puts the line where the hand pulls it, and leaves all beyond the reach as it was', () => {
    const pulled = tug(level, 0.5, { x: 0, y: 30 }, { radius: 100, falloff: 0, isPinned: true });
    expect(at(pulled, lengthOf(courseOf(pulled)) / 2).y).toBeCloseTo(30, 1);
    const line = flattenSpine(pulled, 0.02);
    for (let i = 0; i < line.length; i += 3) {
      if (Math.abs(line[i] - 200) > 100) expect(Math.abs(line[i + 1])).toBeLessThan(0.05);
      expect(line[i + 2]).toBeCloseTo(10, 6);
      // Source: the bow itself, (1 − x²)² of the step: followed within a tenth of a px.
      const x = (line[i] - 200) / 100;
      if (Math.abs(x) < 1) expect(Math.abs(line[i + 1] - 30 * (1 - x * x) ** 2)).toBeLessThan(0.35);
    }
    expect(kinkOf(pulled)).toBeLessThan(1e-6);
  });

  it('keeps smooth lines smooth, rings closed and pinned ends where they are', () => {
    const ring = tug(arc, 0.02, { x: 40, y: -10 }, { radius: 120, falloff: 0.5, isPinned: false });
    expect(ring.closed).toBe(true);
    expect([ring.points[0], ring.points[1]]).toEqual([...ring.points.slice(-3, -1)]);
    expect(kinkOf(ring)).toBeLessThan(1e-6);
    const pinned = tug(level, 0.1, { x: 0, y: 20 }, { radius: 150, falloff: 0, isPinned: true });
    expect([pinned.points[0], pinned.points[1]]).toEqual([0, 0]);
    const free = tug(level, 0, { x: 0, y: 20 }, { radius: 150, falloff: 0, isPinned: false });
    expect(free.points[1]).toBeCloseTo(20, 6);
  });

  it('adds no more nodes when it goes on pulling', () => {
    let spine = level;
    spine = tug(spine, 0.5, { x: 0, y: 10 }, { radius: 100, falloff: 0, isPinned: true });
    const nodes = nodeCount(spine);
    for (let k = 0; k < 5; k++)
      spine = tug(spine, placeAlong(courseOf(spine), 200), { x: 0, y: 2 }, { radius: 100, falloff: 0, isPinned: true });
    expect(nodeCount(spine)).toBeLessThanOrEqual(nodes + 4);
  });
});

/** The greatest distance of the points of one polyline (triples) from another, page px. */
function farthest(from: Float64Array, to: Float64Array): number {
  let worst = 0;
  for (let i = 0; i < from.length; i += 3) {
    let best = Infinity;
    for (let k = 0; k + 3 < to.length; k += 3) {
      const [dx, dy] = [to[k + 3] - to[k], to[k + 4] - to[k + 1]];
      const squared = dx * dx + dy * dy || 1;
      const t = Math.max(0, Math.min(1, ((from[i] - to[k]) * dx + (from[i + 1] - to[k + 1]) * dy) / squared));
      best = Math.min(best, Math.hypot(to[k] + t * dx - from[i], to[k + 1] + t * dy - from[i + 1]));
    }
    worst = Math.max(worst, best);
  }
  return worst;
}

/** A course as points half a px to a px apart. */
function dense(spine: Spine): Float64Array {
  const line = flattenSpine(spine, 0.05);
  const points = [...line.subarray(0, 3)];
  for (let i = 3; i < line.length; i += 3) {
    const pieces = Math.ceil(Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]));
    for (let k = 1; k <= pieces; k++)
      for (let axis = 0; axis < 3; axis++)
        points.push(line[i - 3 + axis] + (k / pieces) * (line[i + axis] - line[i - 3 + axis]));
  }
  return Float64Array.from(points);
}

const hausdorff = (a: Float64Array, b: Float64Array) => Math.max(farthest(a, b), farthest(b, a));

describe('easing', () => {
  const shaky = drawStroke(drawn(wave, { count: 300, tremor: 0.8 }), liner, raw).spine;

  it.each([0.5, 3])('keeps within %d px of the line, both ways, with fewer nodes', (tolerance) => {
    const eased = ease(shaky, tolerance);
    expect(nodeCount(eased)).toBeLessThan(nodeCount(shaky));
    // Hausdorff distance, brute force.
    expect(hausdorff(dense(eased), dense(shaky))).toBeLessThan(tolerance + 0.03);
  });

  it('keeps corners, rings and lines that are lean already', () => {
    const corner = makeSpine(
      Float64Array.from(
        [straightSpine([0, 0], [100, 0]).points.slice(0, 9), straightSpine([100, 0], [100, 80]).points].flatMap((p) => [
          ...p,
        ]),
      ),
    );
    expect(ease(corner, 2)).toBe(corner);
    const ring = circle(100, 100, 80);
    const blot = asBlots(ring)[0];
    expect(blot.spine.closed).toBe(true);
    expect(ease(ring.spine, 0.5).closed).toBe(true);
    expect(() => ease(corner, 0)).toThrow(RangeError);
    const many = drawStroke(
      drawn((t) => [200 + 90 * Math.cos(6.28318 * t), 200 + 90 * Math.sin(6.28318 * t)]),
      liner,
      raw,
    ).spine;
    const closed: Spine = { points: many.points, closed: true };
    expect(kinkOf(ease(closed, 1.5))).toBeLessThan(0.1);
  });

  it('takes fewer nodes than simplify-js and fit-curve at the same error, on coastlines', () => {
    // Source: world-atlas 2.0.2 (ISC), land 1:110m, polygons of 40 points or more, three to a degree.
    const coasts = feature(land110, land110.objects.land)
      .features.flatMap(({ geometry }) => geometry.coordinates.map(([outer]) => outer))
      .filter((ring) => ring.length > 40 && ring.length < 160)
      .slice(0, 3);
    let [ours, simplified, fitted] = [0, 0, 0];
    for (const coast of coasts) {
      const points = coast.map(([x, y]) => ({ x: 3 * x, y: -3 * y }));
      const spine = polyline(points);
      const track = dense(spine);
      const eased = ease(spine, 1);
      const error = hausdorff(dense(eased), track);
      expect(error).toBeLessThan(1.03);
      ours += nodeCount(eased);
      // Source: simplify-js 1.2.4 (Douglas & Peucker 1973), as far as it may go for the error that ours has.
      simplified += leastAt(error, track, (tolerance) => polyline(simplify(points, tolerance, true)));
      // Source: fit-curve 0.2.0 (Schneider 1990); its error is squared.
      fitted += leastAt(error, track, (tolerance) =>
        cubics(
          fitCurve(
            points.map(({ x, y }) => [x, y]),
            tolerance * tolerance,
          ),
        ),
      );
    }
    expect(ours).toBeLessThan(simplified);
    expect(ours).toBeLessThan(fitted);
  });
});

/** Nodes of the leanest line within an error, over the tolerances that a library may be asked for. */
function leastAt(error: number, track: Float64Array, make: (tolerance: number) => Spine): number {
  let [low, high] = [error / 50, error * 1.5];
  let best = Infinity;
  for (let k = 0; k < 10; k++) {
    const middle = (low + high) / 2;
    const spine = make(middle);
    if (hausdorff(dense(spine), track) <= error * 1.02) {
      best = Math.min(best, nodeCount(spine));
      low = middle;
    } else high = middle;
  }
  return Number.isFinite(best) ? best : nodeCount(make(low));
}

function polyline(points: readonly { readonly x: number; readonly y: number }[]): Spine {
  const values = [points[0].x, points[0].y, 2];
  for (let k = 1; k < points.length; k++)
    for (const t of [1 / 3, 2 / 3, 1])
      values.push(
        points[k - 1].x + t * (points[k].x - points[k - 1].x),
        points[k - 1].y + t * (points[k].y - points[k - 1].y),
        2,
      );
  return makeSpine(Float64Array.from(values));
}

const cubics = (curves: readonly (readonly (readonly number[])[])[]): Spine =>
  makeSpine(
    Float64Array.from([...curves[0][0], 2, ...curves.flatMap(([, ...rest]) => rest.flatMap(([x, y]) => [x, y, 2]))]),
  );

describe('bridging', () => {
  it('makes two ends one, smooth in course and weight', () => {
    const a = bar([0, 100], [100, 100], 8);
    const b = bar([120, 106], [240, 140], 4);
    const joined = bridge({ stroke: a, end: 1 }, { stroke: b, end: 0 });
    expect(kinkOf(joined.spine)).toBeLessThan(1e-6);
    expect(joined.spine.points.slice(0, 2)).toEqual(Float64Array.of(0, 100));
    expect([...joined.spine.points.slice(-3)]).toEqual([240, 140, 4]);
    let last = 8;
    for (let along = 0; along < spineLength(joined.spine); along += 1) {
      const width = widthAt(joined.spine, along);
      expect(width).toBeLessThanOrEqual(last + 1e-6);
      last = width;
    }
    // Whichever ends are named, the line keeps the way of the first one.
    const turned = bridge({ stroke: b, end: 0 }, { stroke: a, end: 1 });
    expect([...turned.spine.points.slice(-3)]).toEqual([240, 140, 4]);
  });

  it('takes back ends that ran past each other, and makes a line a ring', () => {
    const joined = bridge({ stroke: bar([0, 0], [110, 0]), end: 1 }, { stroke: bar([100, 3], [220, 3]), end: 0 });
    expect(kinkOf(joined.spine)).toBeLessThan(1e-6);
    const p = flattenSpine(joined.spine, 0.05);
    for (let i = 3; i < p.length; i += 3) expect(p[i]).toBeGreaterThan(p[i - 3] - 1e-9);
    const open = drawStroke(
      drawn((t) => [200 + 90 * Math.cos(6 * t), 200 + 90 * Math.sin(6 * t)]),
      liner,
      even(20),
    );
    const ring = bridge({ stroke: open, end: 1 }, { stroke: open, end: 0 });
    expect(ring.spine.closed).toBe(true);
    expect(kinkOf(ring.spine)).toBeLessThan(0.05);
  });

  it('suggests near ends within gap and turn, never across other ink unless asked', () => {
    const lines = entities([bar([0, 0], [100, 0], 4), bar([110, 0], [200, 0], 4), bar([210, 4], [210, 90], 4)]);
    const options = { gap: 15, angle: 0.6 };
    expect(bridgesAmong(lines, options).map(({ a, b }) => [a.stroke.id, b.stroke.id])).toEqual([['line-0', 'line-1']]);
    expect(bridgesAmong(lines, { ...options, angle: 2 })).toHaveLength(2);
    expect(turnBetween({ stroke: lines[1], end: 1 }, { stroke: lines[2], end: 0 })).toBeCloseTo(Math.PI / 2, 5);
    const across = entities([...lines, bar([105, -20], [105, 20], 4)]);
    expect(bridgesAmong(across, options)).toEqual([]);
    expect(bridgesAmong(across, { ...options, mayCross: true })).toHaveLength(1);
  });

  it('bridges a whole chain in one go, and each line once', () => {
    const lines = entities([0, 1, 2, 3].map((k) => bar([110 * k, 0], [110 * k + 100, 0], 4)));
    const edits = bridgeEdits(bridgesAmong(lines, { gap: 12, angle: 0.5 }));
    expect(edits).toHaveLength(4);
    const left = edits.flatMap(({ after }) => (after ? [after as StrokeEntity] : []));
    expect(left).toHaveLength(1);
    expect(spineLength(left[0].spine)).toBeCloseTo(430, 0);
  });
});

describe('drawing a part again', () => {
  const level = straightSpine([0, 0], [400, 0], 10);
  const bow = (from: number, to: number, height: number) =>
    Array.from({ length: 60 }, (_, k) => ({
      x: from + ((to - from) * k) / 59,
      y: height * Math.sin((Math.PI * k) / 59),
    }));

  it('takes the hand’s course between its sides, and the old one beyond', () => {
    const { spine, leaves } = retrace(level, bow(100, 300, 40), 12)!;
    expect(leaves).toBe(false);
    const p = flattenSpine(spine, 0.02);
    let top = 0;
    for (let i = 0; i < p.length; i += 3) {
      if (p[i] < 99 || p[i] > 301) expect(Math.abs(p[i + 1])).toBeLessThan(0.01);
      top = Math.max(top, p[i + 1]);
      expect(p[i + 2]).toBeCloseTo(10, 1);
    }
    expect(top).toBeGreaterThan(38);
    expect(kinkOf(spine)).toBeLessThan(0.02);
  });

  it('goes either way, ends where a hand ends that leaves, and knows when it was never there', () => {
    const back = retrace(level, bow(300, 100, 40), 12)!;
    expect(back.leaves).toBe(false);
    expect([...back.spine.points.slice(-3, -1)]).toEqual([400, 0]);
    const away = Array.from({ length: 40 }, (_, k) => ({ x: 200 + 3 * k, y: (k * k) / 20 }));
    const left = retrace(level, away, 12)!;
    expect(left.leaves).toBe(true);
    expect(left.spine.points[left.spine.points.length - 3]).toBeCloseTo(317, 0);
    expect(
      retrace(
        level,
        bow(100, 300, 40).map(({ x, y }) => ({ x, y: y + 50 })),
        12,
      ),
    ).toBeUndefined();
    expect(retrace(level, [{ x: 5, y: 0 }], 12)).toBeUndefined();
  });

  it('keeps a ring a ring, over its seam too', () => {
    const ring = circle(200, 200, 100).spine;
    const dent = Array.from({ length: 50 }, (_, k) => {
      const angle = -0.5 + k / 49;
      const r = 100 - 30 * Math.sin((Math.PI * k) / 49);
      return { x: 200 + r * Math.cos(angle), y: 200 + r * Math.sin(angle) };
    });
    const { spine } = retrace(ring, dent, 12)!;
    expect(spine.closed).toBe(true);
    const p = flattenSpine(spine, 0.05);
    const nearest = Math.min(
      ...Array.from({ length: p.length / 3 }, (_, k) => Math.hypot(p[3 * k] - 200, p[3 * k + 1] - 200)),
    );
    expect(nearest).toBeGreaterThan(69);
    expect(nearest).toBeLessThan(76);
  });
});

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
});

describe('merging clean', () => {
  it('cuts the lines below where those above hide them, and the inked area stays', () => {
    const front = [bar([200, 0], [200, 200], 20), circle(320, 100, 40, 12)];
    const back = bar([20, 100], [320, 104], 8);
    const pieces = cutUnder(back, new Cover(front))!;
    expect(pieces.length).toBeGreaterThanOrEqual(3);
    expect(inkBetween([...front, ...pieces], [...front, back])).toBeLessThan(0.5);
    expect(inkArea(pieces)).toBeLessThan(inkArea([back]) - 100);
    expect(cutUnder(bar([200, 50], [200, 120], 6), new Cover(front))).toEqual([]);
    expect(cutUnder(bar([0, 0], [100, 0], 6), new Cover(front))).toBeUndefined();
    expect(cutUnder(back, new Cover([{ ...front[0], nib: { ...front[0].nib, opacity: 0.5 } }]))).toBeUndefined();
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

  it('become blots of the same shape, which can be kept', () => {
    for (const line of [
      drawStroke(drawn(wave, { count: 80, pressure: (t) => 0.2 + t / 2 }), brush, raw),
      circle(200, 200, 60, 14),
    ]) {
      const blots = asBlots(line);
      expect(blots).toHaveLength(1);
      expect(inkBetween(blots, [line])).toBeLessThan(0.02 * inkArea([line]));
      expect(nodeCount(blots[0].spine)).toBeLessThan(outlineOf(line, OUTLINE_TOLERANCE).rings[0].length / 4);
      const [entity] = entities(blots);
      expect(checkStroke(entity).fills).toBe(true);
    }
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

  it('smooth nodes stay smooth where a line is cut, and the law holds for any hand', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 0.95, noNaN: true }), (share) => {
        const spine = drawStroke(drawn(wave, { count: 120, tremor: 0.4 }), liner, even(20)).spine;
        const grip = share * endOf(spine);
        const pulled = tug(spine, grip, { x: 5, y: -8 }, { radius: 90, falloff: 0.3, isPinned: true });
        for (let k = 1; k < segmentCount(spine); k++) if (!isSmooth(spine, k)) return;
        expect(kinkOf(pulled)).toBeLessThan(kinkOf(spine) + 0.05);
      }),
      { numRuns: 12 },
    );
  });
});
