import fc from 'fast-check';
import {
  emptyMask,
  growMask,
  invertMask,
  isEmptyMask,
  joinMasks,
  maskBox,
  maskOfColour,
  maskOfCover,
  maskOfPatch,
  maskOfShape,
  maskOver,
  squaredDistances,
  trimMask,
  type Mask,
  type Pixels,
} from '../../src/select';

const PAGE = { minX: 0, minY: 0, maxX: 120, maxY: 90 };

/** A mask of px for which `isMeant` says yes, over a box. */
function mask(isMeant: (x: number, y: number) => boolean, { minX, minY, maxX, maxY } = PAGE): Mask {
  const [width, height] = [maxX - minX, maxY - minY];
  const data = Uint8Array.from({ length: width * height }, (_, i) =>
    isMeant(minX + (i % width), minY + Math.floor(i / width)) ? 255 : 0,
  );
  return trimMask({ x: minX, y: minY, width, height, data });
}
const rect = (left: number, top: number, right: number, bottom: number) =>
  mask((x, y) => x >= left && x < right && y >= top && y < bottom);
const meant = ({ x: left, y: top, width, height, data }: Mask, x: number, y: number): number =>
  x < left || y < top || x >= left + width || y >= top + height ? 0 : data[(y - top) * width + x - left];
const area = ({ data }: Mask): number => data.reduce((sum, value) => sum + value / 255, 0);
const same = (a: Mask, b: Mask) => {
  for (let y = PAGE.minY; y < PAGE.maxY; y++)
    for (let x = PAGE.minX; x < PAGE.maxX; x++) if (meant(a, x, y) !== meant(b, x, y)) return false;
  return true;
};

describe('masks', () => {
  it('are joined, left out and turned round as sets are', () => {
    const [a, b] = [rect(10, 10, 40, 30), rect(30, 20, 60, 50)];
    const also = joinMasks(a, b, 'also');
    const less = joinMasks(a, b, 'less');
    for (let y = 0; y < 90; y += 3)
      for (let x = 0; x < 120; x += 3) {
        const [inA, inB] = [meant(a, x, y) > 0, meant(b, x, y) > 0];
        expect(meant(also, x, y) > 0).toBe(inA || inB);
        expect(meant(less, x, y) > 0).toBe(inA && !inB);
        expect(meant(invertMask(a, PAGE), x, y) > 0).toBe(!inA);
      }
    expect(same(invertMask(invertMask(a, PAGE), PAGE), a)).toBe(true);
    expect(same(joinMasks(a, b, 'instead'), b)).toBe(true);
    expect(isEmptyMask(joinMasks(a, a, 'less'))).toBe(true);
    expect(isEmptyMask(joinMasks(emptyMask, a, 'less'))).toBe(true);
    expect(same(joinMasks(emptyMask, a, 'also'), a)).toBe(true);
    expect(maskBox(trimMask(maskOver(a, PAGE)))).toEqual({ minX: 10, minY: 10, maxX: 40, maxY: 30 });
  });

  it('know the exact distance to the nearest px, against looking at every pair', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 77, maxLength: 77 }), fc.boolean(), (bits, toMeant) => {
        const [width, height] = [11, 7];
        const some: Mask = { x: 0, y: 0, width, height, data: Uint8Array.from(bits, (bit) => (bit ? 255 : 0)) };
        const squares = squaredDistances(some, toMeant);
        const targets = bits.flatMap((bit, i) => (bit === toMeant ? [i] : []));
        if (targets.length === 0) return;
        squares.forEach((square, i) => {
          const nearest = Math.min(
            ...targets.map(
              (j) => ((i % width) - (j % width)) ** 2 + (Math.floor(i / width) - Math.floor(j / width)) ** 2,
            ),
          );
          expect(square).toBe(nearest);
        });
      }),
    );
  });

  // J. Steiner (1840): a convex area grown by r all round gains r times its outline and a disc of radius r.
  it('grow as convex areas do by Steiner’s formula', () => {
    const [width, height] = [50, 30];
    for (const r of [3, 8, 15]) {
      const grown = growMask(rect(30, 30, 30 + width, 30 + height), r, PAGE);
      const expected = width * height + 2 * r * (width + height) + Math.PI * r * r;
      // Edges are soft over a px: half of it lies outside.
      const soft = 0.5 * (2 * (width + height) + 2 * Math.PI * r);
      expect(Math.abs(area(grown) - expected)).toBeLessThan(soft);
    }
  });

  it('shrink to nothing, and back to a rectangle that was grown', () => {
    const box = rect(20, 20, 80, 60);
    expect(isEmptyMask(growMask(box, -25, PAGE))).toBe(true);
    const back = growMask(growMask(box, 6, PAGE), -6, PAGE);
    for (let y = 0; y < 90; y++)
      for (let x = 0; x < 120; x++) expect(Math.abs(meant(back, x, y) - meant(box, x, y))).toBeLessThan(128);
    expect(growMask(box, 0, PAGE)).toBe(box);
    expect(maskBox(growMask(box, 500, PAGE))).toEqual(PAGE);
  });

  it('end where the page does', () => {
    const edge = growMask(rect(0, 0, 10, 10), 5, PAGE);
    expect(edge.x).toBe(0);
    expect(edge.y).toBe(0);
    // What lies at the edge of the page shrinks from there too.
    expect(meant(growMask(rect(0, 0, 120, 90), -4, PAGE), 1, 40)).toBe(0);
  });
});

