import ClipperLib from 'clipper-lib';
import { decode } from 'fast-png';
import sharp from 'sharp';
import type { AreaEntity } from '../../src/area';
import { bilevel, PngWriter, type BitSheet } from '../../src/formats';
import { applyChange, newPage, WASH_SIDE, washTile, type Page } from '../../src/page';
import { area as clippedArea, inkOf } from '../areas';
import { adding, change, layer } from '../page/entities';
import { area, box, inkPage, LINES, SIZE } from './fullSheet';

const made = (page: Page, scale = 1): BitSheet => {
  const sheet = bilevel(page, { scale });
  if (!sheet) throw new Error('Nothing stopped it.');
  return sheet;
};

const pageOf = (...entities: readonly AreaEntity[]) =>
  applyChange(newPage(SIZE), change(adding(layer('flats', 'Zz'), layer('inks'), ...entities)));

describe('Black and white alone', () => {
  it.each([1, 2, 0.5])('inks as much as the exact outlines hold, at a scale of %d (clipper-lib 6.4.2)', (scale) => {
    const exact = clippedArea(ClipperLib.ClipType.ctUnion, inkOf(LINES), []);
    const count = made(inkPage(), scale).count() / scale ** 2;
    expect(Math.abs(count / exact - 1)).toBeLessThan(0.01);
  });

  it('is written as a PNG of one bit without a grey px, read back as it is (fast-png 8, libpng by sharp)', async () => {
    const sheet = made(inkPage());
    const writer = new PngWriter({ width: sheet.width, height: sheet.height, ppi: 350, isOneBit: true });
    const bytes = Buffer.concat([...writer.addBits(sheet.bits), ...writer.finish()]);
    expect(decode(bytes, { checkCrc: true })).toMatchObject({ depth: 1, channels: 1, width: 700, height: 500 });
    const { data } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([...new Set(data)].sort()).toEqual([0, 255]);
    let black = 0;
    for (const value of data) if (value === 0) black++;
    expect(black).toBe(sheet.count());
    expect(data[200 * 700 + 100] === 0).toBe(sheet.at(100, 200));
  });

  it.each([0.1, 0.3, 0.5, 0.8])('covers a share of %d of the paper with a tone (Murray & Davies 1936)', (share) => {
    const fill = {
      as: 'tone',
      color: '#000000',
      screen: 'dots',
      period: 10,
      angle: 0.4,
      share,
      at: { x: 0, y: 0 },
    } as const;
    const sheet = made(pageOf(area('t', { rings: [box(50, 50, 650, 450)], fill })), 2);
    expect(sheet.count() / (4 * 600 * 400)).toBeCloseTo(share, 2);
  });

  it('takes what is lighter than half for white, also over black, and lets a nick show what lies beneath', () => {
    const sheet = made(
      pageOf(
        area('f', { layerId: 'flats', rings: [box(0, 0, 100, 100)], fill: { as: 'colour', color: '#303030' } }),
        area('a', { rings: [box(20, 20, 80, 80)], fill: { as: 'colour', color: '#f0e0d0' } }),
        area('b', { rings: [box(40, 40, 60, 60)], fill: { as: 'nothing' } }),
        area('c', { rings: [box(200, 200, 300, 300)], fill: { as: 'colour', color: '#000000', opacity: 0.4 } }),
      ),
    );
    expect([sheet.at(10, 10), sheet.at(30, 30), sheet.at(50, 50), sheet.at(250, 250)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect(sheet.count()).toBe(100 * 100 - 60 * 60 + 20 * 20);
  });

  it('turns a gradient over at half of black, and pixels of a wash where they are', () => {
    const ramp = { shape: 'straight', from: { x: 0, y: 0 }, to: { x: 400, y: 0 } } as const;
    const stops = [
      { at: 0, color: '#000000' },
      { at: 1, color: '#ffffff' },
    ];
    const sheet = made(pageOf(area('g', { rings: [box(0, 0, 400, 100)], fill: { as: 'gradient', ramp, stops } })));
    expect(sheet.count()).toBe(201 * 100);
    const rgba = new Uint8ClampedArray(4 * WASH_SIDE * WASH_SIDE);
    rgba.set([0, 0, 0, 255], 4 * (3 * WASH_SIDE + 7));
    rgba.set([0, 0, 0, 90], 4 * (3 * WASH_SIDE + 8));
    const washed = applyChange(
      newPage(SIZE),
      change(adding(layer('wash', 'a0', 'wash'), washTile('wash', 1, 0, 'ab'.repeat(32)))),
    );
    const bits = bilevel(washed, { scale: 1, wash: () => ({ width: WASH_SIDE, height: WASH_SIDE, rgba }) });
    expect(bits?.count()).toBe(1);
    expect(bits?.at(WASH_SIDE + 7, 3)).toBe(true);
  });

  it('can be stopped', () => {
    expect(bilevel(inkPage(), { scale: 1, progress: () => false })).toBeUndefined();
  });
});
