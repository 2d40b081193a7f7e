import simplify from 'simplify-js';
import fitCurve from 'fit-curve';
import { feature } from 'topojson-client';
import land110 from 'world-atlas/land-110m.json';
import {
  courseOf,
  flattenSpine,
  lengthOf,
  makeSpine,
  nodeCount,
  placeAlong,
  placeOf,
  pointAt,
  type Spine,
} from '../../src/curve';
import { drawStroke } from '../../src/ink';
import { ease, retrace, tug } from '../../src/mend';
import { asBlot, brush, drawn, edgeKinkOf, even, liner, raw, wave } from '../hands';
import { circle, kinkOf, straightSpine } from './lines';

const at = (spine: Spine, along: number) => pointAt(spine, placeOf(spine, placeAlong(courseOf(spine), along)));

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

  it('lets the weight of a living line go on smoothly', () => {
    const pressure = (t: number) => 0.3 + 0.6 * Math.abs(Math.sin(4 * t));
    const alive = drawStroke(drawn(wave, { tremor: 2, pressure }), brush, even(20)).spine;
    for (const tolerance of [0.5, 2, 8]) {
      const eased = ease(alive, tolerance);
      expect(nodeCount(eased)).toBeLessThan(nodeCount(alive));
      expect(edgeKinkOf(eased)).toBeLessThan(1e-3);
    }
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
    const blot = asBlot(ring);
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
