import { ofKind } from '@true-nib/core/page';
import { areasOn } from './blacks';
import { onServer, openBoard, strokesOf } from './board';
import { expect, test } from './desk';
import { along, Fingers, line, type Place } from './hands';

const HERON = 'demo-heron';
const round = (x: number, y: number, r: number): Place[] =>
  along((t) => [x + r * Math.cos(6.3 * t), y + r * Math.sin(6.3 * t)], 30);

test('a finger combs a loop and sets its rows by drags, strews dots, tones a black and takes all of it back', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  const rows = async () => strokesOf(await onServer(desk, HERON)).length;
  await page.getByRole('tab', { name: 'Blacks' }).tap();
  await fingers.draw(round(100, 300, 40));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  await page.getByRole('button', { name: 'Texture', exact: true }).tap();
  await page.getByRole('button', { name: 'Comb', exact: true }).tap();
  await fingers.draw(round(240, 320, 60));
  const lay = page.getByRole('button', { name: 'Lay', exact: true });
  await expect(lay).toBeVisible();
  await fingers.draw(line([200, 320], [280, 300], 10));
  await expect(page.getByRole('radio', { name: 'Gap' })).toBeChecked();
  await fingers.draw(line([240, 300], [240, 340], 10));
  await expect(page.getByRole('radio', { name: 'Move' })).toBeChecked();
  expect(await rows()).toBe(0);
  // A touch beside it lays it down.
  await page.touchscreen.tap(340, 420);
  await expect.poll(rows).toBeGreaterThan(6);

  await page.getByRole('button', { name: 'Shaker', exact: true }).tap();
  await fingers.draw(line([100, 420], [160, 430], 20));
  await expect.poll(async () => ofKind(await onServer(desk, HERON), 'dots').length).toBe(1);
  await page.getByRole('button', { name: 'Tone', exact: true }).tap();
  await page.touchscreen.tap(100, 300);
  await expect.poll(async () => (await areasOn(desk, HERON))[0].fill.as).toBe('tone');
  for (let k = 0; k < 4; k++) await page.getByRole('button', { name: 'Undo' }).tap();
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(0);
  expect(await rows()).toBe(0);
});
