import { slicesOf } from '@true-nib/core/formats';
import { newPage } from '@true-nib/core/page';
import { fileName, PLAIN_CHOICE, pxFor, scaleFor, SHIPPED_PRESETS, type DeliverChoice } from '../src/deliver/choice';
import { byKind, canMend, type Found } from '../src/stages/press/pressStore';

const choice = (change: Partial<DeliverChoice>): DeliverChoice => ({ ...PLAIN_CHOICE, ...change });
const SIZE = { width: 1_600, height: 14_000, ppi: 300 };

describe('A picture of a page', () => {
  it('is as large as its share, its width or its height says, in whole px', () => {
    expect(pxFor(choice({ scale: 0.333 }), SIZE)).toEqual({ width: 533, height: 4_662 });
    expect(pxFor(choice({ sizeBy: 'width', px: 800 }), SIZE)).toEqual({ width: 800, height: 7_000 });
    expect(pxFor(choice({ sizeBy: 'height', px: 1_000 }), SIZE)).toEqual({ width: 114, height: 1_000 });
    // Vectors have the size of the page, whatever was chosen for pictures.
    expect(scaleFor(choice({ as: 'pdf', sizeBy: 'width', px: 800 }), SIZE)).toBe(1);
  });

  it('of five metres is refused at its full size with what there is to do, and made smaller', () => {
    const long = { width: 4_000, height: Math.round((5_000 / 25.4) * 600), ppi: 600 };
    expect(() => pxFor(choice({}), long)).toThrow(/^A picture of 4000 × 118110 px is too large.*Deliver it smaller\.$/);
    expect(pxFor(choice({ sizeBy: 'width', px: 800 }), long).height).toBe(23_622);
  });

  it('of the least page has one px at least', () => {
    expect(pxFor(choice({ scale: 0.05 }), { width: 3, height: 3, ppi: 72 })).toEqual({ width: 1, height: 1 });
  });
});

describe('Presets', () => {
  it('of a scroll make seven slices of 1,000 px of 1,600 × 14,000 (common practice)', () => {
    const scroll = SHIPPED_PRESETS.find(({ id }) => id === 'scroll')?.choice;
    if (!scroll) throw new Error('There is a preset for scrolls.');
    const slices = slicesOf(newPage(SIZE), { scale: scaleFor(scroll, SIZE), highest: scroll.highest });
    expect(slices.map(({ top, bottom }) => (bottom - top) / 2)).toEqual(Array(7).fill(1_000));
  });

  it('are files by names that any disk takes', () => {
    expect(fileName('Before the tide: “turns”?', 'tiff')).toMatch(/^[a-z-]+\.tif$/);
  });
});

describe('Findings', () => {
  const finding = (id: string, kind: Found['kind'], more: Partial<Found> = {}): Found => ({
    id,
    kind,
    words: id,
    ...more,
  });

  it('stand together by their kinds, in the order in which these were found', () => {
    const groups = byKind([finding('a', 'speck'), finding('b', 'leak'), finding('c', 'speck')]);
    expect(groups.map(([kind, own]) => [kind, own.map(({ id }) => id)])).toEqual([
      ['speck', ['a', 'c']],
      ['leak', ['b']],
    ]);
  });

  it('can be mended where there is a deed, or a gap to bridge', () => {
    expect(canMend(finding('a', 'resolution'))).toBe(false);
    expect(canMend(finding('b', 'speck', { mending: { as: 'drop', id: 'x' } }))).toBe(true);
    expect(canMend(finding('c', 'leak', { leak: { x: 0, y: 0, width: 2, regions: [1, 2], weight: 1 } }))).toBe(true);
  });
});
