import { readFileSync } from 'node:fs';
import { ofKind } from '@true-nib/core/page';
import { decode } from 'fast-png';
import {
  AROUND_THE_PAGE,
  countStrokes,
  darkCount,
  greatestDifference,
  onServer,
  openBoard,
  pixels,
  rested,
  saved,
  viewInWords,
} from './board';
import { expect, test } from './desk';
import { line, Pen } from './hands';

test('the page is zoomed at the pointer, turned, moved and fitted by wheel and keys', async ({ page, desk }) => {
  await openBoard(page, desk);
  const start = await viewInWords(page);
  await page.mouse.move(700, 300);
  for (let k = 0; k < 5; k++) await page.mouse.wheel(0, -120);
  await rested(page);
  expect((await viewInWords(page)).zoom).toBeGreaterThan(2 * start.zoom);
  await page.keyboard.press('c');
  await page.keyboard.press('c');
  expect((await viewInWords(page)).turn).toBe(30);
  await page.keyboard.press('x');
  expect((await viewInWords(page)).turn).toBe(0);
  await page.keyboard.press('-');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('f');
  await rested(page);
  expect(await viewInWords(page)).toEqual(start);
});

test('what is painted from tiles while moving is what is painted at rest', async ({ page, desk }) => {
  await openBoard(page, desk);
  const rest = darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE));
  await page.keyboard.down('v');
  await page.mouse.move(780, 400);
  await page.mouse.down();
  await page.mouse.move(840, 380, { steps: 10 });
  await page.mouse.move(780, 400, { steps: 10 });
  await page.mouse.up();
  await page.keyboard.up('v');
  await rested(page);
  const again = darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE));
  expect(Math.abs(again - rest)).toBeLessThan(0.01 * rest);
});

test('a page that is opened again, and painted before its board is there, is what it was', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-nibs');
  const first = await pixels(page, ['ink'], AROUND_THE_PAGE);
  expect(darkCount(first)).toBeGreaterThan(500);
  await page.reload();
  await rested(page);
  expect(greatestDifference(await pixels(page, ['ink'], AROUND_THE_PAGE), first)).toBe(0);
  // In a window of another size the last board tells nothing.
  await page.setViewportSize({ width: 1180, height: 760 });
  await page.reload();
  await rested(page);
  expect(darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE))).toBeGreaterThan(300);
});

test('peek hides the rough while it is held, by button and by key', async ({ page, desk }) => {
  await openBoard(page, desk);
  const hasRough = async () => (await pixels(page, ['under'], AROUND_THE_PAGE)).some((value) => value < 225);
  await expect.poll(hasRough).toBe(true);
  const place = await page.getByRole('button', { name: /Peek/ }).boundingBox();
  if (!place) throw new Error('No peek.');
  await page.mouse.move(place.x + 20, place.y + 20);
  await page.mouse.down();
  await expect.poll(hasRough).toBe(false);
  await page.mouse.up();
  await expect.poll(hasRough).toBe(true);
  await page.keyboard.down('r');
  await expect.poll(hasRough).toBe(false);
  // Whatever happens in between: the window loses the keyboard.
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await expect.poll(hasRough).toBe(true);
});

test('a key leaves only the page; Esc, the key or a quiet button bring the tools back', async ({ page, desk }) => {
  await openBoard(page, desk);
  const bench = page.getByTestId('bench');
  for (const back of [
    () => page.keyboard.press('Escape'),
    () => page.keyboard.press('b'),
    () => page.getByRole('button', { name: 'Bring the tools back' }).click(),
  ]) {
    await page.keyboard.press('b');
    await expect(bench).toBeHidden();
    await back();
    await expect(bench).toBeVisible();
  }
});

test('what is about to be delivered is seen as it will be: no guides, the rough only when it goes along', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-depth');
  const guides = page.locator('canvas[data-layer="guides"]');
  await expect(guides).toBeVisible();
  await page.getByRole('tab', { name: 'Finish' }).click();
  await expect(guides).toBeHidden();
  await page.getByRole('tab', { name: 'Ink' }).click();
  await expect(guides).toBeVisible();
  await openBoard(page, desk);
  const hasRough = async () => (await pixels(page, ['under'], AROUND_THE_PAGE)).some((value) => value < 225);
  const hasInks = async () => darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE)) > 300;
  await page.getByRole('button', { name: 'Rough, Rough' }).click();
  await page.getByRole('switch', { name: /^Alone/ }).click();
  await expect.poll(hasInks).toBe(false);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await expect.poll(hasInks).toBe(true);
  await expect.poll(hasRough).toBe(false);
  await page.getByRole('switch', { name: 'With the rough' }).click();
  await expect.poll(hasRough).toBe(true);
  await page.getByRole('tab', { name: 'Ink' }).click();
  await expect.poll(hasInks).toBe(false);
});

