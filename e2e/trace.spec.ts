import type { Page as Tab } from '@playwright/test';
import { find, ofKind } from '@true-nib/core/page';
import sharp from 'sharp';
import { openBoard, onServer, rested, strokesOf } from './board';
import { expect, test, type Desk } from './desk';
import { line, Pen } from './hands';
import { deliveredSvg, ringsIn, takeMending } from './mend';

const PHOTO = 'demo-photo';
const chip = (tab: Tab, name: string) => tab.getByRole('button', { name, exact: true });
const rough = async (desk: Desk, pageId = PHOTO) => ofKind(await onServer(desk, pageId), 'picture')[0];
const tracedLayers = async (desk: Desk, pageId: string) =>
  ofKind(await onServer(desk, pageId), 'layer').filter(({ traced }) => traced !== undefined);

async function takeScan(tab: Tab, tool: string): Promise<void> {
  await tab.getByRole('tab', { name: 'Rough' }).click();
  await chip(tab, tool).first().click();
}

/** Traces, by the one filled button. */
const trace = (tab: Tab) => chip(tab, 'Trace').last().click();

test('a photo is laid flat, traced, put right at two places, tugged and delivered; a reload in between loses nothing', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, PHOTO);
  const before = await rough(desk);
  await takeScan(page, 'Straighten');
  await chip(page, 'Make flat').click();
  await expect(page.getByText('Flat: a sheet of an A-size.')).toBeVisible();
  await page.getByRole('switch', { name: 'Even light' }).click();
  await page.getByRole('switch', { name: 'Drop blue pencil' }).click();
  await expect.poll(async () => (await rough(desk)).scan?.drop).toEqual(['blue']);
  const flat = await rough(desk);
  expect(flat).toMatchObject({ blob: before.blob, scan: { taken: { width: 1500, height: 2000 }, evened: true } });
  // ISO 216.
  expect(Math.abs(flat.height / flat.width / Math.SQRT2 - 1)).toBeLessThan(0.002);

  await chip(page, 'Trace').first().click();
  await expect(page.getByTestId('trace-words')).toContainText('lines in sight');
  await trace(page);
  await expect(page.getByTestId('doubts')).toContainText('In doubt:');
  await expect.poll(async () => strokesOf(await onServer(desk, PHOTO)).length).toBeGreaterThan(60);
  const [layer] = await tracedLayers(desk, PHOTO);
  const first = strokesOf(await onServer(desk, PHOTO));
  // Blue pencil dropped: no line is as thin and pale as it was drawn beside the ink.
  expect(first.length).toBeLessThan(400);
  expect(ofKind(await onServer(desk, PHOTO), 'area').length).toBeGreaterThan(5);

  const words = async () => (await tracedLayers(desk, PHOTO)).find(({ id }) => id === layer.id)?.traced?.said.length;
  for (const count of [1, 2]) {
    await chip(page, 'Next place').click();
    await expect(page.getByTestId('place')).toBeVisible();
    await chip(page, 'Another way').click();
    await expect.poll(words).toBe(count);
  }
  await page.reload();
  await rested(page);
  await takeScan(page, 'Put right');
  await expect(page.getByTestId('doubts')).toContainText('In doubt:');
  await page.getByRole('switch', { name: 'Show what differs' }).click();
  await expect(page.getByTestId('compared')).toContainText('Missing');
  const [, missing, tooMuch] =
    /blue\): ([\d.]+) %.*orange\): ([\d.]+) %/.exec((await page.getByTestId('compared').textContent()) ?? '') ?? [];
  expect(Number(missing)).toBeLessThan(8);
  expect(Number(tooMuch)).toBeLessThan(8);

  await chip(page, 'Let it be ink').click();
  await expect.poll(async () => (await tracedLayers(desk, PHOTO)).length).toBe(0);
  const then = strokesOf(await onServer(desk, PHOTO));
  await takeMending(page, 'Tug');
  // The left side of the skull.
  await page.mouse.move(545, 300);
  await page.mouse.down();
  for (const [x, y] of line([545, 300], [537, 296], 6)) await page.mouse.move(x, y);
  await page.mouse.up();
  await expect
    .poll(async () => {
      const now = new Map(strokesOf(await onServer(desk, PHOTO)).map((one) => [one.id, one]));
      return then.filter(({ id, spine }) => now.get(id)?.spine.points.join() !== spine.points.join()).length;
    })
    .toBeGreaterThan(0);
  expect(ringsIn(await deliveredSvg(page)).length).toBeGreaterThan(first.length / 2);
});

