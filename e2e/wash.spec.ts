import { inflateSync } from 'node:zlib';
import { layersOf, ofKind, tileBox, WASH_SIDE, washTilesOf } from '@true-nib/core/page';
import type { Page } from '@playwright/test';
import { decode } from 'fast-png';
import { readFileSync } from 'node:fs';
import {
  ask,
  AROUND_THE_PAGE,
  darkCount,
  greatestDifference,
  onServer,
  openBoard,
  pixels,
  rested,
  saved,
} from './board';
import { expect, test, type Desk } from './desk';
import { along, line, mouseDraw, Pen } from './hands';

const PAGE = 'demo-heron';
const tiles = async (desk: Desk) => ofKind(await onServer(desk, PAGE), 'wash');
const tileCount = async (desk: Desk) => (await tiles(desk)).length;
const names = async (desk: Desk) => layersOf(await onServer(desk, PAGE)).map(({ name }) => name);
const dark = (page: Page, box = AROUND_THE_PAGE) => pixels(page, ['ink', 'live'], box).then(darkCount);
const selected = (page: Page) => page.getByTestId('selected');

async function addWash(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Wash: pixels' }).click();
  await expect(page.getByLabel('Name of the layer')).toHaveValue(/^Wash/);
}

async function withWash(page: Page, desk: Desk): Promise<Pen> {
  await openBoard(page, desk, PAGE);
  await addWash(page);
  return Pen.for(page);
}

test('a mark is not lost with a tab that goes before it has become pixels', async ({ page, desk }) => {
  const pen = await withWash(page, desk);
  await saved(page);
  // The page is left with the pen still down: no worker has painted anything yet.
  await pen.down([500, 300], 0.8);
  await pen.move(line([500, 300], [760, 340]), () => 0.8);
  await page.reload();
  await rested(page);
  await expect.poll(() => tileCount(desk)).toBeGreaterThan(0);
  await expect.poll(() => dark(page)).toBeGreaterThan(100);
  await page.keyboard.press('Control+z');
  await expect.poll(() => tileCount(desk)).toBe(0);
});

test('what is drawn on a wash whose pixels are still on their way is laid on them when they are there', async ({
  page,
  desk,
}) => {
  await (await withWash(page, desk)).draw(line([600, 300], [760, 300]), () => 0.8);
  await expect.poll(() => tileCount(desk)).toBeGreaterThan(0);
  await saved(page);
  const first = await dark(page);
  // The pixels of the wash, and no picture of a rough, are kept back.
  let letGo = (): void => undefined;
  const isLetGo = new Promise<void>((resolve) => (letGo = resolve));
  const blobs = new Set((await tiles(desk)).map(({ blob }) => blob));
  await page.route('**/api/blobs/*', async (route) => {
    if (blobs.has(new URL(route.request().url()).pathname.split('/').at(-1) ?? '')) await isLetGo;
    await route.continue();
  });
  await page.reload();
  await rested(page);
  expect(await dark(page)).toBe(0);
  await page.getByRole('button', { name: /^Wash, / }).click();
  await (await Pen.for(page)).draw(line([600, 320], [760, 320]), () => 0.8);
  letGo();
  await expect.poll(async () => (await tiles(desk)).some(({ blob }) => blobs.has(blob))).toBe(false);
  await saved(page);
  await page.reload();
  await rested(page);
  await expect.poll(() => dark(page)).toBeGreaterThan(1.7 * first);
});

/** Selects a box of the window, fills it with the colour in hand, and waits until that is to be seen and saved. */
async function fillBox(page: Page, [a, b]: readonly [readonly [number, number], readonly [number, number]]) {
  await page.keyboard.press('4');
  await page.getByRole('radio', { name: 'Box' }).click();
  await mouseDraw(page, line(a, b, 8));
  await expect(selected(page)).toHaveText(/ px$/);
  const before = await dark(page);
  await page.keyboard.press('Shift+Enter');
  await expect.poll(() => dark(page)).toBeGreaterThan(before + 1_000);
  await saved(page);
}

