import { readFileSync } from 'node:fs';
import { PDFDocument } from '@cantoo/pdf-lib';
import { decode } from 'fast-png';
import { openBoard, rested } from './board';
import { expect, test } from './desk';

test('with a thumb: the file is seen first, pages are chosen, findings are gone through', async ({ page, desk }) => {
  test.setTimeout(120_000);
  await openBoard(page, desk, 'demo-tide');
  await page.getByRole('tab', { name: 'Finish' }).tap();
  await rested(page);
  await page.getByRole('radio', { name: '25 %' }).tap();
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('button', { name: 'See it first' }).tap();
  const shown = page.getByRole('img', { name: 'before-the-tide-turns.png' });
  await expect(shown).toBeVisible();
  const arriving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Deliver this file' }).tap();
  const png = decode(readFileSync(await (await arriving).path()));
  expect(await shown.count()).toBe(0);

  // Two pages of the folio in one PDF: this one is chosen from the beginning.
  await page.getByRole('radio', { name: 'Some' }).tap();
  await page.getByRole('checkbox', { name: /^Page 1, / }).tap();
  await page.getByRole('radio', { name: 'PDF', exact: true }).tap();
  const second = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Deliver PDF' }).tap();
  const pdf = await PDFDocument.load(readFileSync(await (await second).path()));
  expect(pdf.getPageCount()).toBe(2);
  expect(pdf.getPage(1).getWidth() / pdf.getPage(1).getHeight()).toBeCloseTo(png.width / png.height, 2);

  await page.getByRole('button', { name: 'Check', exact: true }).tap();
  await expect(page.getByTestId('press')).toHaveText(/^\d+ things to look at\.$/);
  await page.getByRole('button', { name: 'Next finding' }).tap();
  await expect(page.getByTestId('press')).toHaveText(/^1 of \d+: /);
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await rested(page);
  const first = await page.getByTestId('press').textContent();
  await page.getByRole('button', { name: 'Silence', exact: true }).tap();
  await expect(page.getByTestId('press')).not.toHaveText(first ?? '');
});
