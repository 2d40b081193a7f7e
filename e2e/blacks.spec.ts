import { readFileSync } from 'node:fs';
import { decode } from 'fast-png';
import sharp from 'sharp';
import type { Page as Tab } from '@playwright/test';
import { widestOf } from '@true-nib/core/curve';
import { layersOf, ofKind } from '@true-nib/core/page';
import { outlineOf } from '@true-nib/core/ink';
import { areasOn, onHeron, overhang, ringWithGap } from './blacks';
import {
  change,
  countStrokes,
  darkCount,
  greatestDifference,
  onServer,
  openBoard,
  pixels,
  rested,
  saved,
  strokesOf,
} from './board';
import { expect, test } from './desk';
import { along, line, mouseDraw, Pen, type Place } from './hands';
import { apartFromEdges } from './pixels';

const HERON = 'demo-heron';
const round = (cx: number, cy: number, r: number): Place[] =>
  along((t) => [cx + r * Math.cos(2 * Math.PI * t), cy + r * Math.sin(2 * Math.PI * t)], 50);
const BOX = { x: 520, y: 200, width: 260, height: 260 };

async function takeBlack(page: Tab, tool: string): Promise<void> {
  await page.getByRole('tab', { name: 'Blacks' }).click();
  await page.getByRole('button', { name: tool, exact: true }).click();
}

async function delivered(page: Tab, format: string): Promise<Buffer> {
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('radio', { name: format, exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: `Deliver ${format}` }).click();
  return readFileSync(await (await download).path());
}

/** The left half of a picture of the box. */
const leftHalf = (rgba: Uint8Array): Uint8Array => rgba.filter((_, i) => Math.floor(i / 4) % BOX.width < BOX.width / 2);

/** How many px of two pictures can be told apart. */
const changedCount = (a: Uint8Array, b: Uint8Array): number => {
  let count = 0;
  for (let i = 0; i < a.length; i += 4) if (Math.abs(a[i] - b[i]) > 8) count++;
  return count;
};

test('a silhouette is blotted by pen and a light nicked out of it by mouse; both are bent, taken back, reloaded and delivered', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await takeBlack(page, 'Blot');
  const places = round(650, 330, 90);
  await pen.down(places[0]);
  await pen.move(places.slice(1));
  const live = await pixels(page, ['ink', 'live'], BOX);
  await pen.up(places[49]);
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  // What was shown while it was drawn is what is kept; at its end, on the right, the calm had some steps still to come.
  const kept = await pixels(page, ['ink', 'live'], BOX);
  expect(changedCount(leftHalf(live), leftHalf(kept))).toBeLessThan(30);

  await page.getByRole('button', { name: 'Nick', exact: true }).click();
  await page.mouse.move(690, 330);
  await page.mouse.down();
  for (const [x, y] of round(650, 330, 40)) await page.mouse.move(x, y);
  await page.mouse.up();
  await expect
    .poll(async () => (await areasOn(desk, HERON)).map(({ fill }) => fill.as).sort())
    .toEqual(['colour', 'nothing']);
  const nicked = await pixels(page, ['ink'], BOX);
  expect(darkCount(live) - darkCount(nicked)).toBeGreaterThan(0.8 * Math.PI * 40 ** 2);

  // The nick stays a thing: its edge is tugged as a line is, and lifting it brings the black back.
  await page.getByRole('tab', { name: 'Mend' }).click();
  await page.getByRole('button', { name: 'Tug', exact: true }).click();
  await page.mouse.move(690, 330);
  await page.mouse.down();
  await page.mouse.move(705, 330, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => darkCount(await pixels(page, ['ink'], BOX))).toBeLessThan(darkCount(nicked));
  await page.keyboard.press('Control+z');
  await expect.poll(async () => greatestDifference(nicked, await pixels(page, ['ink'], BOX))).toBeLessThanOrEqual(8);

  await saved(page);
  await page.reload();
  await rested(page);
  await expect.poll(async () => greatestDifference(nicked, await pixels(page, ['ink'], BOX))).toBeLessThanOrEqual(8);

  const png = decode(await delivered(page, 'PNG'));
  const svg = await delivered(page, 'SVG');
  expect(svg.toString()).not.toContain('<mask');
  const side = 600;
  const scaled = async (picture: Buffer) =>
    await sharp(picture)
      .flatten({ background: '#ffffff' })
      .resize(side, side, { fit: 'fill' })
      .ensureAlpha()
      .raw()
      .toBuffer();
  const raw = await sharp(Buffer.from(png.data.buffer, png.data.byteOffset, png.data.byteLength), {
    raw: { width: png.width, height: png.height, channels: png.channels as 3 | 4 },
  })
    .png()
    .toBuffer();
  // Source of the picture of the SVG: librsvg, by sharp.
  const { most, compared } = apartFromEdges(await scaled(raw), await scaled(svg), side);
  expect(compared).toBeGreaterThan(0.8 * side * side);
  expect(most).toBeLessThanOrEqual(8);
});

