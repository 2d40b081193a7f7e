import { spineLength } from '@true-nib/core/curve';
import { byOrder, ofKind } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import type { Page } from '@playwright/test';
import { countStrokes, onServer, openBoard, saved, takeNib, unfold } from './board';
import { expect, test, type Desk } from './desk';
import { along, line, mouseDraw, Pen } from './hands';

const strokes = async (desk: Desk, pageId = 'demo-heron') => ofKind(await onServer(desk, pageId), 'stroke');
const one = async (desk: Desk): Promise<StrokeEntity> => (await strokes(desk))[0];
const selected = (page: Page) => page.getByTestId('selected');

/** A page with one line on it, from 540, 300 to 700, 340, and Select in hand. */
async function withLine(page: Page, desk: Desk): Promise<void> {
  await openBoard(page, desk, 'demo-heron');
  await unfold(page, 'Ways of calm');
  await page.getByRole('radio', { name: 'Raw', exact: true }).click();
  await takeNib(page, 'Fixed liner');
  await (await Pen.for(page)).draw(line([540, 300], [700, 340]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await page.keyboard.press('4');
  await page.mouse.click(620, 320);
  await expect(selected(page)).toHaveText('1 line');
}

test('lines are selected by loop, box and touch, added, left out, and all together', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const pen = await Pen.for(page);
  for (const y of [250, 300, 350, 400]) await pen.draw(line([540, y], [700, y]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(4);
  await page.keyboard.press('4');
  const loop = along((t) => [620 + 60 * Math.cos(7 * t), 275 + 45 * Math.sin(7 * t)], 40);
  await mouseDraw(page, loop);
  await expect(selected(page)).toHaveText('2 lines');
  await page.getByRole('switch', { name: 'Only lines wholly inside' }).click();
  await mouseDraw(
    page,
    loop.map(([x, y]) => [x + 260, y] as const),
  );
  await expect(selected(page)).toHaveText('Nothing selected');
  await page.getByRole('radio', { name: 'Box' }).click();
  await mouseDraw(page, line([510, 230], [730, 320]));
  await expect(selected(page)).toHaveText('2 lines');
  await page.getByRole('radio', { name: 'Touch', exact: true }).click();
  await page.keyboard.down('Shift');
  await mouseDraw(page, line([560, 340], [560, 410]));
  await page.keyboard.up('Shift');
  await expect(selected(page)).toHaveText('4 lines');
  await page.keyboard.down('Alt');
  await page.mouse.click(650, 400);
  await page.keyboard.up('Alt');
  await expect(selected(page)).toHaveText('3 lines');
  await page.getByRole('button', { name: 'The others' }).click();
  await expect(selected(page)).toHaveText('1 line');
  await page.keyboard.press('Control+a');
  await expect(selected(page)).toHaveText('4 lines');
  await page.keyboard.press('Delete');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(4);
});

test('arrows nudge by 1 px and by 10, Enter keeps, Esc takes back', async ({ page, desk }) => {
  await withLine(page, desk);
  const before = (await one(desk)).spine.points;
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(selected(page)).toHaveText('1 line, not kept yet');
  await page.keyboard.press('Escape');
  await expect(selected(page)).toHaveText('1 line');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await one(desk)).spine.points[0] - before[0]).toBeCloseTo(1, 6);
  expect((await one(desk)).spine.points[1] - before[1]).toBeCloseTo(10, 6);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await one(desk)).spine.points[0]).toBe(before[0]);
});

test('the frame sizes, turns by numbers, and keeps weights unless they are to grow', async ({ page, desk }) => {
  await withLine(page, desk);
  const before = await one(desk);
  await page.getByRole('spinbutton', { name: 'Wide' }).click();
  await page.getByRole('textbox', { name: 'Wide, typed' }).fill('150');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect.poll(async () => spineLength((await one(desk)).spine)).toBeGreaterThan(1.35 * spineLength(before.spine));
  expect((await one(desk)).spine.points[2]).toBe(before.spine.points[2]);
  await page.getByRole('switch', { name: 'Weight grows with size' }).click();
  await page.getByRole('spinbutton', { name: 'Wide' }).click();
  await page.getByRole('textbox', { name: 'Wide, typed' }).fill('400');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect.poll(async () => (await one(desk)).spine.points[2]).toBeCloseTo(2 * before.spine.points[2], 6);
});

