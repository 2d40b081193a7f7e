import { rested } from './board';
import { expect, test } from './desk';

test('folios and pages are renamed, duplicated, deleted and put back', async ({ page, desk }) => {
  await page.goto(desk.address);
  await page.getByRole('button', { name: 'More for Saltmarsh Ferry' }).click();
  await page.getByLabel('Name').fill('Ferry, second draft');
  await page.getByRole('button', { name: 'Rename' }).click();
  await expect(page.getByRole('link', { name: 'Open Ferry, second draft' })).toBeVisible();
  await expect(page.getByLabel('Picture of Ferry, second draft')).toBeVisible();
  // By its name; by its picture in other stories.
  await page.getByText('Ferry, second draft', { exact: true }).click();
  await page.getByRole('button', { name: 'More for The heron mask' }).click();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.getByRole('link', { name: 'Open The heron mask copy' })).toBeVisible();
  await page.getByRole('button', { name: 'More for The heron mask copy' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('link', { name: 'Open The heron mask copy' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Open The heron mask copy' })).toBeVisible();
});

test('a page of one’s own size; what cannot be is said before it is tried', async ({ page, desk }) => {
  await page.goto(`${desk.address}/folio/demo-saltmarsh-ferry`);
  await page.getByRole('button', { name: 'New page' }).click();
  await page.getByRole('radio', { name: 'Own size' }).click();
  await page.getByLabel('Width').fill('5000');
  await page.getByLabel('Height').fill('5000');
  await expect(page.getByRole('alert')).toContainText('too large');
  await expect(page.getByRole('button', { name: 'Make the page' })).toBeDisabled();
  await page.getByLabel('Width').fill('100');
  await page.getByLabel('Height').fill('150');
  await page.getByLabel('ppi').fill('300');
  await page.getByRole('radio', { name: 'Lying' }).click();
  await expect(page.getByText(/1772 × 1181 px\. Under 2,000 px/)).toBeVisible();
  await page.getByRole('button', { name: 'Make the page' }).click();
  await expect(page.getByTestId('board')).toBeVisible();
  await page.getByRole('button', { name: /page settings/ }).click();
  await expect(page.getByText(/1772 × 1181 px · 150 × 100 mm · 300 ppi\. Under 2,000 px/)).toBeVisible();
});

test('pages that are opened and left leave nothing in memory, and the way back leads back', async ({ page, desk }) => {
  const browser = await page.context().newCDPSession(page);
  await browser.send('Performance.enable');
  /** Nodes and listeners that are held on to, in the document or beside it. */
  const held = async () => {
    await browser.send('HeapProfiler.collectGarbage');
    const { metrics } = await browser.send('Performance.getMetrics');
    const count = (name: string) => metrics.find((metric) => metric.name === name)?.value ?? NaN;
    return count('Nodes') + count('JSEventListeners');
  };
  const visit = async (name: string) => {
    await page.getByRole('link', { name: `Open ${name}` }).click();
    await rested(page);
    await page.getByRole('button', { name: 'Back to the folio' }).click();
    await expect(page.getByRole('link', { name: `Open ${name}` })).toBeVisible();
  };
  await page.goto(desk.address);
  await page.getByRole('link', { name: 'Open Saltmarsh Ferry' }).click();
  // What the first visits bring stays: programs, fonts, kinds of elements.
  await visit('The heron mask');
  await visit('Quay at low tide');
  const before = await held();
  for (let k = 0; k < 3; k++) {
    await visit('The heron mask');
    await visit('Quay at low tide');
  }
  // One page is several hundred.
  await expect.poll(held).toBeLessThan(before + 150);
  await page.goBack();
  await expect(page.getByRole('link', { name: 'Open Saltmarsh Ferry' })).toBeVisible();
});