test('every region of a page is flatted at once under the inks; what was poured by mouse stays when it is flatted again', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk);
  await takeBlack(page, 'Pour');
  await expect(page.getByTestId('regions')).toHaveText(/Touch a region/);
  await page.mouse.click(566, 505);
  await expect.poll(async () => (await areasOn(desk, 'demo-quay')).length).toBe(1);
  const [wall] = await areasOn(desk, 'demo-quay');
  expect(wall).toMatchObject({ fill: { as: 'colour', color: '#14161a' }, poured: { by: 'hand' } });
  await page.getByRole('button', { name: 'Flat the page' }).click();
  await expect.poll(async () => (await areasOn(desk, 'demo-quay')).length, { timeout: 60_000 }).toBeGreaterThan(40);
  const flats = await areasOn(desk, 'demo-quay');
  expect(flats).toContainEqual(wall);
  expect(new Set(flats.map(({ layerId }) => layerId)).size).toBe(1);
  await expect(page.getByRole('button', { name: 'Flat the page' })).toBeEnabled();
  // A line across the sky parts it. The regions that are still there keep their colours, and there is one more.
  await page.getByRole('tab', { name: 'Ink', exact: true }).click();
  await mouseDraw(page, line([400, 150], [900, 150]));
  await takeBlack(page, 'Pour');
  await page.getByRole('button', { name: 'Flat the page' }).click();
  await expect.poll(async () => (await areasOn(desk, 'demo-quay')).length).toBe(flats.length + 1);
  const again = await areasOn(desk, 'demo-quay');
  const known = new Map(again.map(({ id, fill }) => [id, fill]));
  expect(flats.map(({ id }) => known.get(id))).toEqual(flats.map(({ fill }) => fill));
});

test('a gap that leaks is listed, gone to and bridged; taken back, it is left open on purpose, over a reload', async ({
  page,
  desk,
}) => {
  await change(desk, HERON, ringWithGap({ x: 1400, y: 1400 }, 500, 5));
  await openBoard(page, desk, HERON);
  await takeBlack(page, 'Leaks');
  const said = page.getByTestId('leaks');
  await expect(said).toHaveText('One gap leaks.');
  await page.getByRole('button', { name: 'Show leak 1' }).click();
  await expect(page.getByText(/ · 150 % · /)).toBeVisible();
  await page.getByRole('button', { name: 'Bridge', exact: true }).click();
  await expect.poll(() => countStrokes(desk, HERON)).toBe(2);
  await expect(said).toHaveText('No gap leaks.');
  const bridge = strokesOf(await onServer(desk, HERON)).find(({ id }) => id !== 'ring');
  expect(bridge).toMatchObject({ layerId: 'ringed', nib: { name: 'Liner' } });
  expect(bridge && widestOf(bridge.spine)).toBeCloseTo(16, 6);
  await page.keyboard.press('Control+z');
  await expect(said).toHaveText('One gap leaks.');
  await page.getByRole('button', { name: 'Show leak 1' }).click();
  await page.getByRole('button', { name: 'Meant', exact: true }).click();
  await expect(said).toHaveText('No gap leaks.');
  await saved(page);
  await page.reload();
  await rested(page);
  await takeBlack(page, 'Leaks');
  await expect(said).toHaveText('No gap leaks.');
  await page.getByRole('button', { name: 'Forget all stops and meant gaps' }).click();
  await expect(said).toHaveText('One gap leaks.');
});

