import { flatRing } from '@true-nib/core/area';
import { ringArea } from '@true-nib/core/math';
import { darkCount, onServer, openBoard, pixels, rested, saved, strokesOf } from './board';
import { balloons, letters, panels, takeTool, wordsOf } from './comic';
import { expect, test } from './desk';
import { line, mouseDraw } from './hands';

const HERON = 'demo-heron';
/** The page lies in a window of 1280 × 800 with its corner at 290, 62 and 3.87 page px for each CSS px. */
const at = (x: number, y: number): readonly [number, number] => [290 + x / 3.87, 62 + y / 3.87];

test('a page is laid out, cut twice and slanted; ink stays in its panel, goes along with it, and comes back where the panel grows', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await takeTool(page, 'Rough', 'Panels');
  await page.getByRole('radio', { name: 'Halves' }).click();
  await expect.poll(async () => (await panels(desk, HERON)).length).toBe(2);
  // Two cuts: one nearly upright, one aslant.
  await takeTool(page, 'Rough', 'Cut');
  await mouseDraw(page, line(at(1400, 60), at(1410, 1380)));
  await expect.poll(async () => (await panels(desk, HERON)).length).toBe(3);
  await mouseDraw(page, line(at(60, 2400), at(2700, 1900)));
  await expect.poll(async () => (await panels(desk, HERON)).length).toBe(4);
  const [first] = await panels(desk, HERON);
  // The cut that was nearly upright is upright.
  expect(first.ring.points[3 * 3]).toBeCloseTo(first.ring.points[2 * 3 * 3], 6);

  // A line over the border of the first panel is cut there, while it is drawn and when it is kept.
  await page.getByRole('tab', { name: 'Ink' }).click();
  await mouseDraw(page, line(at(900, 500), at(2000, 520)));
  await saved(page);
  const [stroke] = strokesOf(await onServer(desk, HERON));
  expect(stroke.panelId).toBe(first.id);
  expect(Math.max(...stroke.spine.points.filter((_v, k) => k % 3 === 0))).toBeGreaterThan(1950);
  const dark = async (x: number, y: number) => {
    const [left, top] = at(x, y);
    return darkCount(await pixels(page, ['ink', 'live'], { x: left - 3, y: top - 12, width: 7, height: 24 }));
  };
  expect(await dark(1100, 500)).toBeGreaterThan(0);
  expect(await dark(1750, 510)).toBe(0);

  // Over borders where that is said; put back in afterwards.
  await page.getByRole('switch', { name: 'In its panel' }).click();
  await mouseDraw(page, line(at(900, 800), at(2000, 820)));
  await page.getByRole('switch', { name: 'In its panel' }).click();
  await expect.poll(() => dark(1750, 815)).toBeGreaterThan(0);

  // The border that parts the two panels is dragged: the neighbour follows, and more of the line is there.
  await takeTool(page, 'Rough', 'Panels');
  const before = (await panels(desk, HERON)).map(({ ring }) => ringArea(flatRing(ring)));
  await mouseDraw(page, line(at(1375, 300), at(1875, 300)));
  await expect
    .poll(async () => ringArea(flatRing((await panels(desk, HERON))[0].ring)))
    .toBeGreaterThan(before[0] * 1.2);
  const after = (await panels(desk, HERON)).map(({ ring }) => ringArea(flatRing(ring)));
  expect(before[0] + before[1]).toBeCloseTo(after[0] + after[1], -1);
  await expect.poll(() => dark(1750, 510)).toBeGreaterThan(0);

  // Moved with what lies in it; then all is taken back, one by one, and is the same after a reload.
  await mouseDraw(page, line(at(700, 1000), at(700, 1150)));
  await expect
    .poll(async () => strokesOf(await onServer(desk, HERON)).find(({ id }) => id === stroke.id)?.spine.points[1])
    .toBeGreaterThan(stroke.spine.points[1] + 100);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await panels(desk, HERON)).map(({ ring }) => ringArea(flatRing(ring))))
    .toEqual(before);
  await page.reload();
  await rested(page);
  expect(await dark(1100, 500)).toBeGreaterThan(0);
  expect(await dark(1750, 510)).toBe(0);

  // Without the panels there is nothing to stay within: all of the line is seen, and no longer once they are back.
  await page.getByRole('tab', { name: 'Rough' }).click();
  await page.getByRole('button', { name: /^Panels, / }).click();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect.poll(async () => (await panels(desk, HERON)).length).toBe(0);
  await expect.poll(() => dark(1750, 510)).toBeGreaterThan(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => dark(1750, 510)).toBe(0);
});

test('a balloon is lettered, gets two tails and is joined with another; a script is pasted', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeTool(page, 'Finish', 'Balloon');
  await page.mouse.click(...at(1000, 700));
  const field = page.getByRole('textbox', { name: 'Text' });
  await expect(field).toBeFocused();
  await field.pressSequentially('Last boat *tonight*. Mind the wet step.');
  await page.keyboard.press('Escape');
  await expect
    .poll(async () => (await letters(desk, HERON)).map(wordsOf))
    .toEqual(['Last boat tonight. Mind the wet step.']);
  const [lettering] = await letters(desk, HERON);
  expect(lettering.runs.find(({ bold }) => bold)?.text).toBe('tonight');
  // The fonts are kept with the page.
  const font = await fetch(`${desk.address}/api/blobs/${lettering.style.fonts.plain.sha256}`);
  expect([font.status, font.headers.get('content-type')]).toEqual([200, 'font/sfnt']);

  await page.mouse.click(...at(1000, 700));
  await page.getByRole('button', { name: 'One more tail' }).click();
  await expect.poll(async () => (await balloons(desk, HERON))[0].tails.length).toBe(2);
  // The tip of the first tail is dragged to a mouth.
  const [{ tails }] = await balloons(desk, HERON);
  await mouseDraw(page, line(at(tails[0].tip.x, tails[0].tip.y), at(700, 1500)));
  await expect.poll(async () => (await balloons(desk, HERON))[0].tails[0].tip.x).toBeLessThan(710);

  // A second one beside it; both are chosen and become one.
  await page.keyboard.press('Escape');
  await page.mouse.click(...at(1330, 900));
  await expect.poll(async () => (await balloons(desk, HERON)).length).toBe(2);
  await page.getByRole('textbox', { name: 'Text' }).pressSequentially('And if we are seen?');
  await page.keyboard.down('Shift');
  await page.mouse.click(...at(960, 640));
  await page.keyboard.up('Shift');
  await page.getByRole('button', { name: 'Join', exact: true }).click();
  await expect.poll(async () => (await balloons(desk, HERON)).map(({ bodies }) => bodies.length)).toEqual([2]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await balloons(desk, HERON)).length).toBe(2);

  await page.getByRole('button', { name: 'Paste a script' }).click();
  await page
    .getByRole('textbox', { name: 'Script' })
    .fill('PANEL 1\nCAPTION: Low water.\nHERON (thinks): Every night.\nSFX: Klonk!');
  await page.getByRole('button', { name: 'Make balloons' }).click();
  await expect.poll(async () => (await letters(desk, HERON)).length).toBe(5);
  expect((await balloons(desk, HERON)).map(({ bodies }) => bodies[0].shape)).toEqual(['oval', 'oval', 'box', 'cloud']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await letters(desk, HERON)).length).toBe(2);
  await page.reload();
  await rested(page);
  expect((await letters(desk, HERON)).map(wordsOf)[0]).toBe('Last boat tonight. Mind the wet step.');
});
