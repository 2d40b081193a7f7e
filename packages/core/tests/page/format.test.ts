import { checkSize, mmToPx, newPage, PAGE_FORMATS, printsWell, pxToMm, sizeOf } from '../../src/page';
import { PageError } from '../../src/gate';

// The package ships TypeScript that does not pass our settings: it is loaded without being compiled with us.
const { getPaperSizeInMillimetres } = jest.requireActual<{
  getPaperSizeInMillimetres(name: string): { readonly width: number; readonly height: number };
}>('@cityssm/paper-sizes');

const format = (id: string) => PAGE_FORMATS.find((one) => one.id === id)!;
const inMm = (id: string) => {
  const { width, height, unit } = format(id);
  return unit === 'in' ? [width * 25.4, height * 25.4] : [width, height];
};

describe('page formats', () => {
  it.each([
    ['a3', 'A3'],
    ['a4', 'A4'],
    ['a5', 'A5'],
    ['b4', 'B4'],
    ['b5', 'B5'],
    ['letter', 'Letter'],
    ['tabloid', 'Tabloid'],
  ] as const)('%s is as large as @cityssm/paper-sizes 1.0.1 says (ISO 216, ANSI/ASME Y14.1)', (id, name) => {
    const { width, height } = getPaperSizeInMillimetres(name);
    // The library rounds inches to whole mm or so.
    expect(Math.abs(inMm(id)[0] - width)).toBeLessThan(0.6);
    expect(Math.abs(inMm(id)[1] - height)).toBeLessThan(0.6);
  });

  it('of JIS P 0138 are the Japanese B sizes (values from memory): B4 257 × 364, B5 182 × 257 mm', () => {
    expect(inMm('jis-b4')).toEqual([257, 364]);
    expect(inMm('jis-b5')).toEqual([182, 257]);
  });

  it('of the ISO series halve into one another (ISO 216: sides in the ratio √2, areas halved, rounded down to mm)', () => {
    expect(Math.floor(inMm('a3')[1] / 2)).toBe(inMm('a4')[0]);
    expect(Math.floor(inMm('a4')[1] / 2)).toBe(inMm('a5')[0]);
    expect(Math.floor(inMm('b4')[1] / 2)).toBe(inMm('b5')[0]);
    for (const id of ['a3', 'a4', 'a5', 'b4', 'b5'])
      expect(Math.abs(inMm(id)[1] / inMm(id)[0] - Math.SQRT2)).toBeLessThan(0.01);
  });

  it('of the trade have their px (common practice)', () => {
    expect(sizeOf(format('scroll'))).toEqual({ width: 1600, height: 14000, ppi: 300 });
    expect(sizeOf(format('square-8'))).toEqual({ width: 2800, height: 2800, ppi: 350 });
    expect(sizeOf(format('11x14'))).toEqual({ width: 3850, height: 4900, ppi: 350 });
    expect(sizeOf(format('a4'))).toEqual({ width: 2480, height: 3508, ppi: 300 });
  });

  it('can all be made into a page, upright and lying', () => {
    for (const one of PAGE_FORMATS) {
      const { width, height } = newPage(one).size;
      expect(newPage(sizeOf(one)).size).toEqual(newPage(one).size);
      const lying = sizeOf(one, { lying: true });
      expect([lying.width, lying.height]).toEqual([Math.max(width, height), Math.min(width, height)]);
    }
  });

  it('are scaled by the ppi, unless they are px', () => {
    expect(sizeOf(format('a4'), { ppi: 600 }).width).toBe(4961);
    expect(sizeOf(format('scroll'), { ppi: 72 })).toEqual({ width: 1600, height: 14000, ppi: 72 });
  });
});

describe('sizes', () => {
  it('go from mm to px and back', () => {
    expect(mmToPx(25.4, 350)).toBe(350);
    expect(pxToMm(mmToPx(123.4, 350), 350)).toBeCloseTo(123.4, 12);
  });

  it.each([
    ['5 m by 5 m at 300 ppi', { width: 59_055, height: 59_055, ppi: 300 }, /too large/],
    ['too many px in all', { width: 19_000, height: 19_000, ppi: 300 }, /million px/],
    ['nothing', { width: 0, height: 100, ppi: 300 }, /at least 16/],
    ['not a number', { width: NaN, height: 100, ppi: 300 }, PageError],
    ['half a px', { width: 100.5, height: 100, ppi: 300 }, PageError],
    ['no ppi', { width: 100, height: 100, ppi: 0 }, /ppi/],
    ['a ppi without end', { width: 100, height: 100, ppi: Infinity }, /ppi/],
  ])('of %s are refused', (_what, size, sentence) => {
    expect(() => checkSize(size)).toThrow(sentence);
  });

  it('under 2,000 px on the short side do not print well (common practice)', () => {
    expect(printsWell({ width: 2000, height: 3000, ppi: 300 })).toBe(true);
    expect(printsWell({ width: 1999, height: 3000, ppi: 300 })).toBe(false);
  });
});
