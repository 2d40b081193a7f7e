import fc from 'fast-check';
import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { flattenSpine, makeSpine, nearestOnSpine } from '../../src/curve';
import { drawStroke } from '../../src/ink';
import {
  about,
  rotation,
  scaling,
  translation,
  type Point,
  afterwards,
  applyProjective,
  invertProjective,
  projectiveOf,
  type Matrix3x3,
} from '../../src/math';
import { PageError } from '../../src/gate';
import type { StrokeEntity } from '../../src/stroke';
import { holdOfAll, mapped } from '../../src/drawn';
import { homographyBetween, inverseOf, type Quad } from '../../src/select';
import { drawn, even, laid, liner, ring, tapered, wave } from '../hands';

const quad = (...numbers: number[]): Quad => {
  const [a, b, c, d] = Array.from({ length: 4 }, (_, k) => ({ x: numbers[2 * k], y: numbers[2 * k + 1] }));
  return [a, b, c, d];
};
const square = quad(0, 0, 400, 0, 400, 400, 0, 400);
const leaning = quad(30, 40, 380, 90, 350, 300, 60, 390);
const keep = { scaleWidth: false };
const grow = { scaleWidth: true };

/** The normalised direct linear transform (Hartley & Zisserman 2004, §4.1), solved by ml-matrix: eigenvectors of AᵀA. */
function byEigenvectors(from: Quad, to: Quad): number[] {
  const rows = from.flatMap(({ x, y }, k) => {
    const { x: u, y: v } = to[k];
    return [
      [x, y, 1, 0, 0, 0, -u * x, -u * y, -u],
      [0, 0, 0, x, y, 1, -v * x, -v * y, -v],
    ];
  });
  const a = new Matrix(rows);
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(a.transpose().mmul(a), {
    assumeSymmetric: true,
  });
  const least = realEigenvalues.indexOf(Math.min(...realEigenvalues));
  const vector = eigenvectorMatrix.getColumn(least);
  return vector.map((value) => value / vector[8]);
}

describe('four corners to four corners', () => {
  it('is the published worked example', () => {
    // Source: README of the package perspective-transform 1.1.3 (MIT): 250, 120 comes to 117.27521…, 530.92024….
    const map = homographyBetween(
      quad(158, 64, 494, 69, 495, 404, 158, 404),
      quad(100, 500, 152, 564, 148, 604, 100, 560),
    );
    const { x, y } = applyProjective(map, 250, 120);
    // That package rounds its coefficients to ten places, which shows in the fifth place here.
    expect(x).toBeCloseTo(117.27521125839255, 4);
    expect(y).toBeCloseTo(530.9202410878403, 4);
  });

  it('is the one that a linear-algebra library finds', () => {
    // Source: ml-matrix 6 (MIT). Small squares, where the plain eigenvectors are well conditioned.
    const corner = fc.double({ min: -0.3, max: 0.3, noNaN: true });
    fc.assert(
      fc.property(fc.array(corner, { minLength: 8, maxLength: 8 }), (off) => {
        const unit = quad(-1, -1, 1, -1, 1, 1, -1, 1);
        const to = quad(...[-1, -1, 1, -1, 1, 1, -1, 1].map((value, k) => value + off[k]));
        const ours = homographyBetween(unit, to);
        const theirs = byEigenvectors(unit, to);
        ours.forEach((value, k) => expect(value).toBeCloseTo(theirs[k], 5));
      }),
    );
  });

  it('takes the crossing of the diagonals to the crossing of the diagonals (drawing handbooks)', () => {
    const map = homographyBetween(square, leaning);
    const { x, y } = applyProjective(map, 200, 200);
    const [a, b, c, d] = leaning;
    const cross = (p: Point, q: Point) => (q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x);
    expect(cross(a, c)).toBeCloseTo(0, 6);
    expect(cross(b, d)).toBeCloseTo(0, 6);
  });

  it.each([1, 1e-7, 1e6])('comes back whatever its entries are multiplied by (%p)', (factor) => {
    const map = homographyBetween(square, leaning).map((value) => value * factor) as unknown as Matrix3x3;
    const there = applyProjective(map, 123, 45);
    const { x, y } = applyProjective(invertProjective(map), there.x, there.y);
    expect([x, y]).toEqual([expect.closeTo(123, 6), expect.closeTo(45, 6)]);
    const flat = [1, 1, 0, 2, 2, 0, 3e-4, 3e-4, 1].map((value) => value * factor) as unknown as Matrix3x3;
    expect(() => invertProjective(flat)).toThrow(/flattens/);
  });

  it('comes back by its inverse, and goes together with another', () => {
    const map = homographyBetween(square, leaning);
    const back = afterwards(map, inverseOf(map));
    const { x, y } = applyProjective(back, 123, 45);
    expect(x).toBeCloseTo(123, 8);
    expect(y).toBeCloseTo(45, 8);
  });

  it.each([
    ['folded', quad(0, 0, 400, 400, 400, 0, 0, 400), /fold over/],
    ['with a corner pushed in', quad(0, 0, 400, 0, 100, 100, 0, 400), /fold over/],
    ['flat', quad(0, 0, 100, 0, 200, 0, 300, 0), /one line/],
    ['nowhere', quad(NaN, 0, 400, 0, 400, 400, 0, 400), /nowhere/],
  ])('is refused for a quadrilateral that is %s', (_what, to, reason) => {
    expect(() => homographyBetween(square, to)).toThrow(reason);
    expect(() => homographyBetween(square, to)).toThrow(PageError);
  });
});