test('a rough over the inks multiplies and is drawn through', async ({ page, desk }) => {
  await openBoard(page, desk);
  const over = page.locator('canvas[data-layer="over"]');
  // Blending costs every frame of the board, also where there is nothing to blend.
  await expect(over).toBeHidden();
  await page.keyboard.press('1');
  await page.getByRole('radio', { name: 'Over inks' }).click();
  await expect(over).toBeVisible();
  await expect
    .poll(async () => (await pixels(page, ['over'], AROUND_THE_PAGE)).some((value) => value < 225))
    .toBe(true);
  expect((await pixels(page, ['under'], AROUND_THE_PAGE)).every((value) => value === 255)).toBe(true);
  await expect(over).toHaveCSS('mix-blend-mode', 'multiply');
  await page.keyboard.press('2');
  const before = await countStrokes(desk);
  await (await Pen.for(page)).draw(line([640, 200], [900, 220]));
  await expect.poll(() => countStrokes(desk)).toBe(before + 1);
  expect(ofKind(await onServer(desk), 'picture')).toHaveLength(1);
});

test('an SVG without a size of its own is shown as a rough, and delivered with the page when asked for', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  await page.keyboard.press('1');
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 200"><rect width="300" height="200" fill="#204080"/></svg>';
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in' }).click();
  await (await chooser).setFiles({ name: 'sea.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await expect.poll(async () => ofKind(await onServer(desk, 'demo-heron'), 'picture').length).toBe(2);
  await page.getByRole('radio', { name: 'As it is' }).click();
  await page.getByRole('radio', { name: 'Over inks' }).click();
  // Half of #204080 on white.
  const middle = { x: 770, y: 420, width: 4, height: 4 };
  await expect
    .poll(async () => Array.from((await pixels(page, ['over'], middle)).slice(0, 3)))
    .toEqual([143, 159, 191]);
  await page.keyboard.press('3');
  await page.getByRole('radio', { name: '25 %' }).click();
  await page.getByRole('switch', { name: 'With the rough' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Deliver PNG' }).click();
  const { data, width } = decode(readFileSync(await (await download).path()));
  const at = (350 * width + 350) * 3;
  expect(Math.abs(data[at] - 143)).toBeLessThanOrEqual(2);
  expect(Math.abs(data[at + 2] - 191)).toBeLessThanOrEqual(2);
});

test('a locked rough stays where it is; unlocked it is turned by its knob, and undo puts it back', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  await page.keyboard.press('1');
  const placement = async () => ofKind(await onServer(desk, 'demo-heron'), 'picture')[0].placement;
  const start = await placement();
  const drag = async (from: [number, number], to: [number, number]) => {
    await page.mouse.move(...from);
    await page.mouse.down();
    await page.mouse.move(...to, { steps: 5 });
    await page.mouse.up();
  };
  await drag([780, 400], [840, 430]);
  await expect(page.getByText('The rough is locked. Unlock it to move it.')).toBeVisible();
  expect(await placement()).toEqual(start);
  await page.getByRole('button', { name: 'Unlock' }).click();
  await page.keyboard.press('-');
  await page.keyboard.press('-');
  await rested(page);
  // The knob stands 24 px above the middle of the upper edge.
  const board = await page.getByTestId('board').boundingBox();
  const { zoom } = await viewInWords(page);
  const middle = { x: (board?.x ?? 0) + (board?.width ?? 0) / 2, y: (board?.y ?? 0) + (board?.height ?? 0) / 2 };
  const knob: [number, number] = [middle.x, middle.y - (1400 * zoom) / 100 - 24];
  await drag(knob, [middle.x + 220, middle.y - 220]);
  await expect.poll(async () => Math.round(((await placement()).angle * 180) / Math.PI)).toBe(45);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await placement()).angle).toBe(0);
});

for (const colorScheme of ['light', 'dark'] as const)
  test(`the desk is ${colorScheme} when the machine is`, async ({ page, desk }) => {
    await page.emulateMedia({ colorScheme });
    await openBoard(page, desk);
    const tray = await page.getByRole('banner').evaluate((element) => getComputedStyle(element).backgroundColor);
    expect(tray).toBe(colorScheme === 'light' ? 'rgb(244, 241, 234)' : 'rgb(41, 46, 51)');
  });