/** The pixels that the server holds of one of the wash layers, at a page px: RGBA. */
async function keptAt(desk: Desk, layerId: string, x: number, y: number): Promise<number[]> {
  const tile = washTilesOf(await onServer(desk, PAGE), layerId).find((one) => {
    const { minX, minY, maxX, maxY } = tileBox(one);
    return x >= minX && y >= minY && x < maxX && y < maxY;
  });
  if (!tile) return [0, 0, 0, 0];
  const bytes = inflateSync(Buffer.from(await (await ask(desk, `/api/blobs/${tile.blob}`)).arrayBuffer()));
  const { minX, minY } = tileBox(tile);
  const at = 4 * ((Math.floor(y) - minY) * WASH_SIDE + Math.floor(x) - minX);
  return [...bytes.subarray(at, at + 4)];
}

test('a wash takes the pen as pixels, is rubbed, and every step is taken back after a reload', async ({
  page,
  desk,
}) => {
  const pen = await withWash(page, desk);
  await pen.draw(along((t) => [640 + 250 * t, 320 + 60 * Math.sin(9 * t)], 90));
  await expect.poll(() => tileCount(desk)).toBeGreaterThan(2);
  await saved(page);
  await rested(page);
  const drawn = await dark(page);
  expect(drawn).toBeGreaterThan(400);
  await page.keyboard.press('w');
  await mouseDraw(page, line([700, 240], [760, 420], 20));
  // Rubbed at once, and the same when it has become pixels.
  await expect.poll(() => dark(page)).toBeLessThan(drawn - 20);
  const blobs = (await tiles(desk)).map(({ blob }) => blob);
  await expect.poll(async () => (await tiles(desk)).map(({ blob }) => blob)).not.toEqual(blobs);
  await saved(page);
  const rubbed = await pixels(page, ['ink', 'live'], AROUND_THE_PAGE);
  await page.reload();
  await rested(page);
  await expect
    .poll(async () => greatestDifference(rubbed, await pixels(page, ['ink', 'live'], AROUND_THE_PAGE)))
    .toBeLessThanOrEqual(8);
  await page.keyboard.press('Control+z');
  await expect.poll(() => dark(page)).toBe(drawn);
  await page.keyboard.press('Control+z');
  await expect.poll(() => tileCount(desk)).toBe(0);
  await expect.poll(() => dark(page)).toBe(0);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => dark(page)).toBe(drawn);
  // Steps that follow at once wait for the pixels they are to take back.
  await page.getByRole('button', { name: /^Wash, / }).click();
  await page.keyboard.press('q');
  await (await Pen.for(page)).draw(line([600, 500], [900, 500]));
  await page.keyboard.press('Control+z');
  await expect.poll(() => dark(page)).toBe(drawn);
});

