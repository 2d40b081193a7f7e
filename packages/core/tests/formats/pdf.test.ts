import { PDFDocument, PDFName, PDFRawStream } from '@cantoo/pdf-lib';
import { Resvg } from '@resvg/resvg-js';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import sharp from 'sharp';
import { pageToPdf, pageToSvg, PdfWriter } from '../../src/formats';
import { applyChange, newPage, sizeOf, WASH_SIDE, washTile, type Page } from '../../src/page';
import { adding, change, layer, picture } from '../page/entities';
import { fullSheet, inkPage } from './fullSheet';

const POPPLER = '/usr/bin/pdftoppm';
/** Poppler, an independent reader, where it is installed. */
const withPoppler = existsSync(POPPLER) ? it : it.skip;

/** All that the content of a PDF says. */
async function contentsOf(bytes: Uint8Array): Promise<string> {
  const document = await PDFDocument.load(bytes);
  return document.context
    .enumerateIndirectObjects()
    .flatMap(([, object]) =>
      object instanceof PDFRawStream && object.dict.get(PDFName.of('Filter'))?.toString() === '/FlateDecode'
        ? [inflateSync(object.contents).toString('latin1')]
        : [],
    )
    .join('\n');
}

/** A PDF's first page as Poppler paints it, RGB, 350 px an inch. */
async function painted(bytes: Uint8Array): Promise<{ data: Buffer; width: number; height: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'pdf-'));
  try {
    writeFileSync(join(folder, 'page.pdf'), bytes);
    const { status } = spawnSync(POPPLER, [
      '-r',
      '350',
      '-png',
      '-singlefile',
      join(folder, 'page.pdf'),
      join(folder, 'page'),
    ]);
    expect(status).toBe(0);
    const { data, info } = await sharp(readFileSync(join(folder, 'page.png')))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** The page as an independent renderer paints its SVG (resvg 2.6). */
async function asSvg(page: Page): Promise<Buffer> {
  const png = new Resvg(pageToSvg(page), { fitTo: { mode: 'width', value: page.size.width }, background: '#ffffff' })
    .render()
    .asPng();
  return sharp(png).removeAlpha().raw().toBuffer();
}

describe('PDF', () => {
  it('has true size: 72 units an inch, an A4 of 595.28 × 841.89 (ISO 32000-1; ISO 216), to the rounding of its px', async () => {
    const a4 = newPage(sizeOf({ width: 210, height: 297, unit: 'mm', ppi: 300 }));
    const { width, height } = (await PDFDocument.load(await pageToPdf(a4, 'A4'))).getPage(0).getSize();
    expect(Math.abs(width - 595.28)).toBeLessThan(0.12);
    expect(Math.abs(height - 841.89)).toBeLessThan(0.12);
  });

  it('says where it is cut and how far it bleeds; crop marks lie outside of both', async () => {
    const page = inkPage();
    const read = (await PDFDocument.load(await pageToPdf(page, 'Quay', { cropMarks: true }))).getPage(0);
    const [media, trim, bleed] = [read.getMediaBox(), read.getTrimBox(), read.getBleedBox()];
    const pt = (px: number) => (px / 350) * 72;
    expect(bleed.width).toBeCloseTo(pt(700), 6);
    expect(trim.width).toBeCloseTo(pt(660), 6);
    expect(trim.height).toBeCloseTo(pt(460), 6);
    expect(trim.x - bleed.x).toBeCloseTo(pt(20), 6);
    expect(media.width).toBeGreaterThan(bleed.width + 2 * (8 / 25.4) * 72);
    const marks = (await contentsOf(await pageToPdf(page, 'Quay', { cropMarks: true }))).match(/ l S/g);
    expect(marks).toHaveLength(8);
  });

  it('of inks has no colour but black ink alone: greys by one number, no three or four (ISO 32000-1, 8.6.4)', async () => {
    const content = await contentsOf(await pageToPdf(inkPage(), 'Inks'));
    expect(content).toMatch(/^0 g$/m);
    expect(content).not.toMatch(/ (rg|RG|k|K|scn?|SCN?)$/m);
    // As they are, where that is asked for: the brush is a dark blue.
    expect(await contentsOf(await pageToPdf(inkPage(), 'Inks', { pureBlack: false }))).toMatch(
      /^0\.0784 0\.0863 0\.102 rg$/m,
    );
  });

  it('has a page for each page, or lays two side by side where they are cut', async () => {
    const pages = [inkPage(), inkPage(), inkPage()];
    const writer = await PdfWriter.named('Folio');
    await writer.add([pages[0]]);
    await writer.add([pages[1], pages[2]], { isSpread: true });
    const read = await PDFDocument.load(await writer.finish());
    expect(read.getPageCount()).toBe(2);
    const pt = (px: number) => (px / 350) * 72;
    const spread = read.getPage(1);
    expect(spread.getWidth()).toBeCloseTo(pt(2 * 700 - 2 * 20), 6);
    expect(spread.getTrimBox().width).toBeCloseTo(pt(2 * 660), 6);
  });

  it('needs a page', async () => {
    const writer = await PdfWriter.named('Nothing');
    await expect(writer.finish()).rejects.toThrow('needs a page');
  });

  withPoppler('is read by Poppler as it says of itself: its boxes, its pages, its true size', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'pdf-'));
    try {
      const file = join(folder, 'page.pdf');
      writeFileSync(file, await pageToPdf(inkPage(), 'Quay'));
      const said = spawnSync('/usr/bin/pdfinfo', ['-box', file]).stdout.toString();
      const numbers = (box: string) =>
        new RegExp(`^${box}:\\s+(.*)$`, 'm').exec(said)?.[1].trim().split(/\s+/).map(Number);
      // 700 × 500 px at 350 an inch, 20 px of bleed.
      expect(said).toMatch(/^Pages:\s+1$/m);
      expect(numbers('MediaBox')).toEqual([0, 0, 144, 102.86]);
      expect(numbers('BleedBox')).toEqual([0, 0, 144, 102.86]);
      expect(numbers('TrimBox')).toEqual([4.11, 4.11, 139.89, 98.74]);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  withPoppler('lays pixels of washes and turned roughs where they lie, on their feet', async () => {
    const rough = { ...picture('p'), width: 60, height: 40, opacity: 1, tint: 'none' as const };
    const placement = { x: 400, y: 250, scale: 2, angle: Math.PI / 2 };
    const page = applyChange(
      newPage({ width: 700, height: 500, ppi: 350 }),
      change(
        adding(
          ...[layer('rough', 'Zz', 'rough'), layer('wash', 'a0', 'wash'), washTile('wash', 0, 0, 'ab'.repeat(32))],
          { ...rough, placement },
        ),
      ),
    );
    const rgba = new Uint8ClampedArray(4 * WASH_SIDE * WASH_SIDE);
    // Red in the upper left corner of the tile, 40 × 20 px.
    for (let y = 0; y < 20; y++) for (let x = 0; x < 40; x++) rgba.set([255, 0, 0, 255], 4 * (y * WASH_SIDE + x));
    // The left half of the rough is blue, the right half yellow.
    const half = (background: string) => sharp({ create: { width: 30, height: 40, channels: 3, background } }).png();
    const jpeg = await half('#0000ff')
      .extend({ right: 30, background: '#ffff00' })
      .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
      .toBuffer();
    const bytes = await pageToPdf(
      page,
      'Pixels',
      { withRough: true },
      {
        wash: () => Promise.resolve({ width: WASH_SIDE, height: WASH_SIDE, rgba }),
        picture: () => Promise.resolve(jpeg),
      },
    );
    const { data, width } = await painted(bytes);
    const at = (x: number, y: number) => [...data.subarray(3 * (y * width + x), 3 * (y * width + x) + 3)];
    expect([at(35, 15), at(50, 15), at(35, 30)]).toEqual([
      [255, 0, 0],
      [255, 255, 255],
      [255, 255, 255],
    ]);
    // A quarter turn from x towards y takes the left half up: 80 px wide, 120 high about the middle.
    const near = (x: number, y: number, color: readonly number[]) =>
      expect(Math.max(...at(x, y).map((value, c) => Math.abs(value - color[c])))).toBeLessThan(6);
    near(400, 215, [0, 0, 255]);
    near(400, 285, [255, 255, 0]);
    expect(at(355, 215)).toEqual([255, 255, 255]);
  });

  withPoppler('is painted by Poppler as its SVG is by resvg: at most 8/255 apart away from edges', async () => {
    const page = fullSheet();
    const theirs = await painted(await pageToPdf(page, 'All', { pureBlack: false }));
    expect([theirs.width, theirs.height]).toEqual([700, 500]);
    const own = await asSvg(page);
    const { width, height } = page.size;
    let [compared, most] = [0, 0];
    const at = (x: number, y: number, c: number) => 3 * (y * width + x) + c;
    for (let y = 2; y < height - 2; y++)
      for (let x = 2; x < width - 2; x++) {
        let isEdge = false;
        for (let v = -2; v <= 2; v++)
          for (let u = -2; u <= 2; u++)
            for (let c = 0; c < 3; c++) isEdge ||= Math.abs(own[at(x + u, y + v, c)] - own[at(x, y, c)]) > 6;
        if (isEdge) continue;
        compared++;
        for (let c = 0; c < 3; c++) most = Math.max(most, Math.abs(own[at(x, y, c)] - theirs.data[at(x, y, c)]));
      }
    expect(compared).toBeGreaterThan(0.4 * width * height);
    expect(most).toBeLessThanOrEqual(8);
  });
});
