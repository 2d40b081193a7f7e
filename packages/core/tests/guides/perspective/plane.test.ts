import fc from 'fast-check';
import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { applyProjective, type Point } from '../../../src/math';
import { PageError } from '../../../src/gate';
import {
  type FramePlane,
  type PlaneShape,
  boxEdges,
  FRAME_PRESETS,
  framePreset,
  fromPlane,
  eachGridPiece,
  onPlane,
  planeBox,
  planeHomography,
  planeRectangle,
  planeRings,
  planeShapeBetween,
  project,
  projectCircle,
  projectEllipse,
  shiftedPlane,
  trueSize,
  wayTo,
} from '../../../src/guides';
import { flattenSpine } from '../../../src/curve';
import { ellipseSpine } from '../../../src/shapes';
import { PAGE } from './scenes';

const street = framePreset(FRAME_PRESETS[2], PAGE);
const tower = framePreset(FRAME_PRESETS[4], PAGE);
const at = (x: number, y: number): Point => ({ x, y });
const PLANES: readonly FramePlane[] = ['left', 'right', 'floor'];
const circle = ellipseSpine({ centre: at(0, 0), rx: 200, ry: 200 });

const shapeOn = (
  plane: FramePlane,
  anchor: Point,
  place = { x: 0, y: 0, scaleX: 1, scaleY: 1, angle: 0 },
): PlaneShape => ({
  ...{ kind: 'plane', frame: 'frame', plane, rings: [circle], place },
  map: planeHomography(street, plane, anchor, PAGE),
});

/** The conic through five points (the null vector of their design matrix, by an independent library, ml-matrix). */
function conicThrough(points: readonly Point[]): (p: Point) => number {
  const [cx, cy] = [points[0].x, points[0].y];
  const size = Math.max(...points.map(({ x, y }) => Math.hypot(x - cx, y - cy)));
  const row = ({ x, y }: Point) => {
    const [u, v] = [(x - cx) / size, (y - cy) / size];
    return [u * u, u * v, v * v, u, v, 1];
  };
  const a = new Matrix(points.map(row));
  const { eigenvectorMatrix, realEigenvalues } = new EigenvalueDecomposition(a.transpose().mmul(a));
  const least = realEigenvalues.indexOf(Math.min(...realEigenvalues));
  const conic = eigenvectorMatrix.getColumn(least);
  return (p) => {
    const terms = row(p);
    const value = terms.reduce((sum, term, k) => sum + term * conic[k], 0);
    const [u, v] = [terms[3], terms[4]];
    const slope = Math.hypot(2 * conic[0] * u + conic[1] * v + conic[3], conic[1] * u + 2 * conic[2] * v + conic[4]);
    // The distance to the conic, to first order, page px (Sampson 1982).
    return (Math.abs(value) / slope) * size;
  };
}

describe('planes of a frame', () => {
  it('go there and back within 10⁻⁶ of their size', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -900, max: 900, noNaN: true }),
        fc.double({ min: -900, max: 900, noNaN: true }),
        fc.constantFrom(...PLANES),
        (u, v, plane) => {
          const map = planeHomography(street, plane, at(1200, 2600), PAGE);
          const seen = fromPlane(map, at(u, v));
          if (!seen) return;
          const back = onPlane(map, seen);
          expect(Math.hypot((back?.x ?? Infinity) - u, (back?.y ?? Infinity) - v)).toBeLessThan(1e-6 * 900);
        },
      ),
    );
  });

  it('have their own lines run to the points of the frame', () => {
    const map = planeHomography(tower, 'left', at(900, 1700), PAGE);
    for (const [from, to, way] of [
      [at(-100, 50), at(240, 50), 'left'],
      [at(30, -300), at(30, 260), 'height'],
    ] as const) {
      const [a, b] = [from, to].map((p) => applyProjective(map, p.x, p.y));
      const line = wayTo(tower.points[way], a);
      const off = ((b.x - a.x) * (line?.y ?? 0) - (b.y - a.y) * (line?.x ?? 0)) / Math.hypot(b.x - a.x, b.y - a.y);
      expect(Math.abs(off)).toBeLessThan(1e-9);
    }
  });

  it('are true to scale at their origin, and say when they are seen edge on', () => {
    const map = planeHomography(framePreset(FRAME_PRESETS[0], PAGE), 'right', at(800, 3000), PAGE);
    // The facing wall of one point is parallel to the page: a px is a px.
    expect(applyProjective(map, 300, -200)).toEqual({ x: expect.closeTo(1100, 6), y: expect.closeTo(2800, 6) });
    expect(() => planeHomography(street, 'floor', at(700, 0.45 * PAGE.height), PAGE)).toThrow(PageError);
  });

  it('a box has its sides on the points, and none across the horizon', () => {
    const box = planeBox(street, 'floor', at(1200, 3300), at(1500, 2500));
    if (!box) throw new Error('no box');
    const [a, b, c, d] = box;
    for (const [p, q, way] of [
      [a, b, 'right'],
      [d, c, 'right'],
      [b, c, 'left'],
      [a, d, 'left'],
    ] as const) {
      const line = wayTo(street.points[way], p);
      expect(Math.abs((q.x - p.x) * (line?.y ?? 0) - (q.y - p.y) * (line?.x ?? 0))).toBeLessThan(1e-6);
    }
    expect(planeBox(street, 'floor', at(1200, 3300), at(1500, 900))).toBeUndefined();
  });
});