test('an area is filled, grown, shrunk and moved, and delivered as the very pixels that are kept', async ({
  page,
  desk,
}, info) => {
  test.slow();
  await withWash(page, desk);
  await page.keyboard.press('4');
  await mouseDraw(
    page,
    along((t) => [780 + 90 * Math.cos(6.3 * t), 430 + 90 * Math.sin(6.3 * t)], 40),
  );
  await expect(selected(page)).toHaveText(/ px$/);
  const count = async () => Number((await selected(page).innerText()).replace(/\D/g, ''));
  const before = await count();
  await page.getByRole('button', { name: 'Grow', exact: true }).click();
  await expect.poll(count).toBeGreaterThan(before);
  await page.getByRole('button', { name: 'Shrink', exact: true }).click();
  await expect.poll(async () => Math.abs((await count()) - before) / before).toBeLessThan(0.005);
  await page.getByRole('button', { name: 'Fill with this colour' }).click();
  await expect.poll(() => tileCount(desk)).toBeGreaterThan(4);
  const filled = await dark(page);
  expect(filled).toBeGreaterThan(15_000);
  // Ten page px to the right, kept by Enter; undo puts it back, redo again.
  await page.keyboard.press('Shift+ArrowRight');
  await expect(selected(page)).toHaveText(/not kept yet/);
  await page.keyboard.press('Enter');
  await expect(selected(page)).toHaveText(/ px$/);
  await saved(page);
  const [{ layerId }] = await tiles(desk);
  await page.getByRole('tab', { name: 'Finish' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Deliver' }).click();
  const file = info.outputPath('page.png');
  await (await download).saveAs(file);
  const { width, height, data, channels } = decode(readFileSync(file));
  expect([width, height]).toEqual([2800, 2800]);
  let inked = 0;
  for (let i = 0; i < data.length; i += channels) if (data[i] < 128) inked++;
  expect(Math.abs(inked - before) / before).toBeLessThan(0.01);
  // On white: what the server keeps is what the PNG shows.
  for (const [x, y] of [
    [1895, 1424],
    [1640, 1300],
    [1500, 1700],
    [2300, 1424],
  ]) {
    const [r, , , alpha] = await keptAt(desk, layerId, x, y);
    const shown = Math.round((r * alpha + 255 * (255 - alpha)) / 255);
    expect(Math.abs(data[channels * (y * width + x)] - shown)).toBeLessThanOrEqual(2);
  }
});

test('pixels are pulled by their corners into perspective, and folded ones are refused', async ({ page, desk }) => {
  await withWash(page, desk);
  await fillBox(page, [
    [640, 300],
    [800, 420],
  ]);
  await page.getByRole('switch', { name: /Pull corners/ }).click();
  await mouseDraw(page, line([800, 420], [900, 520], 8));
  await expect(selected(page)).toHaveText(/not kept yet/);
  await page.keyboard.press('Enter');
  await expect(selected(page)).toHaveText(/ px$/);
  // The pulled corner is inked now, and beside the slanting edge nothing is left.
  const spot = (x: number, y: number) => dark(page, { x, y, width: 6, height: 6 });
  await expect.poll(() => spot(880, 500)).toBe(36);
  expect(await spot(860, 330)).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => spot(880, 500)).toBe(0);
  await expect.poll(() => spot(780, 400)).toBe(36);
  // Over its opposite corner: said, and nothing is lost.
  await page.keyboard.press('Escape');
  await expect(selected(page)).toHaveText('Nothing selected');
  await page.keyboard.press('Control+a');
  await expect(selected(page)).toHaveText(/ px$/);
  await mouseDraw(page, line([800, 420], [560, 220], 8));
  await page.keyboard.press('Enter');
  await expect(page.getByText(/fold/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => spot(780, 400)).toBe(36);
  // Taking the nib in hand keeps what was moved, and lets go of frame and area.
  await page.keyboard.press('Control+a');
  await expect(selected(page)).toHaveText(/ px$/);
  for (let k = 0; k < 30; k++) await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('q');
  await expect.poll(() => spot(780, 480)).toBe(36);
  expect(await spot(780, 320)).toBe(0);
  await expect
    .poll(async () => (await pixels(page, ['overlay'], AROUND_THE_PAGE)).every((value) => value === 255))
    .toBe(true);
});

test('pixels are copied, cut, pasted, moved to another wash and deleted; same colours and patches are found', async ({
  page,
  desk,
}) => {
  await withWash(page, desk);
  await fillBox(page, [
    [640, 300],
    [700, 360],
  ]);
  await fillBox(page, [
    [800, 300],
    [860, 360],
  ]);
  const both = await dark(page);
  await page.keyboard.press('Escape');
  await expect(selected(page)).toHaveText('Nothing selected');
  await page.getByRole('radio', { name: 'Touch', exact: true }).click();
  await page.mouse.click(670, 330);
  const count = async () => Number((await selected(page).innerText()).replace(/\D/g, ''));
  await expect.poll(async () => (await count()) > 0).toBe(true);
  const one = await count();
  await page.getByRole('button', { name: 'Same colour' }).click();
  await expect.poll(async () => Math.abs((await count()) / (2 * one) - 1)).toBeLessThan(0.05);
  await page.mouse.click(670, 330);
  await expect.poll(count).toBe(one);
  await page.keyboard.press('Control+x');
  await expect.poll(() => dark(page)).toBeLessThan(0.6 * both);
  await addWash(page);
  await page.keyboard.press('Control+v');
  await expect.poll(() => dark(page)).toBe(both);
  const [first] = layersOf(await onServer(desk, PAGE)).filter(({ name }) => name === 'Wash');
  await expect.poll(async () => new Set((await tiles(desk)).map(({ layerId }) => layerId)).size).toBe(2);
  await page.getByRole('button', { name: 'Wash', exact: true }).click();
  await expect.poll(async () => (await tiles(desk)).every(({ layerId }) => layerId === first.id)).toBe(true);
  await expect.poll(() => dark(page)).toBe(both);
  await page.keyboard.press('Delete');
  await expect.poll(() => dark(page)).toBeLessThan(0.6 * both);
  // Lines do not go on a wash, and pixels not on an Ink layer: both say where they do.
  await page.getByRole('button', { name: /^Inks, / }).click();
  await page.keyboard.press('Control+v');
  await expect(page.getByText(/take a Wash layer in hand/)).toBeVisible();
});

test('copied pixels are on the clipboard as PNG, and give way to lines that are copied elsewhere later', async ({
  page,
  desk,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await withWash(page, desk);
  await fillBox(page, [
    [640, 300],
    [700, 360],
  ]);
  await page.keyboard.press('Control+c');
  let bytes: number[] = [];
  const isThere = async () => {
    // A clipboard that is written to just now cannot be read.
    bytes = await page
      .evaluate(async () => {
        const [item] = await navigator.clipboard.read();
        return Array.from(new Uint8Array(await (await item.getType('image/png')).arrayBuffer()));
      })
      .catch(() => []);
    return bytes.length > 0;
  };
  await expect.poll(isThere).toBe(true);
  const png = decode(Uint8Array.from(bytes));
  expect(png.width / png.height).toBeCloseTo(1, 1);
  const middle = 4 * (Math.floor(png.height / 2) * png.width + Math.floor(png.width / 2));
  expect([...png.data.slice(middle, middle + 4)]).toEqual([20, 22, 26, 255]);
  await page.evaluate(() =>
    navigator.clipboard.writeText(
      '<svg xmlns="http://www.w3.org/2000/svg"><path d="M100 100L300 300" fill="none" stroke="#2a6f97" stroke-width="12"/></svg>',
    ),
  );
  await page.getByRole('button', { name: /^Inks, / }).click();
  await page.keyboard.press('Control+v');
  await expect.poll(async () => ofKind(await onServer(desk, PAGE), 'stroke').length).toBe(1);
});

test('washes merge into the lowest and keep its name; lines and pixels are not mixed; a held shape only takes colour', async ({
  page,
  desk,
}) => {
  await withWash(page, desk);
  await fillBox(page, [
    [640, 300],
    [700, 360],
  ]);
  await addWash(page);
  await fillBox(page, [
    [680, 340],
    [760, 420],
  ]);
  const both = await dark(page);
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  await page.getByRole('button', { name: 'Down', exact: true }).click();
  await expect.poll(() => names(desk)).toEqual(['Rough', 'Inks', 'Wash']);
  await expect.poll(() => dark(page)).toBe(both);
  await page.keyboard.press('Control+z');
  await expect.poll(() => names(desk)).toEqual(['Rough', 'Inks', 'Wash', 'Wash 2']);
  await expect.poll(() => dark(page)).toBe(both);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => names(desk)).toEqual(['Rough', 'Inks', 'Wash']);
  await page.getByRole('button', { name: /^Wash, / }).click();
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  await page.getByRole('button', { name: 'Down', exact: true }).click();
  await expect(page.getByText(/Inks is Ink and Wash is Wash: these cannot be merged/)).toBeVisible();
  expect(await names(desk)).toEqual(['Rough', 'Inks', 'Wash']);
  // White on a held shape: nothing is inked beside it.
  await page.getByRole('switch', { name: /Hold shape/ }).click();
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Paper white' }).click();
  await (await Pen.for(page)).draw(line([600, 330], [790, 330]), () => 1);
  await expect.poll(() => dark(page)).toBeLessThan(both - 80);
  const held = await tiles(desk);
  await expect.poll(async () => (await tiles(desk)).length).toBe(held.length);
  const opaque = await pixels(page, ['ink'], { x: 720, y: 300, width: 60, height: 30 });
  expect(darkCount(opaque)).toBe(0);
});
