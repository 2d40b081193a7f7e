import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import type { Page as Tab } from '@playwright/test';
import { ofKind } from '@true-nib/core/page';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { openBoard, onServer, rested, strokesOf } from './board';
import { Desk, expect, SEEDED, test } from './desk';
import { line, Pen } from './hands';

const COMIC = 'demo-tide';

async function finish(tab: Tab): Promise<void> {
  await tab.getByRole('tab', { name: 'Finish' }).click();
  await rested(tab);
}

/** Takes a kind of file up and has it delivered. */
async function delivered(
  tab: Tab,
  radio: string,
  name = radio,
): Promise<{ readonly bytes: Buffer; readonly name: string }> {
  await tab.getByRole('radio', { name: radio, exact: true }).click();
  const arriving = tab.waitForEvent('download');
  await tab.getByRole('button', { name: `Deliver ${name}`, exact: true }).click();
  const download = await arriving;
  return { bytes: readFileSync(await download.path()), name: download.suggestedFilename() };
}

test('a page is delivered in every format, and opened by readers of others', async ({ page, desk }) => {
  test.setTimeout(150_000);
  await openBoard(page, desk, COMIC);
  await finish(page);
  const { size } = await onServer(desk, COMIC);
  const pt = (px: number) => (px / size.ppi) * 72;

  const pdf = await PDFDocument.load((await delivered(page, 'PDF')).bytes);
  expect(pdf.getPageCount()).toBe(1);
  expect(pdf.getPage(0).getWidth()).toBeCloseTo(pt(size.width), 3);
  expect(pdf.getTitle()).toBe('Before the tide turns');

  const tiff = await delivered(page, 'TIFF');
  expect(tiff.name).toBe('before-the-tide-turns.tif');
  expect(await sharp(tiff.bytes).metadata()).toMatchObject({ bitsPerSample: 1, width: size.width, density: size.ppi });

  const ora = unzipSync((await delivered(page, 'ORA', 'OpenRaster')).bytes);
  expect(Object.keys(ora)[0]).toBe('mimetype');
  expect(new TextDecoder().decode(ora['stack.xml'])).toContain('name="Lettering"');

  // A quarter of the page is as quick to compare: all pictures show the same.
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('radio', { name: '25 %' }).click();
  const png = await sharp((await delivered(page, 'PNG')).bytes)
    .greyscale()
    .raw()
    .toBuffer();
  const jpeg = await delivered(page, 'JPEG');
  expect(jpeg.bytes.subarray(6, 10).toString()).toBe('JFIF');
  const webp = await delivered(page, 'WebP');
  for (const { bytes } of [jpeg, webp]) {
    const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([size.width, size.height].map((side) => Math.round(side / 4)));
    const apart = data.reduce((sum, value, k) => sum + Math.abs(value - png[k]), 0) / data.length;
    expect(apart).toBeLessThan(4);
  }
});

test('a scroll goes in slices that can be dragged, as one ZIP whose names are in order', async ({ page, desk }) => {
  test.setTimeout(120_000);
  await openBoard(page, desk, 'demo-crossing');
  await finish(page);
  await page.getByRole('radio', { name: '800 px' }).click();
  await expect(page.getByText(/\d+ slices/)).toBeVisible();
  const { bytes, name } = await delivered(page, 'PNG');
  expect(name).toBe('the-crossing.zip');
  const files = unzipSync(bytes);
  const names = Object.keys(files);
  expect(names).toEqual([...names].sort());
  expect(names.length).toBeGreaterThanOrEqual(7);
  const pictures = names.map((file) => decode(files[file]));
  expect(pictures.every(({ width, height }) => width === 800 && height <= 1_000)).toBe(true);
  const { size } = await onServer(desk, 'demo-crossing');
  expect(pictures.reduce((sum, { height }) => sum + height, 0)).toBe(Math.round((size.height * 800) / size.width));
});

test('all pages of a folio become one PDF, while one draws on; it can be cancelled', async ({ page, desk }) => {
  test.setTimeout(150_000);
  await openBoard(page, desk, COMIC);
  await finish(page);
  await page.getByRole('radio', { name: 'PDF', exact: true }).click();
  await page.getByRole('radio', { name: 'All', exact: true }).click();
  const button = page.getByRole('button', { name: 'Deliver PDF' });
  await button.click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Cancelled. No file was made.')).toBeVisible();
  const arriving = page.waitForEvent('download', { timeout: 120_000 });
  await button.click();
  // It goes on in another stage, and on the shelf.
  await page.getByRole('tab', { name: 'Ink' }).click();
  await expect(page.getByRole('progressbar', { name: 'Delivering' })).toBeVisible();
  await page.getByRole('button', { name: 'Back to the folio' }).click();
  await expect(page.getByRole('progressbar', { name: 'Delivering' })).toBeVisible();
  const download = await arriving;
  expect(download.suggestedFilename()).toBe('saltmarsh-ferry.pdf');
  const pdf = await PDFDocument.load(readFileSync(await download.path()));
  const { folios } = (await (await fetch(`${desk.address}/api/folios`)).json()) as { folios: { pageCount: number }[] };
  expect(pdf.getPageCount()).toBe(folios[0].pageCount);
});

test('a folio is sent to another desk as one file, and gone on with there', async ({ page, desk }, info) => {
  test.setTimeout(120_000);
  await page.goto(desk.address);
  await page.getByRole('button', { name: 'More for Saltmarsh Ferry' }).click();
  const arriving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Send as one file' }).click();
  const file = info.outputPath('ferry.folio.zip');
  await (await arriving).saveAs(file);

  const folder = mkdtempSync(join(tmpdir(), 'true-nib-other-'));
  cpSync(SEEDED, folder, { recursive: true });
  const other = await Desk.open(folder);
  try {
    await page.goto(other.address);
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Bring in' }).click();
    await (await chooser).setFiles(file);
    await expect(page.getByText('Saltmarsh Ferry is on the shelf.')).toBeVisible({ timeout: 60_000 });
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    await page.getByRole('link', { name: 'Open Nib sampler' }).click();
    await rested(page);
    const pageId = new URL(page.url()).pathname.split('/').at(-1) ?? '';
    const before = strokesOf(await onServer(other, pageId)).length;
    await (await Pen.for(page)).draw(line([640, 340], [900, 380]));
    await expect.poll(async () => strokesOf(await onServer(other, pageId)).length).toBe(before + 1);
  } finally {
    await other.kill();
    rmSync(folder, { recursive: true, force: true });
  }
});

test('layers are brought in as a page of their own, and what cannot be kept is said', async ({ page, desk }, info) => {
  await openBoard(page, desk, 'demo-nibs');
  await finish(page);
  const { bytes } = await delivered(page, 'ORA', 'OpenRaster');
  const file = info.outputPath('sampler.ora');
  writeFileSync(file, bytes);
  await page.getByRole('button', { name: 'Back to the folio' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in' }).click();
  await (await chooser).setFiles(file);
  await expect(page.getByText(/^sampler is a page of this folio\./)).toBeVisible();
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await rested(page);
  const pageId = new URL(page.url()).pathname.split('/').at(-1) ?? '';
  const [from, to] = [await onServer(desk, 'demo-nibs'), await onServer(desk, pageId)];
  expect(to.size).toEqual(from.size);
  expect(ofKind(to, 'wash').length).toBeGreaterThan(3);
});
