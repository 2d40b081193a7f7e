import { PDFDocument, PDFName, PDFRawStream } from '@cantoo/pdf-lib';
import { Resvg } from '@resvg/resvg-js';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import sharp from 'sharp';
import { pageToPdf, pageToSvg, PdfWriter } from '../../src/formats';
import { newPage, sizeOf, type Page } from '../../src/page';
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