test('ink that overlaps is taken apart by mouse: an overhang goes, its line stays a line; specks are listed and dropped; all of it undone', async ({
  page,
  desk,
}) => {
  await change(desk, HERON, overhang());
  await openBoard(page, desk, HERON);
  await takeBlack(page, 'Pieces');
  const said = page.getByTestId('pieces');
  await mouseDraw(page, round(...onHeron(1300, 1300), 150));
  await expect(said).toHaveText(/^7 pieces/);
  await page.mouse.click(...onHeron(1060, 1200));
  const lines = async () => strokesOf(await onServer(desk, HERON));
  const leftEnd = async () => Math.min(...(await lines()).map(({ spine }) => spine.points[0]));
  await expect.poll(leftEnd).toBeGreaterThan(1130);
  expect(await lines()).toHaveLength(2);
  // It ends flush with the far edge of the line that it crosses.
  const across = (await lines()).find(({ id }) => id === 'across');
  expect(Math.min(...(across ? outlineOf(across).rings[0].filter((_, i) => i % 2 === 0) : []))).toBeCloseTo(1142, 0);
  await expect(said).toHaveText(/^6 pieces/);

  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Find specks' }).click();
  await expect(said).toHaveText('2 specks.');
  await page.getByRole('button', { name: 'Show speck 2' }).click();
  await page.getByRole('button', { name: 'Drop all 2' }).click();
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(0);
  for (const left of [2, 2]) {
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(left);
  }
  await expect.poll(leftEnd).toBe(1000);
});

test('a colour is picked up from the page by a held key, named, and changed everywhere; an Ink layer becomes pixels and keeps its lines', async ({
  page,
  desk,
}) => {
  await change(desk, HERON, overhang());
  await openBoard(page, desk, HERON);
  await takeBlack(page, 'Blot');
  await page.getByRole('button', { name: 'Any colour' }).click();
  await page.getByLabel('As #rrggbb').fill('#a8442f');
  await page.getByRole('button', { name: 'Use it' }).click();
  await mouseDraw(page, round(750, 600, 50));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(3);
  await page.getByRole('button', { name: 'Black ink' }).click();
  await page.keyboard.down('Shift');
  await page.keyboard.down('R');
  await page.mouse.click(750, 600);
  await page.keyboard.up('R');
  await page.keyboard.up('Shift');
  await expect(page.getByText('#a8442f is in hand.')).toBeVisible();

  await page.getByText('Colours of this page').click();
  await page.getByLabel('On one thing').fill('Hull');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Change Hull everywhere' }).click();
  await page.getByLabel('As #rrggbb').fill('#d9c7a8');
  await page.getByRole('button', { name: 'Use it' }).click();
  const colours = async () => ofKind(await onServer(desk, HERON), 'colour').map(({ color, name }) => [color, name]);
  await expect.poll(colours).toEqual([['#d9c7a8', 'Hull']]);
  expect((await areasOn(desk, HERON)).map(({ fill }) => fill)).toContainEqual({ as: 'colour', color: '#d9c7a8' });

  await saved(page);
  const before = await pixels(page, ['ink'], BOX);
  await page.getByRole('button', { name: 'To pixels, keep the lines' }).click();
  const layers = async () => layersOf(await onServer(desk, HERON)).map(({ name, hidden }) => [name, hidden]);
  await expect.poll(layers).toContainEqual(['Crossed as pixels', false]);
  expect(await layers()).toContainEqual(['Crossed', true]);
  await rested(page);
  // Pixels of the page, seen at a quarter of their size, are the lines but for their soft edges.
  const after = await pixels(page, ['ink'], BOX);
  expect(Math.abs(darkCount(after) - darkCount(before))).toBeLessThan(0.2 * darkCount(before));
  // The Wash is in hand now: a nick takes its pixels.
  await page.getByRole('button', { name: 'Nick', exact: true }).click();
  await mouseDraw(page, round(...onHeron(1150, 1200), 30));
  await expect.poll(async () => darkCount(await pixels(page, ['ink'], BOX))).toBeLessThan(0.8 * darkCount(after));
});
