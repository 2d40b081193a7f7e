import { readFileSync } from 'node:fs';
import { flatRing } from '@true-nib/core/area';
import { ringArea } from '@true-nib/core/math';
import { darkCount, onServer, openBoard, pixels, rested, saved, strokesOf } from './board';
import { balloons, letters, panels, takeTool, wordsOf } from './comic';
import { expect, test } from './desk';
import { line, mouseDraw, Pen } from './hands';

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
  await (await Pen.for(page)).draw(line(at(900, 500), at(2000, 520)));
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

const CROSSING = 'demo-crossing';

test('the room of a scroll is stretched: panels, ink and balloons below go along, and come back', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, CROSSING);
  const before = await panels(desk, CROSSING);
  const tops = (all: typeof before) => all.map(({ ring }) => Math.min(...ring.points.filter((_v, k) => k % 3 === 1)));
  await takeTool(page, 'Rough', 'Room');
  // Between the first two panels: the page lies at its width, with its first panel down to 2,160 px and the next from 2,320 px on.
  const small = page.getByTestId('navigator');
  const box = (await small.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + (box.height * 2240) / 14_000);
  await rested(page);
  const board = (await page.getByTestId('board').boundingBox())!;
  const [x, y] = [board.x + board.width / 2, board.y + board.height / 2];
  const texts = await letters(desk, CROSSING);
  await mouseDraw(page, line([x, y], [x, y + 90]));
  await expect.poll(async () => tops(await panels(desk, CROSSING))[1]).toBeGreaterThan(tops(before)[1] + 100);
  const after = await panels(desk, CROSSING);
  const ways = tops(after).map((top, k) => top - tops(before)[k]);
  expect(ways[0]).toBe(0);
  for (const way of ways.slice(2)) expect(way).toBeCloseTo(ways[1], 6);
  const moved = await letters(desk, CROSSING);
  const down = moved.map(({ place }, k) => place[5] - texts[k].place[5]);
  expect(down.filter((way) => way === 0)).toHaveLength(3);
  expect(down.filter((way) => Math.abs(way - ways[1]) < 1e-6)).toHaveLength(texts.length - 3);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => tops(await panels(desk, CROSSING))).toEqual(tops(before));
});

test('a folio is seen as spreads, its pages are put in order, and words are replaced on all of them and taken back', async ({
  page,
  desk,
}) => {
  const folio = `${desk.address}/folio/demo-saltmarsh-ferry`;
  await page.goto(folio);
  await page.getByRole('radio', { name: 'Spreads' }).click();
  const left = async (name: string) =>
    (await page.getByRole('link', { name: `Open ${name}`, exact: true }).boundingBox())?.x ?? NaN;
  await expect(page.getByRole('group', { name: 'Pages 2 and 3' })).toBeVisible();
  expect(await left('Before the tide turns')).toBeLessThan(await left('Down the lamp stair'));
  await page.getByRole('radio', { name: 'From right' }).click();
  await expect
    .poll(async () => (await left('Before the tide turns')) - (await left('Down the lamp stair')))
    .toBeGreaterThan(0);
  await page.getByRole('switch', { name: 'First page alone' }).click();
  await expect(page.getByRole('group', { name: 'Pages 1 and 2' })).toBeVisible();

  await page.getByRole('button', { name: 'More for Before the tide turns' }).click();
  await page.getByRole('button', { name: 'One place earlier' }).click();
  await expect(page.getByLabel('Place among 14 pages')).toHaveValue('1');
  await page.getByRole('button', { name: 'Close' }).click();

  const words = async () => (await letters(desk, 'demo-tide')).map(wordsOf);
  const before = await words();
  await page.getByRole('button', { name: 'Lettering' }).click();
  await page.getByLabel('Find').fill('tide turns');
  await expect(page.getByText('Not found.')).toBeVisible();
  await page.getByLabel('Find').fill('tonight');
  await expect(page.getByText('Found 1 time.')).toBeVisible();
  await page.getByLabel('Replace with').fill('at half past nine');
  await page.getByRole('button', { name: 'Replace', exact: true }).click();
  await expect(page.getByText('Replaced 1 time on 1 page.')).toBeVisible();
  expect((await words()).filter((text) => text.includes('at half past nine'))).toHaveLength(1);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as text' }).click();
  const file = readFileSync(await (await download).path(), 'utf8');
  expect(file).toContain('PAGE 1 — Before the tide turns');
  expect(file).toContain('SPEECH: Last boat *at half past nine*.');
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('Taken back.')).toBeVisible();
  expect(await words()).toEqual(before);

  // A new page is read as its folio is, and all is as it was said after a reload.
  await page.reload();
  await expect(page.getByRole('radio', { name: 'From right' })).toBeChecked();
  await expect(page.getByRole('group', { name: 'Pages 1 and 2' })).toBeVisible();
});