describe('a circle on a plane', () => {
  it('is the conic through five of its projected points (Hartley & Zisserman 2004, §2.2.3)', () => {
    for (const plane of PLANES)
      for (const anchor of [at(1200, 2900), at(500, 2300)]) {
        const map = planeHomography(street, plane, anchor, PAGE);
        const seen = (angle: number) => applyProjective(map, 40 + 150 * Math.cos(angle), -30 + 150 * Math.sin(angle));
        const away = conicThrough([0, 1.3, 2.5, 3.7, 5].map(seen));
        const ellipse = projectCircle(map, at(40, -30), 150);
        if (!ellipse) throw new Error('no ellipse');
        for (let k = 0; k < 32; k++) {
          const p = seen((k * Math.PI) / 16);
          expect(project(ellipse, p).distance).toBeLessThan(1e-6);
          expect(away(p)).toBeLessThan(1e-3);
        }
      }
  });

  it('as a template it strays from the conic by less than 0.05 px', () => {
    for (const plane of PLANES) {
      const shape = shapeOn(plane, at(1000, 2800), { x: 20, y: 10, scaleX: 1.4, scaleY: 1.4, angle: 0.3 });
      const ellipse = projectCircle(shape.map, at(20, 10), 280);
      const [ring] = planeRings(shape);
      const flat = flattenSpine(ring, 0.01);
      if (!ellipse) throw new Error('no ellipse');
      for (let i = 0; i < flat.length; i += 3)
        expect(project(ellipse, at(flat[i], flat[i + 1])).distance).toBeLessThan(0.05);
    }
  });

  it('is none where it reaches the horizon, and mapped twice it is mapped at once', () => {
    const map = planeHomography(street, 'floor', at(1300, 3000), PAGE);
    expect(projectCircle(map, at(0, 0), 1e6)).toBeUndefined();
    const first = projectCircle(map, at(0, 0), 100);
    const move = planeHomography(street, 'right', at(900, 2000), PAGE);
    const second = first && projectEllipse({ ...first, x: first.x - 1300, y: first.y - 3000 }, move);
    if (!first || !second) throw new Error('no ellipse');
    for (let k = 0; k < 8; k++) {
      const p = applyProjective(map, 100 * Math.cos(k), 100 * Math.sin(k));
      const q = applyProjective(move, p.x - 1300, p.y - 3000);
      expect(project(second, q).distance).toBeLessThan(1e-6);
    }
  });
});

