import { layersOf, ofKind, rowsOf, stackOf } from '@true-nib/core/page';
import { AROUND_THE_PAGE, countStrokes, darkCount, onServer, openBoard, pixels, rested, saved, unfold } from './board';
import { expect, test, type Desk } from './desk';
import { line, Pen } from './hands';
import type { Page } from '@playwright/test';

const rows = async (desk: Desk) =>
  rowsOf(stackOf(await onServer(desk))).map((row) => `${'·'.repeat(row.depth)}${row.layer.name}`);
const row = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}, `) });
const HOUSE = { x: 520, y: 230, width: 140, height: 320 };

test('layers are added, named, marked, grouped, copied and deleted, and every step is taken back', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk);
  await expect(row(page, 'Inks')).toBeVisible();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Ink: lines' }).click();
  await expect.poll(() => rows(desk)).toEqual(['Inks 2', 'Inks', 'Rough']);
  await page.getByLabel('Name of the layer').fill('Rigging שלום 🪢');
  await page.keyboard.press('Enter');
  await page.getByRole('radio', { name: 'Plum' }).click();
  await expect.poll(() => rows(desk)).toEqual(['Rigging שלום 🪢', 'Inks', 'Rough']);
  await row(page, 'Inks').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Group', exact: true }).click();
  await expect.poll(() => rows(desk)).toEqual(['Group', '·Rigging שלום 🪢', '·Inks', 'Rough']);
  await row(page, 'Group').click();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect.poll(async () => (await rows(desk)).length).toBe(7);
  expect(await rows(desk)).toEqual(expect.arrayContaining(['Group', 'Group 2']));
  const before = await countStrokes(desk);
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect.poll(() => countStrokes(desk)).toBe(before / 2);
  for (let k = 0; k < 6; k++) await page.keyboard.press('Control+z');
  await expect.poll(() => rows(desk)).toEqual(['Inks', 'Rough']);
  expect(await countStrokes(desk)).toBe(before / 2);
});

test('a layer of a very long name is copied and hidden like any other; a name that is taken back is the old one', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk);
  const long = 'Rigging '.repeat(25).trim();
  const name = page.getByLabel('Name of the layer');
  await name.fill(long);
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await page.getByRole('switch', { name: `${long} seen`, exact: true }).click();
  await expect.poll(async () => (await rows(desk)).length).toBe(3);
  await expect.poll(async () => layersOf(await onServer(desk)).some(({ hidden }) => hidden)).toBe(true);
  for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z');
  await expect(name).toHaveValue('Inks');
  await expect.poll(() => rows(desk)).toEqual(['Inks', 'Rough']);
});

test('a layer is carried by the keyboard, and by its grip', async ({ page, desk }) => {
  await openBoard(page, desk);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Ink: lines' }).click();
  await expect.poll(() => rows(desk)).toEqual(['Inks 2', 'Inks', 'Rough']);
  const grip = page.getByRole('button', { name: 'Move Inks 2' });
  await grip.focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('Inks 2 is at place 1 of 3.')).toBeAttached();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('Inks 2 is at place 2 of 3.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect.poll(() => rows(desk)).toEqual(['Inks', 'Inks 2', 'Rough']);
  // The page has not moved with the arrows.
  const from = await page.getByRole('button', { name: 'Move Inks 2' }).boundingBox();
  const to = await page.getByRole('button', { name: 'Move Inks', exact: true }).boundingBox();
  if (!from || !to) throw new Error('No grips.');
  await page.mouse.move(from.x + 8, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 8, from.y - 4, { steps: 3 });
  await page.mouse.move(to.x + 8, to.y + 4, { steps: 6 });
  await page.mouse.up();
  await expect.poll(() => rows(desk)).toEqual(['Inks 2', 'Inks', 'Rough']);
});

test('hidden, locked, alone and faded: what is shown, and what the pen says', async ({ page, desk }) => {
  await openBoard(page, desk);
  const inked = () => pixels(page, ['ink'], HOUSE).then(darkCount);
  const dark = await inked();
  expect(dark).toBeGreaterThan(500);
  const pen = await Pen.for(page);
  const before = await countStrokes(desk);
  await page.getByRole('switch', { name: 'Inks locked' }).click();
  await pen.draw(line([600, 300], [700, 320]));
  await expect(page.getByTestId('tip')).toHaveText('Inks is locked.');
  await page.getByRole('switch', { name: 'Inks locked' }).click();
  await page.getByRole('switch', { name: 'Inks seen' }).click();
  await expect.poll(inked).toBe(0);
  await pen.draw(line([600, 300], [700, 320]));
  await expect(page.getByTestId('tip')).toHaveText('Inks is hidden.');
  await page.getByRole('switch', { name: 'Inks seen' }).click();
  await expect.poll(inked).toBe(dark);
  await row(page, 'Rough').click();
  await pen.draw(line([600, 300], [700, 320]));
  await expect(page.getByTestId('tip')).toContainText('Rough cannot be drawn on');
  await page.getByRole('switch', { name: /^Alone/ }).click();
  await expect.poll(inked).toBe(0);
  await row(page, 'Inks').click();
  await pen.draw(line([600, 300], [700, 320]));
  await expect(page.getByTestId('tip')).toHaveText('Inks is not seen: other layers are alone.');
  await row(page, 'Rough').click();
  await page.getByRole('switch', { name: /^Alone/ }).click();
  await expect.poll(inked).toBe(dark);
  // A layer that is deleted while it is alone hides the others no longer.
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Ink: lines' }).click();
  await page.getByRole('switch', { name: /^Alone/ }).click();
  await expect.poll(inked).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(inked).toBe(dark);
  // What is shown alone on one page hides nothing on another.
  await row(page, 'Rough').click();
  await page.getByRole('switch', { name: /^Alone/ }).click();
  await page.getByRole('button', { name: 'Back to the folio' }).click();
  await page.getByRole('link', { name: 'Open Street sampler' }).click();
  await rested(page);
  await expect.poll(async () => darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE))).toBeGreaterThan(500);
  await openBoard(page, desk);
  await row(page, 'Inks').click();
  await page.getByRole('spinbutton', { name: 'Fade' }).focus();
  for (let k = 0; k < 7; k++) await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(inked).toBe(0);
  await expect.poll(async () => (await pixels(page, ['ink'], HOUSE)).some((value) => value < 240)).toBe(true);
  await saved(page);
  expect(await countStrokes(desk)).toBe(before);
});

test('a whole layer is restyled, live, and turned back by one undo', async ({ page, desk }) => {
  await openBoard(page, desk);
  const rgba = () => pixels(page, ['ink'], HOUSE);
  const before = await rgba();
  await unfold(page, 'All lines of this layer');
  const width = page.getByRole('spinbutton', { name: 'Width ×' });
  await width.click();
  await page.getByRole('textbox', { name: 'Width ×, typed' }).fill('2');
  await page.keyboard.press('Enter');
  await rested(page);
  await expect.poll(async () => darkCount(await rgba())).toBeGreaterThan(1.5 * darkCount(before));
  const told = page.getByRole('button', { name: 'All lines of this layer, changed', exact: true });
  await expect(told).toBeVisible();
  await page.getByRole('radio', { name: 'One colour' }).click();
  await page.getByLabel('As #rrggbb').fill('#2a6f97');
  await page.getByRole('button', { name: 'Use it' }).click();
  const isBlue = async () => {
    const now = await rgba();
    let blue = 0;
    for (let i = 0; i < now.length; i += 4) if (now[i + 2] - now[i] > 80) blue++;
    return blue;
  };
  await expect.poll(isBlue).toBeGreaterThan(500);
  await page.getByRole('radio', { name: 'Hard edge' }).click();
  // No px is half covered any more: white, or the very colour.
  await expect
    .poll(async () => {
      const now = await rgba();
      let half = 0;
      for (let i = 0; i < now.length; i += 4) if (now[i] !== 255 && now[i] !== 0x2a) half++;
      return half;
    })
    .toBe(0);
  expect((await onServer(desk)).entities.size).toBeGreaterThan(10);
  for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z');
  await expect.poll(async () => Buffer.compare(Buffer.from(await rgba()), Buffer.from(before))).toBe(0);
  await expect(told).toBeHidden();
});

test('a stand-in colour is bright on the board and real in what is delivered', async ({ page, desk }) => {
  await openBoard(page, desk);
  await page.getByRole('switch', { name: 'Stand-in colour', exact: true }).click();
  const red = async () => {
    const now = await pixels(page, ['ink'], HOUSE);
    let count = 0;
    for (let i = 0; i < now.length; i += 4) if (now[i] - now[i + 1] > 80) count++;
    return count;
  };
  await expect.poll(red).toBeGreaterThan(500);
  await page.getByRole('switch', { name: 'Stand-in colours shown' }).click();
  await expect.poll(red).toBe(0);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('radio', { name: 'SVG' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Deliver/ }).click();
  const path = await (await download).path();
  const { readFileSync } = await import('node:fs');
  const svg = readFileSync(path, 'utf8');
  expect(svg).toContain('fill="#14161a"');
  expect(svg).not.toContain('#d6336c');
});

test('layers of one kind are merged, those of two are not', async ({ page, desk }) => {
  await openBoard(page, desk);
  await page.keyboard.press('Shift+A');
  await expect.poll(() => rows(desk)).toEqual(['Inks 2', 'Inks', 'Rough']);
  await (await Pen.for(page)).draw(line([600, 300], [760, 340]));
  await saved(page);
  const before = await pixels(page, ['ink'], AROUND_THE_PAGE);
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  await page.getByRole('button', { name: 'Down', exact: true }).click();
  await expect.poll(() => rows(desk)).toEqual(['Inks', 'Rough']);
  await rested(page);
  // Painted anew, a px may fall to the other side of the threshold.
  const after = darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE));
  expect(Math.abs(after - darkCount(before))).toBeLessThan(0.005 * after);
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  await page.getByRole('button', { name: 'Down', exact: true }).click();
  await expect(page.getByText(/Roughs are kept apart/)).toBeVisible();
  expect(await rows(desk)).toEqual(['Inks', 'Rough']);
});

test('a held shape takes only colour, and only where the pen goes', async ({ page, desk }) => {
  await openBoard(page, desk);
  await page.getByRole('switch', { name: /^Hold shape/ }).click();
  await page.getByRole('button', { name: 'Any colour' }).click();
  await page.getByLabel('As #rrggbb').fill('#b8402a');
  await page.getByRole('button', { name: 'Use it' }).click();
  const area = (now: Uint8Array) => now.filter((value, i) => i % 4 === 1 && value < 128).length;
  const inked = area(await pixels(page, ['ink'], HOUSE));
  await (await Pen.for(page)).draw(line([540, 300], [640, 330]), () => 1);
  const recoloured = async () =>
    ofKind(await onServer(desk), 'stroke').filter(({ nib }) => nib.color === '#b8402a').length;
  await expect.poll(recoloured).toBeGreaterThan(0);
  expect(layersOf(await onServer(desk))).toHaveLength(2);
  await rested(page);
  expect(Math.abs(area(await pixels(page, ['ink'], HOUSE)) - inked)).toBeLessThan(0.02 * inked);
});

test('paper can be tinted or none, also in what is delivered', async ({ page, desk }) => {
  await openBoard(page, desk);
  await page.getByRole('radio', { name: 'None', exact: true }).last().click();
  await page.getByRole('tab', { name: 'Finish' }).click();
  await expect(page.getByText(/ppi, transparent where nothing is drawn\.$/)).toBeVisible();
  await page.getByRole('radio', { name: '25 %' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Deliver/ }).click();
  const { decode } = await import('fast-png');
  const { readFileSync } = await import('node:fs');
  const png = decode(readFileSync(await (await download).path()));
  expect(png.channels).toBe(4);
  expect(png.data[3]).toBe(0);
});

/** How much each px of a layer's small picture is covered, 0..255. */
const smallPicture = (page: Page, name: string): Promise<number[]> =>
  row(page, name)
    .locator('xpath=preceding-sibling::canvas')
    .evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
      return Array.from(data).filter((_value, k) => k % 4 === 3);
    });
const farthest = (a: readonly number[], b: readonly number[]) =>
  Math.max(...a.map((value, k) => Math.abs(value - b[k])));

test('the small picture of a layer follows its lines, and is the same when it is painted as a whole', async ({
  page,
  expected,
  desk,
}) => {
  // The story reads the picture again and again, which the app does not.
  expected.push(/willReadFrequently/);
  const show = (changed: (now: readonly number[]) => boolean) =>
    expect.poll(async () => changed(await smallPicture(page, 'Inks'))).toBe(true);
  await openBoard(page, desk);
  await show((now) => Math.max(...now) > 0);
  const before = await smallPicture(page, 'Inks');
  const pen = await Pen.for(page);
  await pen.draw(line([400, 200], [700, 520], 40));
  await show((now) => farthest(now, before) > 20);
  const drawn = await smallPicture(page, 'Inks');
  await saved(page);
  await page.reload();
  await rested(page);
  await show((now) => Math.max(...now) > 0);
  expect(farthest(await smallPicture(page, 'Inks'), drawn)).toBeLessThanOrEqual(4);
  await page.keyboard.press('Control+z');
  await show((now) => farthest(now, drawn) > 20);
  expect(farthest(await smallPicture(page, 'Inks'), before)).toBeLessThanOrEqual(4);
});
