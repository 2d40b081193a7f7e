import fc from 'fast-check';
import {
  about,
  angleOf,
  apply,
  boxOfPoints,
  boxesMeet,
  chain,
  growBox,
  identity,
  intersectBoxes,
  invert,
  isEmptyBox,
  mapBox,
  rotation,
  scaleOf,
  scaling,
  seededRandom,
  segmentDistanceSquared,
  then,
  translation,
  uniteBoxes,
} from '../../src/math';

const near = (value: number) => expect.closeTo(value, 9);
const place = fc.record({
  x: fc.double({ min: -1e4, max: 1e4, noNaN: true }),
  y: fc.double({ min: -1e4, max: 1e4, noNaN: true }),
});
const map = fc
  .tuple(fc.double({ min: -7, max: 7, noNaN: true }), fc.double({ min: 0.02, max: 64, noNaN: true }), place)
  .map(([angle, scale, { x, y }]) => chain(rotation(angle), scaling(scale), translation(x, y)));

describe('plane maps', () => {
  it('lead back where they came from', () => {
    fc.assert(
      fc.property(map, place, (m, p) => {
        const back = apply(invert(m), apply(m, p));
        expect(Math.hypot(back.x - p.x, back.y - p.y)).toBeLessThan(1e-6);
      }),
    );
  });

  it('do one thing after the other, in that order', () => {
    expect(apply(then(translation(10, 0), rotation(Math.PI / 2)), { x: 0, y: 0 })).toEqual({ x: near(0), y: near(10) });
    expect(apply(then(rotation(Math.PI / 2), translation(10, 0)), { x: 0, y: 0 })).toEqual({ x: near(10), y: near(0) });
  });

  it('leave their centre where it is', () => {
    fc.assert(
      fc.property(place, fc.double({ min: -3, max: 3, noNaN: true }), (centre, angle) => {
        const kept = apply(about(centre, rotation(angle)), centre);
        expect(Math.hypot(kept.x - centre.x, kept.y - centre.y)).toBeLessThan(1e-6);
      }),
    );
  });

  it('tell their scale and turn', () => {
    const m = chain(scaling(3), rotation(0.4), translation(5, 6));
    expect(scaleOf(m)).toBeCloseTo(3, 12);
    expect(angleOf(m)).toBeCloseTo(0.4, 12);
  });

  it('say so when there is no way back', () => {
    expect(() => invert([1, 2, 2, 4, 0, 0])).toThrow(/flattens the plane/);
  });
});

describe('boxes', () => {
  const a = { minX: 0, minY: 0, maxX: 10, maxY: 10 };
  const b = { minX: 8, minY: 4, maxX: 20, maxY: 6 };

  it('meet, unite and intersect', () => {
    expect(boxesMeet(a, b)).toBe(true);
    expect(uniteBoxes(a, b)).toEqual({ minX: 0, minY: 0, maxX: 20, maxY: 10 });
    expect(intersectBoxes(a, b)).toEqual({ minX: 8, minY: 4, maxX: 10, maxY: 6 });
    expect(isEmptyBox(intersectBoxes(a, growBox(b, -3)))).toBe(true);
  });

  it('hold every mapped point of what they held', () => {
    fc.assert(
      fc.property(map, fc.array(place, { minLength: 1 }), (m, places) => {
        const box = growBox(mapBox(m, boxOfPoints(places)), 1e-6);
        for (const p of places.map((q) => apply(m, q))) expect(boxesMeet(box, boxOfPoints([p]))).toBe(true);
      }),
    );
  });

  it('stay themselves under the map that does nothing', () => expect(mapBox(identity, a)).toEqual(a));
});

describe('distances of segments', () => {
  it('are nothing where they cross', () => {
    expect(segmentDistanceSquared({ x: 0, y: 0 }, { x: 10, y: 10 }, { x: 0, y: 10 }, { x: 10, y: 0 })).toBe(0);
  });

  it('are never more than the distance of any two of their points', () => {
    fc.assert(
      fc.property(place, place, place, place, (a, b, c, d) => {
        const least = Math.sqrt(segmentDistanceSquared(a, b, c, d));
        for (let k = 0; k <= 10; k++)
          for (let j = 0; j <= 10; j++) {
            const p = { x: a.x + ((b.x - a.x) * k) / 10, y: a.y + ((b.y - a.y) * k) / 10 };
            const q = { x: c.x + ((d.x - c.x) * j) / 10, y: c.y + ((d.y - c.y) * j) / 10 };
            expect(least).toBeLessThanOrEqual(Math.hypot(p.x - q.x, p.y - q.y) + 1e-6);
          }
      }),
      { numRuns: 50 },
    );
  });
});

describe('the seeded stream', () => {
  it('is the same for the same seed and spreads evenly', () => {
    const first = Array.from({ length: 5 }, seededRandom(7));
    expect(Array.from({ length: 5 }, seededRandom(7))).toEqual(first);
    expect(Array.from({ length: 5 }, seededRandom(8))).not.toEqual(first);
    const random = seededRandom(3);
    const counts = new Array<number>(10).fill(0);
    for (let k = 0; k < 10_000; k++) counts[Math.floor(random() * 10)]++;
    for (const count of counts) expect(Math.abs(count - 1_000)).toBeLessThan(150);
  });
});