describe('what lies behind the viewer', () => {
  it('is cut off a plane shape, never turned inside out', () => {
    const big = shapeOn('floor', at(1300, 3400), { x: 0, y: 0, scaleX: 40, scaleY: 40, angle: 0 });
    const rings = planeRings(big);
    expect(rings.length).toBeGreaterThan(0);
    expect(rings.every(({ closed }) => !closed)).toBe(true);
    // All of it lies below the horizon, where the floor is.
    for (const ring of rings)
      for (let i = 0; i < ring.points.length; i += 3) expect(ring.points[i + 1]).toBeGreaterThan(0.45 * PAGE.height);
  });

  it('is cut off a grid, and the grid lines run to the points', () => {
    const grid = { step: 200, reach: 60, fade: 0.6, hue: 0, snaps: false };
    const pieces: { readonly from: Point; readonly to: Point; readonly clear: number }[] = [];
    eachGridPiece({ ...street, grids: { floor: grid } }, PAGE, 'floor', 0, (ax, ay, bx, by, clear) =>
      pieces.push({ from: { x: ax, y: ay }, to: { x: bx, y: by }, clear }),
    );
    expect(pieces.length).toBeGreaterThan(120);
    for (const { from, to, clear } of pieces) {
      const onAny = (['right', 'left'] as const).some((way) => {
        const line = wayTo(street.points[way], from);
        const off =
          ((to.x - from.x) * (line?.y ?? 1) - (to.y - from.y) * (line?.x ?? 1)) /
          Math.hypot(to.x - from.x, to.y - from.y);
        return Math.abs(off) < 1e-6;
      });
      expect(onAny).toBe(true);
      expect(Math.min(from.y, to.y)).toBeGreaterThan(0.45 * PAGE.height - 1);
      expect(clear).toBeGreaterThan(0);
      expect(clear).toBeLessThanOrEqual(1);
    }
  });
});

describe('a box on the floor', () => {
  it('shows 9 of its 12 edges (Appel 1967), each to a point of the frame', () => {
    const edges = boxEdges(street, PAGE, [at(1100, 3400), at(1500, 2900)], at(1500, 2100));
    expect(edges).toHaveLength(12);
    expect(edges.filter(({ isHidden }) => !isHidden)).toHaveLength(9);
    for (const { ends } of edges) {
      const hits = (['right', 'left', 'height'] as const).filter((way) => {
        const line = wayTo(street.points[way], ends[0]);
        return Math.abs((ends[1].x - ends[0].x) * (line?.y ?? 1) - (ends[1].y - ends[0].y) * (line?.x ?? 1)) < 1e-6;
      });
      expect(hits).toHaveLength(1);
    }
    // As high as the hand said, over the second corner.
    expect(edges.some(({ ends }) => ends.some((p) => Math.hypot(p.x - 1500, p.y - 2100) < 1e-6))).toBe(true);
  });

  it('needs a base and a height', () => {
    expect(() => boxEdges(street, PAGE, [at(1100, 3400), at(1100, 3400)], at(1100, 3000))).toThrow(PageError);
    expect(() => boxEdges(street, PAGE, [at(1100, 3400), at(1500, 900)], at(1500, 700))).toThrow(/horizon/);
  });
});

it('outlines and pictures are laid between corners, true to their proportions', () => {
  const laying = { frame: 'frame', plane: 'right', rings: [circle] } as const;
  const laid = planeShapeBetween(street, laying, at(1500, 2600), at(1900, 2000), PAGE);
  if (!laid) throw new Error('Nothing was laid.');
  const far = onPlane(laid.map, at(1900, 2000));
  expect(trueSize(laid)).toEqual({
    width: expect.closeTo(Math.abs(far?.x ?? 0), 6),
    height: expect.closeTo(Math.abs(far?.y ?? 0), 6),
  });
  expect(planeShapeBetween(street, laying, at(1500, 2600), at(1500, 2600), PAGE)).toBeUndefined();
  expect(() => planeShapeBetween(street, { ...laying, plane: 'floor' }, at(1500, 3000), at(1500, 900), PAGE)).toThrow(
    /horizon/,
  );
  // The corners of a picture twice as wide as high, back on the plane.
  const map = planeHomography(street, 'right', at(1500, 2600), PAGE);
  const [a, b, c] = planeRectangle(street, PAGE, 'right', [at(1500, 2600), at(1900, 2000)], 0.5).map((p) =>
    onPlane(map, p),
  );
  if (!a || !b || !c) throw new Error('It lies on the plane.');
  expect((c.y - b.y) / (b.x - a.x)).toBeCloseTo(0.5, 9);
  expect(() => planeRectangle(street, PAGE, 'right', [at(1500, 2600), at(1501, 2600)], 0.5)).toThrow(
    /corner to corner/,
  );
});

it('a plane shape is dragged in its plane, and not over the horizon', () => {
  const shape = shapeOn('floor', at(1300, 3200));
  const moved = shiftedPlane(shape, -200, -300);
  const middle = fromPlane(moved.map, moved.place);
  expect(middle?.x).toBeCloseTo(1100, 6);
  expect(middle?.y).toBeCloseTo(2900, 6);
  expect(shiftedPlane(shape, 0, -2500)).toBe(shape);
});
