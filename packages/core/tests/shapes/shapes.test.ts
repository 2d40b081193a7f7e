import fc from 'fast-check';
import {
  flattenSpine,
  handleAt,
  isSmooth,
  nodeAt,
  pointAt,
  segmentCount,
  spineLength,
  type Spine,
} from '../../src/curve';
import { distance, type Point } from '../../src/math';
import { inked } from '../../src/stroke';
import {
  arcSpine,
  bentPath,
  chordArcSpine,
  circleSpine,
  closedPath,
  draggedShape,
  ellipseSpine,
  emptyPath,
  lineSpine,
  pathCourse,
  polygonSpine,
  rectSpine,
  SHAPE_KINDS,
  starSpine,
  withCorner,
  withHandle,
  withoutLast,
  withoutOut,
  type ShapeSettings,
} from '../../src/shapes';
import { liner } from '../hands';

const settings: ShapeSettings = { fromCentre: false, regular: false, rounding: 0, corners: 5, inner: 0.4, bend: 0.5 };
const at = (x: number, y: number): Point => ({ x, y });
const places = (spine: Spine): Point[] =>
  Array.from({ length: segmentCount(spine) }, (_, segment) =>
    Array.from({ length: 257 }, (_, k) => pointAt(spine, { segment, t: k / 256 })),
  ).flat();

describe('a circle', () => {
  it('strays by the error of the kappa constant, 2.73 × 10⁻⁴ of its radius (Schneider 1990)', () => {
    const away = places(circleSpine(at(0, 0), 1)).map(({ x, y }) => Math.hypot(x, y) - 1);
    expect(Math.max(...away)).toBeCloseTo(2.7253e-4, 6);
    expect(Math.min(...away)).toBeGreaterThan(-1e-9);
  });

  it.each([
    [20, 4],
    [180, 4],
    [181, 8],
    [2000, 8],
  ])('of radius %p has %p cubics and is true within 0.05 px', (radius, cubics) => {
    const circle = circleSpine(at(500, 400), radius);
    expect(segmentCount(circle)).toBe(cubics);
    expect(circle.closed).toBe(true);
    for (const p of places(circle)) expect(Math.abs(distance(p, at(500, 400)) - radius)).toBeLessThan(0.05);
  });
});

describe('constructed courses', () => {
  it('an ellipse keeps its equation when it is turned', () => {
    const turn = 0.7;
    for (const { x, y } of places(ellipseSpine({ centre: at(3, 4), rx: 160, ry: 40, turn }))) {
      const [u, v] = [
        (x - 3) * Math.cos(turn) + (y - 4) * Math.sin(turn),
        (y - 4) * Math.cos(turn) - (x - 3) * Math.sin(turn),
      ];
      expect(Math.hypot(u / 160, v / 40)).toBeCloseTo(1, 3);
    }
  });

  it('an arc is as long as its sweep says, and a chord bulges by what it is told', () => {
    expect(spineLength(arcSpine(at(0, 0), 100, 0.3, 1.9))).toBeCloseTo(190, 1);
    for (const bend of [-1.5, -0.4, 0.3, 1, 2]) {
      const arc = chordArcSpine(at(100, 100), at(300, 100), bend);
      const p = flattenSpine(arc, 0.001);
      expect([p[0], p[1]].map(Math.round)).toEqual([100, 100]);
      expect([p.at(-3)!, p.at(-2)!].map(Math.round)).toEqual([300, 100]);
      const heights = p.filter((_, k) => k % 3 === 1);
      const rise = bend > 0 ? 100 - Math.min(...heights) : 100 - Math.max(...heights);
      expect(rise).toBeCloseTo(100 * bend, 0);
    }
  });

  it('a rectangle runs through its corners, or around them', () => {
    expect(spineLength(rectSpine(at(10, 80), at(110, 20)))).toBeCloseTo(320, 6);
    expect(spineLength(rectSpine(at(10, 80), at(110, 20), 10))).toBeCloseTo(320 - 80 + 20 * Math.PI, 1);
    expect(spineLength(rectSpine(at(0, 0), at(40, 40), 500))).toBeCloseTo(40 * Math.PI, 1);
  });

  it('polygons and stars have the corners that were asked for, within what can be drawn', () => {
    expect(segmentCount(polygonSpine(at(0, 0), 50, 7))).toBe(7);
    expect(segmentCount(polygonSpine(at(0, 0), 50, 1))).toBe(3);
    expect(segmentCount(starSpine(at(0, 0), 50, 5, 0.4))).toBe(10);
    const sides = 6;
    expect(spineLength(polygonSpine(at(0, 0), 50, sides))).toBeCloseTo(sides * 50, 6);
  });

  it('close on the very numbers they began with', () => {
    for (const { points } of [
      circleSpine(at(3.3, 7.7), 55.5),
      rectSpine(at(0.1, 0.2), at(9.7, 5.3), 1),
      starSpine(at(1, 2), 9, 9, 0.5),
    ])
      expect(Array.from(points.slice(-3))).toEqual(Array.from(points.slice(0, 3)));
  });
});

