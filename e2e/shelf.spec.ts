import { rested, saved } from './board';
import { expect, test } from './desk';
import { line, Pen } from './hands';

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
  await page.getByRole('radio', { name: 'Landscape' }).click();
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

test('the folio shows what was drawn, whichever way one comes back', async ({ page, desk }) => {
  await page.goto(`${desk.address}/folio/demo-saltmarsh-ferry`);
  const picture = page.getByLabel('Picture of The heron mask').locator('img');
  const pictured = () => picture.getAttribute('src');
  const before = await pictured();
  await page.getByRole('link', { name: 'Open The heron mask' }).click();
  await rested(page);
  const pen = await Pen.for(page);
  await pen.draw(line([600, 300], [760, 330]));
  await saved(page);
  await page.getByRole('button', { name: 'Back to the folio' }).click();
  await expect.poll(pictured).not.toBe(before);
  const then = await pictured();
  await page.getByRole('link', { name: 'Open The heron mask' }).click();
  await rested(page);
  const sent = page.waitForResponse(
    (answer) => answer.request().method() === 'PUT' && answer.url().includes('thumbnail'),
  );
  await pen.draw(line([600, 400], [760, 430]));
  await sent;
  await page.goBack();
  await expect.poll(pictured).not.toBe(then);
});

test('a folio of very many pages shows those in sight, and stays where one left it', async ({ page, desk }) => {
  for (let k = 1; k <= 80; k++) {
    const body = JSON.stringify({
      ...{ folioId: 'demo-saltmarsh-ferry', name: `Panel ${k}` },
      ...{ width: 2650, height: 4100, ppi: 400 },
    });
    const headers = { 'content-type': 'application/json' };
    expect((await fetch(`${desk.address}/api/pages`, { method: 'POST', headers, body })).status).toBe(201);
  }
  await page.goto(`${desk.address}/folio/demo-saltmarsh-ferry`);
  await expect(page.getByRole('link', { name: 'Open Panel 1', exact: true })).toBeVisible();
  const last = page.getByRole('link', { name: 'Open Panel 80' });
  await expect(last).toHaveCount(0);
  await page.mouse.move(600, 400);
  await expect(async () => {
    await page.mouse.wheel(0, 1_500);
    await expect(last).toBeInViewport({ timeout: 300 });
  }).toPass();
  await last.click();
  await rested(page);
  await page.getByRole('button', { name: 'Back to the folio' }).click();
  await expect(last).toBeInViewport();
});
