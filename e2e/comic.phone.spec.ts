import { openBoard, onServer, strokesOf } from './board';
import { balloons, letters, panels, takeTool, wordsOf } from './comic';
import { expect, test } from './desk';
import { Fingers, line } from './hands';

const HERON = 'demo-heron';
/** On a phone the page lies with its corner at 14, 179, and has 7.735 page px for each CSS px. */
const at = (x: number, y: number): readonly [number, number] => [14 + x / 7.735, 179 + y / 7.735];

test('a finger lays panels out, cuts one, inks over its border, and letters a balloon', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeTool(page, 'Rough', 'Panels', 'Panels');
  await page.getByRole('button', { name: 'All settings' }).click();
  await page.getByRole('radio', { name: 'Halves' }).click();
  await expect.poll(async () => (await panels(desk, HERON)).length).toBe(2);
  await page.getByRole('button', { name: 'Fewer settings' }).click();
  await page.getByRole('button', { name: 'Cut', exact: true }).click();
  const fingers = await Fingers.for(page);
  await fingers.draw(line(at(1400, 100), at(1400, 1300)));
  await expect.poll(async () => (await panels(desk, HERON)).length).toBe(3);
  await page.getByRole('tab', { name: 'Ink' }).click();
  await fingers.draw(line(at(700, 600), at(2000, 700)));
  await expect.poll(async () => strokesOf(await onServer(desk, HERON)).length).toBe(1);
  const [stroke] = strokesOf(await onServer(desk, HERON));
  expect((await panels(desk, HERON)).map(({ id }) => id)).toContain(stroke.panelId);
  await takeTool(page, 'Finish', 'Balloon', 'Lettering');
  await page.touchscreen.tap(...at(900, 400));
  await page.getByRole('textbox', { name: 'Text' }).fill('Hold fast!');
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  await expect.poll(async () => (await letters(desk, HERON)).map(wordsOf)).toEqual(['Hold fast!']);
  expect(await balloons(desk, HERON)).toHaveLength(1);
});
