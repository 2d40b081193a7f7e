import { Bezier } from 'bezier-js';
import ClipperLib from 'clipper-lib';
import fc from 'fast-check';
import fzero from 'fzero';
import { nearestOnSpine, spineLength, type Spine, type EllipsePath, type LinePath } from '../../src/curve';
import {
  echoThrough,
  edgePaths,
  pathThrough,
  project,
  rankGuides,
  chooseGuide,
  spineAlong,
  trackOf,
  isOnRuler,
  type GuideGrid,
} from '../../src/guides';
import { distance } from '../../src/math';
import { degreeEllipse, TEMPLATES } from '../../src/templates';
import { at, bow, guide, places, polyline } from './guides';

/** One cubic that comes back to where it began. */
const droplet: Spine = { points: Float64Array.of(0, 0, 1, 90, 60, 1, -90, 60, 1, 0, 0, 1), closed: true };

const coordinate = fc.double({ min: -2_000, max: 2_000, noNaN: true });
const ellipses = fc.record({
  ...{ kind: fc.constant('ellipse' as const), x: coordinate, y: coordinate },
  rx: fc.double({ min: 5, max: 3_000, noNaN: true }),
  ry: fc.double({ min: 5, max: 3_000, noNaN: true }),
  angle: fc.double({ min: -4, max: 4, noNaN: true }),
});

