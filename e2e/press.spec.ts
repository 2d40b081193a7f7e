import { ofKind } from '@true-nib/core/page';
import { onServer, openBoard, rested, strokesOf } from './board';
import { expect, test } from './desk';

const COMIC = 'demo-tide';

test('a page is checked before print, mended, and what is meant is silenced until it is clean', async ({
  page,
  desk,
}) => {
  test.setTimeout(120_000);
  await openBoard(page, desk, COMIC);
  const before = strokesOf(await onServer(desk, COMIC)).length;
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('button', { name: 'Check', exact: true }).click();
  const status = page.getByTestId('press');
  await expect(status).toHaveText(/^\d+ things to look at\.$/);

  // All that nobody sees goes at once, and comes back with undo.
  const unseen = page.getByRole('button', { name: /^Out of sight, \d+$/ });
  const count = Number((await unseen.getAttribute('aria-label'))?.split(', ')[1]);
  await unseen.click();
  await page.getByRole('button', { name: `Mend all ${count}` }).click();
  await expect(unseen).toHaveCount(0);
  await expect.poll(async () => strokesOf(await onServer(desk, COMIC)).length).toBe(before - count);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(unseen).toHaveAttribute('aria-label', `Out of sight, ${count}`);

  // One place is gone to, and mended there: a gap that leaks gets a line like those beside it.
  const leaks = page.getByRole('button', { name: /^Leaks, \d+$/ });
  const gaps = Number((await leaks.getAttribute('aria-label'))?.split(', ')[1]);
  await leaks.click();
  const gap = page.getByRole('button', { name: /^Colour would run out/ });
  await gap.first().click();
  await expect(page.getByText('· 150 %')).toBeVisible();
  await page.getByRole('button', { name: 'Mend', exact: true }).click();
  await expect.poll(async () => strokesOf(await onServer(desk, COMIC)).length).toBe(before + 1);
  await expect(status).toHaveText(/^\d+ things to look at\.$/);
  await expect.poll(() => leaks.getAttribute('aria-label')).toBe(`Leaks, ${gaps - 1}`);
  await page.getByRole('button', { name: 'What prints' }).click();
  await page.getByRole('switch', { name: 'Look for leaks' }).click();
  await expect(leaks).toHaveCount(0);

  // The rest is as it is meant to be.
  const loose = page.getByRole('button', { name: /^Loose ends, \d+$/ });
  const ends = Number((await loose.getAttribute('aria-label'))?.split(', ')[1]);
  for (const kind of [unseen, loose]) {
    if ((await kind.getAttribute('aria-expanded')) === 'false') await kind.click();
    await page
      .getByRole('button', { name: /^Silence all/ })
      .first()
      .click();
    await expect(kind).toHaveCount(0);
  }
  await expect(status).toHaveText('Nothing is wrong.');
  await expect.poll(async () => ofKind(await onServer(desk, COMIC), 'silence').length).toBe(count + ends);
  await page.reload();
  await rested(page);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('button', { name: 'Check', exact: true }).click();
  await expect(status).toHaveText('Nothing is wrong.');
  await page.getByRole('button', { name: /^Hear all \d+ silenced again$/ }).click();
  await expect(status).toHaveText(/things to look at/);
});

test('how weights and blacks are spread is drawn, and the page is seen as large as in print', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, COMIC);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('button', { name: 'Check', exact: true }).click();
  await page.getByRole('radio', { name: 'In print' }).click();
  // An inch of a screen is 96 px, until it is measured.
  const { size } = await onServer(desk, COMIC);
  await expect(page.getByText(`· ${Math.round(9600 / size.ppi)} %`)).toBeVisible();
  await page.getByRole('button', { name: 'Weights of lines' }).click();
  await expect(page.getByRole('img', { name: /^0\.13 mm: \d\.\d m, / })).toBeVisible();
  await page.getByRole('button', { name: 'Blacks', exact: true }).click();
  await expect(page.getByRole('img', { name: 'The page seen with half-closed eyes' })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Panel 1: \d+ %, / })).toBeVisible();
  await page.getByRole('button', { name: 'Count blacks over the folio' }).click();
  // Night on the stair is blacker than the day on the quay.
  const chart = page.getByRole('img', { name: /^Page 1: / });
  await expect(chart).toBeVisible({ timeout: 60_000 });
  const shares = (await chart.getAttribute('aria-label'))?.match(/\d+(?= %)/g)?.map(Number) ?? [];
  expect(shares[2]).toBeGreaterThan(50);
  expect(shares[0]).toBeLessThan(20);
});