test('undo takes a tracing and what was put right back; a panel alone is traced', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-traced');
  await takeScan(page, 'Put right');
  await expect(page.getByTestId('doubts')).toContainText('In doubt:');
  const before = strokesOf(await onServer(desk, 'demo-traced')).length;
  await page.keyboard.press('Period');
  const stood = (await page.getByTestId('place').textContent()) ?? '';
  await page.keyboard.press('Slash');
  const said = async () => (await tracedLayers(desk, 'demo-traced'))[0].traced?.said.length;
  await expect.poll(said).toBe(1);
  await page.keyboard.press('Control+z');
  await expect.poll(said).toBe(0);
  // The place stands as it did, on the desk as well.
  await expect(page.getByTestId('place')).toHaveText(stood);
  expect(strokesOf(await onServer(desk, 'demo-traced'))).toHaveLength(before);
  await chip(page, 'Let it be ink').click();
  await expect.poll(async () => (await tracedLayers(desk, 'demo-traced')).length).toBe(0);

  // A panel over the left half, and nothing beyond it.
  await chip(page, 'Panels').first().click();
  const pen = await Pen.for(page);
  await pen.draw(line([410, 80], [650, 700], 20));
  await expect.poll(async () => ofKind(await onServer(desk, 'demo-traced'), 'panel').length).toBe(1);
  await chip(page, 'Trace').first().click();
  await page.getByRole('radio', { name: 'Panel', exact: true }).click();
  await page.mouse.click(480, 300);
  await trace(page);
  await expect.poll(async () => (await tracedLayers(desk, 'demo-traced')).length).toBe(1);
  const now = await onServer(desk, 'demo-traced');
  const [layer] = ofKind(now, 'layer').filter(({ traced }) => traced);
  const own = strokesOf(now).filter(({ layerId }) => layerId === layer.id);
  expect(own.length).toBeGreaterThan(5);
  expect(new Set(own.map(({ panelId }) => panelId))).toEqual(new Set([ofKind(now, 'panel')[0].id]));
  for (const { spine } of own)
    for (let i = 0; i < spine.points.length; i += 9) expect(spine.points[i]).toBeLessThan(now.size.width / 2 + 20);
});

test('a black mark brought in is traced to outlines, a Wash layer to lines, and a blank sheet is said to be blank', async ({
  page,
  desk,
}, info) => {
  await openBoard(page, desk, 'demo-nibs');
  const bring = async (name: string, inside: string) => {
    const file = info.outputPath(name);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600"><rect width="600" height="600" fill="#fff"/>${inside}</svg>`;
    await sharp(Buffer.from(svg)).png().toFile(file);
    await takeScan(page, 'Place');
    const chooser = page.waitForEvent('filechooser');
    await chip(page, 'Bring in').click();
    await (await chooser).setFiles(file);
    await expect(page.getByText(`${name} is on the page`)).toBeVisible();
  };
  await bring('mark.png', '<path d="M300 60 L520 480 H80Z"/><circle cx="300" cy="350" r="70" fill="#fff"/>');
  await chip(page, 'Trace').first().click();
  await page.getByRole('radio', { name: 'Outlines', exact: true }).click();
  await trace(page);
  await expect.poll(async () => (await tracedLayers(desk, 'demo-nibs')).length).toBe(1);
  const marked = await onServer(desk, 'demo-nibs');
  const [layer] = ofKind(marked, 'layer').filter(({ traced }) => traced);
  const areas = ofKind(marked, 'area').filter(({ layerId }) => layerId === layer.id);
  // One area with its hole; the three corners of the mark and four cubics at most for the round one.
  expect(areas.map(({ rings }) => rings.length)).toEqual([2]);
  expect(areas[0].rings.map(({ points }) => (points.length - 3) / 9).sort()[0]).toBeLessThanOrEqual(4);

  await bring('blank.png', '');
  await chip(page, 'Trace').first().click();
  await trace(page);
  await expect(page.getByText('There is no ink in it: the picture is blank.')).toBeVisible();
  expect(find(await onServer(desk, 'demo-nibs'), 'layer', layer.id)).toBeDefined();

  // The lines of the sampler as pixels, and those as lines again; stopped at first.
  const inks = ofKind(await onServer(desk, 'demo-nibs'), 'layer').find(({ name }) => name === 'Inks');
  await page.getByRole('button', { name: /^Inks/ }).first().click();
  await chip(page, 'To pixels, keep the lines').click();
  const wash = async () => ofKind(await onServer(desk, 'demo-nibs'), 'layer').find(({ medium }) => medium === 'wash');
  await expect.poll(async () => (await wash())?.id).toBeDefined();
  await takeScan(page, 'Trace');
  await page.getByRole('radio', { name: 'Lines', exact: true }).click();
  await expect(page.getByTestId('trace-words')).toContainText((await wash())?.name ?? 'nothing');
  await trace(page);
  await chip(page, 'Stop').click();
  await expect(page.getByText('Stopped. The page is as it was.')).toBeVisible();
  expect(await tracedLayers(desk, 'demo-nibs')).toHaveLength(1);
  await trace(page);
  await expect.poll(async () => (await tracedLayers(desk, 'demo-nibs')).length).toBe(2);
  const again = (await tracedLayers(desk, 'demo-nibs')).find(({ traced }) => traced?.from !== layer.traced?.from);
  const all = strokesOf(await onServer(desk, 'demo-nibs'));
  const count = (id: string | undefined) => all.filter(({ layerId }) => layerId === id).length;
  expect(count(again?.id)).toBeGreaterThan(count(inks?.id) / 2);
});