const line = laid(
  drawStroke(drawn(wave, { count: 160, tremor: 1, pressure: (t) => 0.3 + 0.6 * t }), tapered, even(30)),
);

describe('strokes under an affine map', () => {
  const turned = projectiveOf(about({ x: 200, y: 200 }, rotation(0.7)));

  it('keep their weights unless these are to grow', () => {
    const twice = projectiveOf(scaling(2));
    const [kept] = mapped([line], twice, keep);
    const [grown] = mapped([line], twice, grow);
    expect(kept.spine.points[5]).toBe(line.spine.points[5]);
    expect(kept.nib.size).toBe(line.nib.size);
    expect(grown.spine.points[5]).toBeCloseTo(2 * line.spine.points[5], 9);
    expect(grown.nib.size).toBe(2 * line.nib.size);
  });

  it('have as many nodes as before, and come back exactly', () => {
    const there = mapped([line], turned, grow);
    expect(there[0].spine.points).toHaveLength(line.spine.points.length);
    const [back] = mapped(there, inverseOf(turned), grow);
    back.spine.points.forEach((value, k) => expect(value).toBeCloseTo(line.spine.points[k], 6));
  });

  it('take the way to their samples along', () => {
    const sampled: StrokeEntity = { ...line, origin: { samples: 'm', calm: even(30), zoom: 1 } };
    const once = mapped([sampled], projectiveOf(translation(10, 5)), keep);
    const [twice] = mapped(once, projectiveOf(scaling(2)), keep);
    expect(twice.origin?.matrix).toEqual([2, 0, 0, 2, 20, 10]);
  });

  it('are refused a map that flattens them, or that has no numbers', () => {
    expect(() => mapped([line], [1, 0, 0, 0, 0, 0, 0, 0, 1], keep)).toThrow(/flatten/);
    expect(() => mapped([line], [NaN, 0, 0, 0, 1, 0, 0, 0, 1], keep)).toThrow(/no numbers/);
  });
});

/** The conic through five points: coefficients of x², xy, y², x, y, 1, by the null space of the 5 × 6 system (ml-matrix). */
function conicThrough(points: readonly Point[], scale: number, middle: Point): number[] {
  const a = new Matrix(
    points.map((p) => {
      const [x, y] = [(p.x - middle.x) / scale, (p.y - middle.y) / scale];
      return [x * x, x * y, y * y, x, y, 1];
    }),
  );
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(a.transpose().mmul(a), {
    assumeSymmetric: true,
  });
  return eigenvectorMatrix.getColumn(realEigenvalues.indexOf(Math.min(...realEigenvalues)));
}

/** How far a point lies from a conic, to first order (Sampson 1982). */
function fromConic(conic: readonly number[], p: Point, scale: number, middle: Point): number {
  const [x, y] = [(p.x - middle.x) / scale, (p.y - middle.y) / scale];
  const [a, b, c, d, e, f] = conic;
  const value = a * x * x + b * x * y + c * y * y + d * x + e * y + f;
  return (scale * Math.abs(value)) / Math.hypot(2 * a * x + b * y + d, b * x + 2 * c * y + e);
}

