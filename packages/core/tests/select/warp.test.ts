import { Matrix, solve } from 'ml-matrix';
import { translation, projectiveOf } from '../../src/math';
import { PageError } from '../../src/gate';
import { homographyBetween, warpPixels, type Pixels, type Quad } from '../../src/select';

/** A soft disc in one colour. */
function disc(size: number, at = { x: 100, y: 60 }): Pixels {
  const data = new Uint8ClampedArray(4 * size * size);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const gap = Math.hypot(x + 0.5 - size / 2, y + 0.5 - size / 2) - size * 0.4;
      data.set([180, 60, 40, 255 * Math.min(1, Math.max(0, 0.5 - gap))], 4 * (y * size + x));
    }
  return { ...at, width: size, height: size, data };
}
const alphaAt = ({ x: left, y: top, width, height, data }: Pixels, x: number, y: number) =>
  x < left || y < top || x >= left + width || y >= top + height ? 0 : data[4 * ((y - top) * width + x - left) + 3];
const quad = (...corners: (readonly [number, number])[]) => corners.map(([x, y]) => ({ x, y })) as unknown as Quad;

describe('pixels under a map', () => {
  const source = disc(80);

  it('stay as they are where the map moves them by whole px', () => {
    const moved = warpPixels(source, projectiveOf(translation(7, -3)));
    expect([moved.x, moved.y, moved.width, moved.height]).toEqual([107, 57, 80, 80]);
    expect(moved.data).toEqual(
      // Where nothing lies colours are forgotten.
      source.data.map((value, i) => (source.data[i - (i % 4) + 3] === 0 ? 0 : value)),
    );
  });

  it('keep their colour to the very edge, and their amount under a half px', () => {
    const moved = warpPixels(source, projectiveOf(translation(0.5, 0.5)));
    const sum = (pixels: Pixels) => pixels.data.reduce((total, value, i) => (i % 4 === 3 ? total + value : total), 0);
    expect(Math.abs(sum(moved) / sum(source) - 1)).toBeLessThan(0.002);
    for (let i = 0; i < moved.data.length; i += 4)
      if (moved.data[i + 3] > 24) expect(Math.abs(moved.data[i] - 180)).toBeLessThanOrEqual(4);
  });

  // R. Hartley, A. Zisserman: Multiple View Geometry (2nd ed. 2003), §2.4: a projective map takes conics to conics.
  it('a disc in perspective has a conic for its edge: through five places of it, past the others within 1 px', () => {
    const corners = quad([100, 60], [180, 60], [180, 140], [100, 140]);
    const map = homographyBetween(corners, quad([0, 0], [420, 60], [360, 300], [40, 380]));
    const moved = warpPixels(source, map);
    const places = edgePlaces(moved, 24);
    const rows = (some: readonly (readonly [number, number])[]) =>
      new Matrix(some.map(([x, y]) => [x * x, x * y, y * y, x, y].map((value) => value / 1e4)));
    const five = [0, 5, 10, 14, 19].map((k) => places[k]);
    const conic = solve(rows(five), Matrix.columnVector([1, 1, 1, 1, 1])).to1DArray();
    const value = (x: number, y: number) =>
      rows([[x, y]])
        .getRow(0)
        .reduce((sum, term, k) => sum + term * conic[k], -1);
    for (const [x, y] of places) {
      const slope = Math.hypot(value(x + 0.5, y) - value(x - 0.5, y), value(x, y + 0.5) - value(x, y - 0.5));
      expect(Math.abs(value(x, y)) / slope).toBeLessThan(1);
    }
  });

  it('are refused where the map would fold them, or spread them beyond any page', () => {
    const corners = quad([100, 60], [180, 60], [180, 140], [100, 140]);
    const folded = [1, 0, 0, 0, 1, 0, 0.02, 0, -2.6] as const;
    expect(() => warpPixels(source, folded)).toThrow(PageError);
    expect(() => warpPixels(source, projectiveOf([1e5, 0, 0, 1e5, 0, 0]))).toThrow(/larger than a page/);
    expect(() => homographyBetween(corners, quad([0, 0], [0, 0], [0, 0], [0, 0]))).toThrow(PageError);
  });
});

/** Places on the edge of a shape, seen from its middle in even turns: where its alpha falls to a half. */
function edgePlaces(pixels: Pixels, count: number): (readonly [number, number])[] {
  let [x, y, total] = [0, 0, 0];
  for (let row = 0; row < pixels.height; row++)
    for (let column = 0; column < pixels.width; column++) {
      const alpha = pixels.data[4 * (row * pixels.width + column) + 3];
      x += alpha * (pixels.x + column + 0.5);
      y += alpha * (pixels.y + row + 0.5);
      total += alpha;
    }
  const middle = { x: x / total, y: y / total };
  return Array.from({ length: count }, (_, k) => {
    const [dx, dy] = [Math.cos((2 * Math.PI * k) / count), Math.sin((2 * Math.PI * k) / count)];
    const alpha = (r: number) => smooth(pixels, middle.x + r * dx, middle.y + r * dy);
    let r = 1;
    while (alpha(r) > 127.5) r += 0.05;
    return [middle.x + r * dx, middle.y + r * dy] as const;
  });
}

/** Alpha between the middles of px. */
function smooth(pixels: Pixels, x: number, y: number): number {
  const [left, top] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  const [tx, ty] = [x - 0.5 - left, y - 0.5 - top];
  const mix = (a: number, b: number, t: number) => a + (b - a) * t;
  const row = (at: number) => mix(alphaAt(pixels, left, at), alphaAt(pixels, left + 1, at), tx);
  return mix(row(top), row(top + 1), ty);
}
