import { areasOn, overhang, ringWithGap } from './blacks';
import { change, openBoard } from './board';
import { expect, test } from './desk';
import { along, Fingers } from './hands';

const HERON = 'demo-heron';

test('a finger pours: a gap that leaks is said and shown; closed by the setting, the ring is filled', async ({
  page,
  desk,
}) => {
  await change(desk, HERON, ringWithGap({ x: 1400, y: 1700 }, 500, 14));
  await openBoard(page, desk, HERON);
  await page.getByRole('tab', { name: 'Blacks' }).tap();
  await page.getByRole('button', { name: 'Pour', exact: true }).tap();
  await expect(page.getByTestId('regions')).toHaveText(/Touch a region/);
  // Where the page stands on a phone that has just opened it: 7.73 page px a CSS px, its corner at 14, 179.
  const on = (x: number, y: number) => [14 + x / 7.735, 179 + y / 7.735] as const;
  await page.touchscreen.tap(...on(1400, 1700));
  await expect(page.getByText(/It leaks here, through 1[345] px/)).toBeVisible();
  expect(await areasOn(desk, HERON)).toEqual([]);
  await page.getByRole('spinbutton', { name: 'Close gaps to' }).tap();
  await page.locator('input:focus').fill('20');
  await page.keyboard.press('Enter');
  await page.touchscreen.tap(...on(1600, 1850));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  const [flat] = await areasOn(desk, HERON);
  expect(flat).toMatchObject({ poured: { by: 'hand' } });
  expect(flat.rings).toHaveLength(1);
});

test('a finger blots and nicks, and takes both back', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('tab', { name: 'Blacks' }).tap();
  const fingers = await Fingers.for(page);
  const round = (r: number) => along((t) => [195 + r * Math.cos(6.3 * t), 360 + r * Math.sin(6.3 * t)] as const, 40);
  await fingers.draw(round(90));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  await page.getByRole('button', { name: 'Nick', exact: true }).tap();
  await fingers.draw(round(40));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(2);
  for (const left of [1, 0]) {
    await page.getByRole('button', { name: 'Undo' }).tap();
    await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(left);
  }
});

test('a finger takes small pieces off at once, and drops specks', async ({ page, desk }) => {
  await change(desk, HERON, overhang());
  await openBoard(page, desk, HERON);
  await page.getByRole('tab', { name: 'Blacks' }).tap();
  await page.getByRole('button', { name: 'Pieces', exact: true }).tap();
  const fingers = await Fingers.for(page);
  const [cx, cy] = [14 + 1300 / 7.735, 179 + 1300 / 7.735];
  await fingers.draw(along((t) => [cx + 80 * Math.cos(6.3 * t), cy + 80 * Math.sin(6.3 * t)] as const, 40));
  await expect(page.getByTestId('pieces')).toHaveText(/^7 pieces/);
  await page.getByRole('button', { name: 'Take 2 small off' }).tap();
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(0);
  await page.getByRole('button', { name: 'Undo' }).tap();
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(2);
  await page.getByRole('button', { name: 'Find specks' }).tap();
  await page.getByRole('button', { name: 'Drop all 2' }).tap();
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(0);
});