describe('strokes under four pulled corners', () => {
  const map: Matrix3x3 = homographyBetween(square, leaning);

  it('follow the true image within a quarter px, course and weight', () => {
    for (const options of [keep, grow]) {
      const [image] = mapped([line], map, options);
      const flat = flattenSpine(line.spine, 0.05);
      for (let i = 0; i < flat.length; i += 3) {
        const wanted = applyProjective(map, flat[i], flat[i + 1]);
        expect(nearestOnSpine(image.spine, wanted).distance).toBeLessThan(0.25);
      }
    }
  });

  it('a circle stays a conic: the one through five of its points passes all others within a quarter px', () => {
    // κ of a quarter circle, after Schneider 1990.
    const [r, k] = [150, 150 * 0.5522847498];
    const [cx, cy] = [200, 200];
    const at = (x: number, y: number) => [cx + x, cy + y, 6];
    const circle: StrokeEntity = laid({
      spine: makeSpine(
        Float64Array.from(
          [
            at(r, 0),
            at(r, k),
            at(k, r),
            at(0, r),
            at(-k, r),
            at(-r, k),
            at(-r, 0),
            at(-r, -k),
            at(-k, -r),
            at(0, -r),
            at(k, -r),
            at(r, -k),
            at(r, 0),
          ].flat(),
        ),
      ),
      nib: liner,
      ends: ['round', 'round'],
    });
    const [image] = mapped([circle], map, keep);
    const flat = flattenSpine(image.spine, 0.01);
    const points = Array.from({ length: flat.length / 3 }, (_, i) => ({ x: flat[3 * i], y: flat[3 * i + 1] }));
    const middle = { x: 200, y: 200 };
    const five = [0, 1, 2, 3, 4].map((i) => points[Math.floor((i * points.length) / 5)]);
    const conic = conicThrough(five, 150, middle);
    for (const p of points) expect(fromConic(conic, p, 150, middle)).toBeLessThan(0.25);
  });

  it('let their samples go, since no matrix leads back to them', () => {
    const [image] = mapped([{ ...line, origin: { samples: 'm', calm: even(3), zoom: 1 } }], map, keep);
    expect(image.origin).toBeUndefined();
  });

  it('add nodes only where the map bends the line', () => {
    const slight = homographyBetween(square, quad(0, 0, 400, 1, 400, 400, 0, 400));
    expect(mapped([line], slight, keep)[0].spine.points.length).toBe(line.spine.points.length);
  });

  it('are refused a map that takes them farther off than lines can be kept', () => {
    expect(() => mapped([line], [1, 0, 2e6, 0, 1, 0, 0, 0, 1], keep)).toThrow(/too far off/);
    expect(() => mapped([line], [1e5, 0, 0, 0, 1e5, 0, 0, 0, 1], keep)).toThrow(/too far off/);
  });

  it('are refused a map that takes them over the horizon', () => {
    const steep = homographyBetween(quad(0, 0, 40, 0, 40, 40, 0, 40), quad(0, 15, 40, 0, 40, 40, 0, 25));
    expect(() => mapped([line], steep, keep)).toThrow(/horizon/);
  });

  it('nothing comes out with a hole in it: every number is one', () => {
    const ringed = laid(drawStroke(drawn(ring), liner, even(10)));
    const box = holdOfAll([ringed]);
    fc.assert(
      fc.property(fc.array(fc.double({ min: -60, max: 60, noNaN: true }), { minLength: 8, maxLength: 8 }), (off) => {
        const to = quad(
          ...[box.minX, box.minY, box.maxX, box.minY, box.maxX, box.maxY, box.minX, box.maxY].map((v, k) => v + off[k]),
        );
        const from = quad(box.minX, box.minY, box.maxX, box.minY, box.maxX, box.maxY, box.minX, box.maxY);
        try {
          const [image] = mapped([ringed], homographyBetween(from, to), grow);
          expect(image.spine.points.every(Number.isFinite)).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(PageError);
        }
      }),
    );
  });
});