describe('an ellipse', () => {
  it('has its nearest place where a bracketing root finder (fzero, npm) finds the slope of the distance to vanish', () => {
    fc.assert(
      fc.property(ellipses, coordinate, coordinate, (ellipse, x, y) => {
        const away = (t: number) => distance(trackOf(ellipse).place(t * unit), at(x, y));
        const unit = Math.max(ellipse.rx, ellipse.ry);
        const found = project(ellipse, at(x, y)).distance;
        // The slope of the squared distance, by central differences free of our own derivative.
        const slope = (t: number) => away(t + 1e-6) ** 2 - away(t - 1e-6) ** 2;
        let least = Infinity;
        for (let k = 0; k < 48; k++) {
          const [low, high] = [(k * Math.PI) / 24, ((k + 1) * Math.PI) / 24];
          if (slope(low) < 0 && slope(high) >= 0)
            least = Math.min(least, away(Number(fzero((t) => String(slope(Number(t))), [low, high]).solution)));
        }
        expect(found).toBeLessThanOrEqual(least + 1e-4);
        expect(found).toBeGreaterThanOrEqual(least - 1e-3);
      }),
      { numRuns: 150 },
    );
  });

  it('is drawn within 0.05 px of itself, however large a part', () => {
    fc.assert(
      fc.property(
        ellipses,
        fc.double({ min: -6, max: 6, noNaN: true }),
        fc.double({ min: 0.01, max: 9, noNaN: true }),
        (ellipse, from, turn) => {
          const unit = Math.max(ellipse.rx, ellipse.ry);
          for (const place of places(spineAlong(ellipse, from * unit, (from + turn) * unit), 8))
            expect(project(ellipse, place).distance).toBeLessThan(0.05);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('drawn backwards is the same, the other way round', () => {
    const ellipse: EllipsePath = { kind: 'ellipse', x: 10, y: 20, rx: 300, ry: 120, angle: 0.4 };
    const there = spineAlong(ellipse, 50, 900).points;
    const back = spineAlong(ellipse, 900, 50).points;
    for (let i = 0; i < there.length; i += 3) expect(back[back.length - 3 - i]).toBeCloseTo(there[i], 9);
  });
});

describe('a straight path', () => {
  it('is exact at any distance', () => {
    const line: LinePath = { kind: 'line', x: 1e5, y: -2e5, dx: Math.cos(0.3), dy: Math.sin(0.3) };
    for (const place of places(spineAlong(line, -2e5, 2e5))) expect(project(line, place).distance).toBeLessThan(1e-8);
  });

  it('ends where its guide ends', () => {
    const [edge] = edgePaths({ kind: 'straightedge', x: 0, y: 0, angle: 0, length: 200, width: 20 });
    expect(project(edge, at(500, 0))).toMatchObject({ x: 100, y: 10 });
  });
});

describe('a curve', () => {
  it('is cut into its own parts (split of bezier-js, npm)', () => {
    const path = { kind: 'curve', course: bow } as const;
    const whole = spineLength(bow);
    const p = bow.points;
    const library = new Bezier(p[0], p[1], p[3], p[4], p[6], p[7], p[9], p[10]).split(0.25, 0.5);
    const ours = spineAlong(path, 0.25 * whole, 0.5 * whole).points;
    library.points.forEach(({ x, y }, k) => {
      expect(ours[3 * k]).toBeCloseTo(x, 1);
      expect(ours[3 * k + 1]).toBeCloseTo(y, 1);
    });
    for (const place of places(spineAlong(path, 30, 400)))
      expect(nearestOnSpine(bow, place).distance).toBeLessThan(1e-6);
  });

  it('that is closed goes on over its seam', () => {
    const { rings } = TEMPLATES[0];
    const path = { kind: 'curve', course: rings[0] } as const;
    const { period } = trackOf(path);
    const over = spineAlong(path, 0.9 * period, 1.2 * period);
    expect(spineLength(over)).toBeCloseTo(0.3 * period, -1);
    for (const place of places(over)) expect(Math.abs(Math.hypot(place.x, place.y) - 200)).toBeLessThan(0.06);
  });
});

describe('the nearest place on a curve, looked for near the last one', () => {
  /** A ring of so many equal cubics about the origin. */
  const ring = (count: number, radius: number): Spine => {
    const reach = (4 / 3) * Math.tan(Math.PI / (2 * count)) * radius;
    const out: number[] = [];
    for (let k = 0; k <= count; k++) {
      const [c, s] = [Math.cos((2 * Math.PI * k) / count), Math.sin((2 * Math.PI * k) / count)];
      const [x, y] = [radius * c, radius * s];
      if (k > 0) out.push(x + reach * s, y - reach * c, 1);
      out.push(x, y, 1);
      if (k < count) out.push(x - reach * s, y + reach * c, 1);
    }
    return { points: Float64Array.from(out), closed: true };
  };

  it.each([
    [4, 10, 2],
    [8, 64, 46],
    [3, 40, 20],
    [1, 5, 3],
  ])('goes round a ring of %i cubics, radius %i px, in steps of %i px', (count, radius, step) => {
    const track = trackOf({ kind: 'curve', course: count === 1 ? droplet : ring(count, radius) });
    for (let k = 0; k < 360; k++) {
      const measure = (k / 360) * track.period;
      const there = track.place(measure);
      const found = track.nearest(there, measure - step, Math.max(24, 4 * step));
      expect(distance(track.place(found), there)).toBeLessThan(0.01);
    }
  });

  it('stays on its own arm of one long cubic that crosses itself', () => {
    const loop: Spine = { points: Float64Array.of(0, 0, 1, 900, 500, 1, -400, 500, 1, 500, 0, 1), closed: false };
    const track = trackOf({ kind: 'curve', course: loop });
    for (let measure = 0; measure <= track.to; measure += 4) {
      const { x, y } = track.place(measure);
      const found = track.nearest({ x: x + 3, y: y - 3 }, measure, 24);
      expect(Math.abs(found - measure)).toBeLessThanOrEqual(24 + 1e-9);
    }
  });
});

describe('an echo', () => {
  /** The outline at a distance by a polygon offset library, as a polyline in px. */
  const library = (course: Spine, away: number): { x: number; y: number }[][] => {
    const offset = new ClipperLib.ClipperOffset(2, 20);
    const grid = 1e4;
    offset.AddPath(
      polyline(course, 0.005).map(({ x, y }) => ({ X: Math.round(x * grid), Y: Math.round(y * grid) })),
      ClipperLib.JoinType.jtRound,
      course.closed ? ClipperLib.EndType.etClosedLine : ClipperLib.EndType.etOpenRound,
    );
    const paths: { X: number; Y: number }[][] = [];
    offset.Execute(paths, away * grid);
    return paths.map((path) => path.map(({ X, Y }) => ({ x: X / grid, y: Y / grid })));
  };
  const toRing = (ring: readonly { x: number; y: number }[], x: number, y: number): number =>
    Math.min(
      ...ring.map((a, k) => {
        const b = ring[(k + 1) % ring.length];
        const [dx, dy] = [b.x - a.x, b.y - a.y];
        const t = Math.max(0, Math.min(1, ((x - a.x) * dx + (y - a.y) * dy) / (dx * dx + dy * dy || 1)));
        return Math.hypot(x - a.x - t * dx, y - a.y - t * dy);
      }),
    );

  it.each([40, 120, 260])(
    'lies within 0.1 px of what a polygon offset library (clipper-lib) gives, %i px away',
    (away) => {
      for (const side of away < 200 ? [1, -1] : [-1]) {
        const echo = echoThrough(bow, at(300, 150 + side * away));
        expect(echo).toBeDefined();
        if (!echo) continue;
        const rings = library(bow, project({ kind: 'curve', course: bow }, at(300, 150 + side * away)).distance);
        // Where it goes straight on past the ends of the curve the library rounds them instead.
        const beside = places(echo).filter(({ x, y }) => {
          const near = nearestOnSpine(bow, at(x, y));
          return near.t > 0.01 && near.t < 0.99;
        });
        expect(beside.length).toBeGreaterThan(30);
        for (const { x, y } of beside) expect(Math.min(...rings.map((ring) => toRing(ring, x, y)))).toBeLessThan(0.1);
      }
    },
  );

  it('keeps its distance where the curve bends more tightly than that: the cusp becomes a corner', () => {
    const tight: Spine = { closed: false, points: Float64Array.of(0, 0, 1, 180, 0, 1, 180, 60, 1, 0, 60, 1) };
    const echo = echoThrough(tight, at(0, 28));
    if (!echo) throw new Error('There is an echo.');
    for (const place of places(echo)) {
      const near = nearestOnSpine(tight, place);
      if (near.t > 1e-6 && near.t < 1 - 1e-6) expect(Math.abs(near.distance - 28)).toBeLessThan(0.1);
    }
  });

  it('of a closed curve is closed, and of a self-crossing one never comes nearer than it says', () => {
    const ring = degreeEllipse(40);
    expect(echoThrough(ring, at(260, 0))?.closed).toBe(true);
    const loop: Spine = { closed: false, points: Float64Array.of(0, 0, 1, 400, 300, 1, -200, 300, 1, 200, 0, 1) };
    const echo = echoThrough(loop, at(100, 260));
    const away = nearestOnSpine(loop, at(100, 260)).distance;
    if (!echo) throw new Error('There is an echo.');
    for (const place of places(echo)) expect(nearestOnSpine(loop, place).distance).toBeGreaterThan(away - 0.1);
  });

  it('of a point is none', () => {
    const dot: Spine = { closed: false, points: new Float64Array(12).fill(5) };
    expect(pathThrough(guide({ kind: 'echo', course: dot }), at(50, 50))).toBeUndefined();
  });
});

describe('a guide', () => {
  const grid: GuideGrid = { step: 50, offset: 10, count: 0, snaps: true };

  it('gives the path through a point, or the nearest line of its grid', () => {
    const rails = guide({ kind: 'rails', x: 0, y: 0, angle: 0 });
    expect(pathThrough(rails, at(7, 33))).toMatchObject({ x: 7, y: 33, dx: 1, dy: 0 });
    expect(pathThrough(guide({ ...rails.shape, grid } as never), at(7, 33))).toMatchObject({ y: 10 });
    const ripples = { kind: 'ripples', x: 0, y: 0, ratio: 0.5, angle: 0 } as const;
    expect(pathThrough(guide(ripples), at(0, 50))).toMatchObject({ rx: 100, ry: 50 });
    expect(pathThrough(guide({ ...ripples, grid }), at(0, 50))).toMatchObject({ rx: 110, ry: 55 });
    const turned = { ...grid, step: Math.PI / 2, offset: 0 };
    expect(pathThrough(guide({ kind: 'rays', x: 0, y: 0, grid: turned }), at(100, 20))).toMatchObject({ dx: 1, dy: 0 });
  });

  it('has none at the middle of ripples, and at the point of rays only with a heading', () => {
    expect(pathThrough(guide({ kind: 'ripples', x: 5, y: 5, ratio: 1, angle: 0 }), at(5, 5))).toBeUndefined();
    const rays = guide({ kind: 'rays', x: 5, y: 5 });
    expect(pathThrough(rays, at(5, 5))).toBeUndefined();
    expect(pathThrough(rays, at(5, 5), Math.PI / 2)).toMatchObject({ dy: 1 });
  });

  it('is chosen by nearness to its edge, then by the direction in which the hand sets out', () => {
    const level = guide({ kind: 'rails', x: 0, y: 0, angle: 0 });
    const steep = guide({ kind: 'rails', x: 0, y: 0, angle: 1.2 });
    const ruler = guide({ kind: 'straightedge', x: 0, y: 100, angle: 0, length: 300, width: 20 });
    const all = [level, steep, ruler];
    const options = { reach: 12 };
    expect(chooseGuide(all, at(0, 0), 0.2, options)?.guide).toBe(level);
    expect(chooseGuide(all, at(0, 0), 1.2 + Math.PI, options)?.guide).toBe(steep);
    expect(chooseGuide(all, at(0, 95), 1.2, options)?.guide).toBe(ruler);
    expect(chooseGuide(all, at(0, 50), 1.2, options)?.guide).toBe(steep);
    expect(rankGuides(all, at(0, 95), 0.1, options).map((one) => one.guide)).toEqual([ruler, level, steep]);
  });

  it('acts only where it reaches, and not while it sleeps', () => {
    const own = guide({ kind: 'rails', x: 0, y: 0, angle: 0 }, { reach: ['a'] });
    const asleep = guide({ kind: 'rails', x: 0, y: 0, angle: 0 }, { acting: false });
    expect(chooseGuide([own, asleep], at(0, 0), 0, { reach: 10, layerId: 'b' })).toBeUndefined();
    expect(chooseGuide([own, asleep], at(0, 0), 0, { reach: 10, layerId: 'a' })?.guide).toBe(own);
  });

  it('that is a ruler knows what lies on it', () => {
    const ruler = { kind: 'straightedge', x: 0, y: 0, angle: Math.PI / 2, length: 100, width: 20 } as const;
    expect([at(5, 40), at(15, 0), at(0, 60)].map((p) => isOnRuler(ruler, p))).toEqual([true, false, false]);
  });
});

describe('a template', () => {
  it('of so many degrees has that angle as asin(minor / major) (drafting handbooks, common practice)', () => {
    for (const { rings, name } of TEMPLATES.filter(({ group }) => group === 'Ellipses')) {
      const xs = places(rings[0]).map(({ x }) => x);
      const ys = places(rings[0]).map(({ y }) => y);
      const ratio = (Math.max(...ys) - Math.min(...ys)) / (Math.max(...xs) - Math.min(...xs));
      expect((Math.asin(ratio) * 180) / Math.PI).toBeCloseTo(parseFloat(name), 1);
    }
  });

  it('is a closed outline some 400 px across, and no two have a name in common', () => {
    for (const { rings } of TEMPLATES) {
      expect(rings.every(({ closed }) => closed)).toBe(true);
      const xs = rings.flatMap((ring) => places(ring)).map(({ x }) => x);
      expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(150);
      expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(420);
    }
    expect(new Set(TEMPLATES.map(({ id }) => id)).size).toBe(TEMPLATES.length);
  });
});
