import fc from 'fast-check';
import { slicesOf } from '../../src/formats';
import { applyChange, newPage } from '../../src/page';
import { adding, change, layer } from '../page/entities';
import { area, box } from './fullSheet';

const scroll = newPage({ width: 1600, height: 14_000, ppi: 300 });
/** Panels of so many px, with room between them. */
const withBlocks = (tops: readonly number[], high: number) =>
  applyChange(
    scroll,
    change(adding(layer('inks'), ...tops.map((top, k) => area(`p${k}`, { rings: [box(100, top, 1500, top + high)] })))),
  );

describe('Slices', () => {
  it('of a scroll of 1,600 × 14,000 px, 800 wide and 1,000 high, are seven (common practice)', () => {
    const slices = slicesOf(scroll, { scale: 0.5, highest: 1_000 });
    expect(slices.map(({ top, bottom }) => [top / 2, bottom / 2])).toEqual(
      Array.from({ length: 7 }, (_, k) => [1_000 * k, 1_000 * (k + 1)]),
    );
  });

  it('are cut in the middle of a gap near their end, where there is one', () => {
    const slices = slicesOf(withBlocks([100, 1_900, 3_700], 1_700), { scale: 0.5, highest: 1_000 });
    expect(slices[0]).toEqual({ top: 0, bottom: 1_850, hits: false });
  });

  it('say where a cut goes through something, when there is no place that does not', () => {
    const [first] = slicesOf(withBlocks([100], 6_000), { scale: 0.5, highest: 1_000 });
    expect(first).toEqual({ top: 0, bottom: 2_000, hits: true });
  });

  it('end where the artist says, and further where that is too high', () => {
    const slices = slicesOf(scroll, { scale: 0.5, highest: 1_000, cuts: [3_000, 3_500.2, 90_000, -4] });
    expect(slices.slice(0, 4).map(({ bottom }) => bottom)).toEqual([2_000, 3_000, 3_500, 5_500]);
  });

  it('hold the whole page, one after the other, none higher than asked for', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 13_000 }), { maxLength: 8 }),
        fc.integer({ min: 80, max: 5_000 }),
        fc.double({ min: 0.1, max: 2, noNaN: true }),
        (tops, highest, scale) => {
          const slices = slicesOf(withBlocks(tops, 900), { scale, highest });
          expect(slices[0].top).toBe(0);
          expect(slices.at(-1)?.bottom).toBe(14_000);
          slices.forEach(({ top, bottom }, k) => {
            expect(bottom - top).toBeGreaterThan(0);
            expect(bottom - top).toBeLessThanOrEqual(highest / scale);
            if (k > 0) expect(top).toBe(slices[k - 1].bottom);
          });
        },
      ),
      { numRuns: 60 },
    );
  });

  it('are refused where they would be more than 500', () => {
    expect(() => slicesOf(scroll, { scale: 1, highest: 20 })).toThrow('more than 500');
    expect(() => slicesOf(scroll, { scale: 1, highest: 0 })).toThrow('more than 500');
  });
});