describe('a drag', () => {
  it('keeps a line to steps of 15° and a box square', () => {
    const line = draggedShape('line', at(0, 0), at(100, 22), { ...settings, regular: true })!;
    expect(line.measures).toMatchObject({ of: 'line', angle: expect.closeTo(-15, 9) });
    const box = draggedShape('rectangle', at(0, 0), at(-60, 20), { ...settings, regular: true })!;
    expect(box.measures).toEqual({ of: 'box', width: 60, height: 60 });
  });

  it('grows out of its centre when asked to', () => {
    const { course, measures } = draggedShape('ellipse', at(200, 100), at(250, 130), {
      ...settings,
      fromCentre: true,
    })!;
    expect(measures).toEqual({ of: 'box', width: 100, height: 60 });
    const xs = places(course).map(({ x }) => x);
    expect([Math.min(...xs), Math.max(...xs)].map(Math.round)).toEqual([150, 250]);
    const { course: line } = draggedShape('line', at(10, 20), at(40, 60), { ...settings, fromCentre: true })!;
    const { points: p } = line;
    expect([p[0], p[1], p[p.length - 3], p[p.length - 2]]).toEqual([-20, -20, 40, 60]);
  });

  it('makes an arc that goes from its start to its end and bulges by half its bend, at right angles to the chord', () => {
    const course = chordArcSpine(at(10, 20), at(110, 60), 0.5);
    const all = places(course);
    expect(distance(all[0], at(10, 20)) + distance(all[all.length - 1], at(110, 60))).toBeLessThan(1e-9);
    const half = distance(at(10, 20), at(110, 60)) / 2;
    // The middle of the arc lies over that of the chord.
    const middle = all[Math.floor(all.length / 2)];
    expect(distance(middle, at(60, 40))).toBeCloseTo(half / 2, 1);
    expect((middle.x - 60) * 100 + (middle.y - 40) * 40).toBeCloseTo(0, 0);
  });

  it('of any size makes a true course or none', () => {
    const kinds = SHAPE_KINDS.filter((kind) => kind !== 'poly-line');
    const place = fc.record({
      x: fc.double({ min: -1e4, max: 1e4, noNaN: true }),
      y: fc.double({ min: -1e4, max: 1e4, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        place,
        place,
        fc.boolean(),
        fc.boolean(),
        (kind, from, to, regular, fromCentre) => {
          const shape = draggedShape(kind, from, to, { ...settings, regular, fromCentre, rounding: 12 });
          if (shape) expect(shape.course.points.every(Number.isFinite)).toBe(true);
          else
            expect(distance(from, to) < 0.5 || Math.min(Math.abs(from.x - to.x), Math.abs(from.y - to.y)) < 0.5).toBe(
              true,
            );
        },
      ),
    );
  });
});

describe('a nib along a construction', () => {
  it('is as wide as the nib, with its profile and, on open lines, its tapers', () => {
    const line = lineSpine(at(0, 0), at(400, 0));
    expect(
      inked(line, liner)
        .spine.points.filter((_, k) => k % 3 === 2)
        .every((width) => width === 10),
    ).toBe(true);
    const lens = inked(line, { ...liner, profile: 'lens' }).spine;
    expect([lens.points[2], lens.points.at(-1)!]).toEqual([0, expect.closeTo(0, 9)]);
    const taper = inked(line, { ...liner, taperIn: 5, taperOut: 5 }).spine;
    expect([taper.points[2], taper.points.at(-1)!]).toEqual([0, expect.closeTo(0, 9)]);
    const ring = inked(circleSpine(at(0, 0), 80), { ...liner, taperIn: 5, taperOut: 5 }).spine;
    expect(ring.points.filter((_, k) => k % 3 === 2).every((width) => width === 10)).toBe(true);
  });
});

describe('a path built node by node', () => {
  const bowed = withHandle(withCorner(withCorner(emptyPath, at(0, 0)), at(100, 0)), at(130, 40));

  it('has straight stretches between corners and smooth ones where handles were dragged', () => {
    expect(pathCourse(withCorner(emptyPath, at(0, 0)))).toBeUndefined();
    const { points } = pathCourse(bowed)!;
    expect(Array.from(points)).toEqual([0, 0, 1, 0, 0, 1, 70, -40, 1, 100, 0, 1]);
  });

  it('goes on straight when the last handle is dropped, and comes back node by node', () => {
    const dropped = withCorner(withoutOut(bowed), at(200, 0));
    expect(Array.from(pathCourse(dropped)!.points.slice(9))).toEqual([
      100,
      0,
      1,
      expect.closeTo(133.33, 1),
      0,
      1,
      expect.closeTo(166.67, 1),
      0,
      1,
      200,
      0,
      1,
    ]);
    expect(withoutLast(withoutLast(dropped)).nodes).toHaveLength(1);
  });

  it('closes into its first node', () => {
    const ring = pathCourse(closedPath(withCorner(bowed, at(50, 90))))!;
    expect(ring.closed).toBe(true);
    expect(segmentCount(ring)).toBe(3);
    expect(closedPath(withCorner(emptyPath, at(1, 1))).closed).toBe(false);
  });

  it('is bent so that the place under the hand goes along', () => {
    const bent = bentPath(bowed, { segment: 0, t: 0.4 }, at(60, -80));
    const place = pointAt(pathCourse(bent)!, { segment: 0, t: 0.4 });
    expect([place.x, place.y]).toEqual([expect.closeTo(60, 9), expect.closeTo(-80, 9)]);
  });

  it('stays smooth, when it is bent, at nodes through which it went smoothly, and only there', () => {
    const path = withCorner(withHandle(withCorner(bowed, at(220, 40)), at(250, 90)), at(300, 10));
    const course = pathCourse(path)!;
    const smooth = [0, 1, 2, 3].filter((node) => isSmooth(course, node));
    expect(smooth).toContain(2);
    const bent = pathCourse(bentPath(path, { segment: 1, t: 0.5 }, at(150, 160)))!;
    for (const node of smooth) expect(isSmooth(bent, node)).toBe(true);
    // The handle that turned is as long as it was.
    const long = (spine: Spine) => distance(nodeAt(spine, 2), handleAt(spine, 2, 'out')!);
    expect(long(bent)).toBeCloseTo(long(course), 9);
  });
});