describe('areas of a colour', () => {
  /** Two red squares and a blue one between, on nothing. */
  const pixels: Pixels = (() => {
    const data = new Uint8ClampedArray(4 * 120 * 90);
    const put = (left: number, top: number, color: readonly number[]) => {
      for (let y = top; y < top + 20; y++) for (let x = left; x < left + 20; x++) data.set(color, 4 * (y * 120 + x));
    };
    put(10, 10, [200, 30, 20, 255]);
    put(30, 10, [20, 30, 200, 255]);
    put(50, 10, [205, 28, 25, 255]);
    return { x: 0, y: 0, width: 120, height: 90, data };
  })();

  it('are all of it, or what hangs together with the touched px', () => {
    expect(area(maskOfColour(pixels, 15, 15))).toBe(800);
    expect(area(maskOfPatch(pixels, 15, 15))).toBe(400);
    expect(maskBox(maskOfPatch(pixels, 35.7, 29.9))).toEqual({ minX: 30, minY: 10, maxX: 50, maxY: 30 });
    expect(area(maskOfShape(pixels))).toBe(1200);
  });

  it('take a shape up with its soft edge, which counts by how much it covers only where it is asked to', () => {
    const data = new Uint8ClampedArray([
      200, 30, 20, 255, 198, 33, 22, 60, 170, 85, 0, 3, 0, 0, 0, 0, 20, 30, 200, 255,
    ]);
    const row: Pixels = { x: 4, y: 2, width: 5, height: 1, data };
    expect([...maskOfPatch(row, 4, 2).data]).toEqual([255, 255, 255]);
    expect([...maskOfShape(row).data]).toEqual([255, 255, 255, 0, 255]);
    expect([...maskOfCover(row).data]).toEqual([255, 60, 3, 0, 255]);
  });

  it('are nothing where nothing lies, or beyond the page', () => {
    expect(isEmptyMask(maskOfPatch(pixels, 90, 80))).toBe(true);
    expect(isEmptyMask(maskOfColour(pixels, -4, 15))).toBe(true);
    expect(isEmptyMask(maskOfPatch(pixels, 15, 4_000))).toBe(true);
  });

  it('a patch finds its way round every corner', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 80, maxLength: 80 }), (bits) => {
        const [width, height] = [10, 8];
        bits[0] = true;
        const data = Uint8ClampedArray.from(bits.flatMap((bit) => [0, 0, 0, bit ? 255 : 0]));
        const found = maskOfPatch({ x: 0, y: 0, width, height, data }, 0, 0);
        const reached = new Set([0]);
        for (const i of reached)
          for (const j of [i % width ? i - 1 : -1, (i + 1) % width ? i + 1 : -1, i - width, i + width])
            if (j >= 0 && j < bits.length && bits[j]) reached.add(j);
        expect(area(found)).toBe(reached.size);
      }),
    );
  });
});