test('a corner that is pulled freely gives a perspective, and the stroke stays a stroke', async ({ page, desk }) => {
  await withLine(page, desk);
  const before = await one(desk);
  await page.getByRole('switch', { name: /^Pull corners freely/ }).click();
  // The lower right corner of the frame is the end of the line.
  await mouseDraw(page, line([700, 340], [735, 420], 8));
  await expect(selected(page)).toHaveText('1 line, not kept yet');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await one(desk)).spine.points.at(-2))
    .toBeGreaterThan(before.spine.points.at(-2)! + 50);
  const after = await one(desk);
  expect(after.spine.points[0]).toBeCloseTo(before.spine.points[0], 3);
  expect(after.origin).toBeUndefined();
  expect(after.nib).toEqual(before.nib);
  // Folded over, it is refused in a sentence, and nothing happens to the line.
  await mouseDraw(page, line([735, 420], [400, 200], 8));
  await page.keyboard.press('Enter');
  await expect(page.getByText(/fold over|one line/)).toBeVisible();
  expect((await one(desk)).spine.points).toEqual(after.spine.points);
});

test('lines are copied to another page, and pasted from foreign SVG; scripts are refused', async ({
  page,
  desk,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await withLine(page, desk);
  const { spine } = await one(desk);
  await page.keyboard.press('Control+c');
  await expect(page.getByText('One line copied.')).toBeVisible();
  await openBoard(page, desk, 'demo-quay');
  const before = await countStrokes(desk);
  await page.keyboard.press('Control+v');
  await expect.poll(() => countStrokes(desk)).toBe(before + 1);
  const pasted = (await strokes(desk, 'demo-quay')).find(({ nib, origin }) => nib.name === 'Fixed liner' && !origin);
  expect(spineLength(pasted!.spine)).toBeCloseTo(spineLength(spine), 6);
  const put = (text: string) => page.evaluate((svg) => navigator.clipboard.writeText(svg), text);
  await put(
    '<svg xmlns="http://www.w3.org/2000/svg"><path d="M100 100C200 100 200 300 300 300" fill="none" stroke="#2a6f97" stroke-width="12"/></svg>',
  );
  await page.keyboard.press('Control+v');
  await expect.poll(() => countStrokes(desk)).toBe(before + 2);
  expect((await strokes(desk, 'demo-quay')).some(({ nib }) => nib.color === '#2a6f97' && nib.size === 12)).toBe(true);
  await put('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script><path d="M0 0L9 9"/></svg>');
  await page.keyboard.press('Control+v');
  await expect(page.getByText(/holds <script>/)).toBeVisible();
  await saved(page);
  expect(await countStrokes(desk)).toBe(before + 2);
});

test('copied lines lie over each other as those they were copied from', async ({ page, desk, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openBoard(page, desk, 'demo-quay');
  const starts = (all: readonly StrokeEntity[]) => [...all].sort(byOrder).map(({ spine: { points } }) => points);
  const ofQuay = starts(await strokes(desk, 'demo-quay'));
  await page.keyboard.press('Control+a');
  await expect(page.getByTestId('selected')).toHaveText(/lines/);
  await page.keyboard.press('Control+c');
  await expect(page.getByText(/lines copied/)).toBeVisible();
  await openBoard(page, desk, 'demo-heron');
  await page.keyboard.press('Control+v');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(ofQuay.length);
  const pasted = starts(await strokes(desk, 'demo-heron'));
  const [dx, dy] = [pasted[0][0] - ofQuay[0][0], pasted[0][1] - ofQuay[0][1]];
  pasted.forEach((points, k) => {
    expect(points[0] - ofQuay[k][0]).toBeCloseTo(dx, 3);
    expect(points[1] - ofQuay[k][1]).toBeCloseTo(dy, 3);
  });
});

test('what is selected moves to another layer, and is cut from a locked one never', async ({ page, desk }) => {
  await withLine(page, desk);
  const { layerId } = await one(desk);
  await page.keyboard.press('Shift+A');
  await page.getByRole('button', { name: /^Inks, / }).click();
  await page.keyboard.press('Control+a');
  await page.getByTestId('select-settings').getByRole('button', { name: 'Inks 2' }).click();
  await expect.poll(async () => (await one(desk)).layerId).not.toBe(layerId);
  await page.getByRole('switch', { name: 'Inks 2 locked' }).click();
  await page.keyboard.press('Delete');
  await expect(page.getByText('Inks 2 is locked.')).toBeVisible();
  expect(await countStrokes(desk, 'demo-heron')).toBe(1);
});
