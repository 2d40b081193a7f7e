import type { Page as Tab } from '@playwright/test';
import { ofKind } from '@true-nib/core/page';
import { openBoard, onServer, strokesOf } from './board';
import { expect, test, type Desk } from './desk';
import { line, Pen, type Place } from './hands';

const QUAY = 'demo-quay';
const chip = (tab: Tab, name: string) => tab.getByRole('button', { name, exact: true });

/** Takes up sets in the stage of guides. */
async function takeSet(tab: Tab): Promise<void> {
  await tab.getByRole('tab', { name: 'Guides' }).click();
  await chip(tab, 'Set').first().click();
}

/** Lays a block as large as a drag. */
async function lay(tab: Tab, name: string, [from, to]: readonly [Place, Place]): Promise<void> {
  await tab.getByRole('radio', { name, exact: true }).click();
  await tab.mouse.move(...from);
  await tab.mouse.down();
  for (const place of line(from, to, 6).slice(1)) await tab.mouse.move(...place);
  await tab.mouse.up();
}

const kindsOn = async <K extends 'block' | 'camera' | 'set'>(desk: Desk, kind: K, pageId = QUAY) =>
  ofKind(await onServer(desk, pageId), kind);
const pulledOn = async (desk: Desk, pageId = QUAY) =>
  strokesOf(await onServer(desk, pageId)).filter(({ pulled }) => pulled !== undefined);

async function drag(tab: Tab, from: Place, to: Place): Promise<void> {
  await tab.mouse.move(...from);
  await tab.mouse.down();
  for (const place of line(from, to, 8).slice(1)) await tab.mouse.move(...place);
  await tab.mouse.up();
}

test('a place is built into the rough, its lines pulled and inked over; the camera turns, and they follow', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, QUAY);
  const before = strokesOf(await onServer(desk, QUAY)).length;
  await takeSet(page);
  await lay(page, 'Box', [
    [600, 560],
    [700, 600],
  ]);
  await expect.poll(async () => (await kindsOn(desk, 'block')).length).toBe(1);
  await lay(page, 'Wall', [
    [720, 640],
    [860, 600],
  ]);
  await page.getByRole('button', { name: 'Door', exact: true }).click();
  await expect
    .poll(async () =>
      (await kindsOn(desk, 'block')).flatMap(({ shape }) => (shape.kind === 'wall' ? shape.openings : [])),
    )
    .toHaveLength(1);
  // The camera sees as the frame of the page does, so the set stands in the drawing.
  const [frame] = ofKind(await onServer(desk, QUAY), 'guide');
  const [camera] = await kindsOn(desk, 'camera');
  if (frame.shape.kind !== 'frame') throw new Error('The quay has a frame.');
  const [x, , w] = frame.shape.points.right;
  const { centre, focal, axes } = camera.look;
  const points = [axes.right, axes.left].map((axis) => centre.x + (focal * axis[0]) / axis[2]);
  if (w === 1) expect(Math.min(...points.map((own) => Math.abs(own - x)))).toBeLessThan(1);

  await chip(page, 'Pull').click();
  await chip(page, 'Pull lines').click();
  await expect.poll(async () => (await pulledOn(desk)).length).toBeGreaterThan(8);
  const lines = await pulledOn(desk);
  expect(new Set(lines.map(({ layerId }) => layerId)).size).toBe(1);
  expect(strokesOf(await onServer(desk, QUAY))).toHaveLength(before + lines.length);

  // A line in front, and what lies behind it snipped.
  await page
    .getByRole('button', { name: /^Lines of Set/ })
    .first()
    .click();
  await page.getByRole('tab', { name: 'Ink' }).click();
  await chip(page, 'Nib').first().click();
  const pen = await Pen.for(page);
  await pen.draw(line([560, 500], [900, 660]), () => 0.5);
  await expect.poll(async () => strokesOf(await onServer(desk, QUAY)).length).toBe(before + lines.length + 1);

  await takeSet(page);
  await chip(page, 'Camera').first().click();
  await drag(page, [640, 300], [676, 290]);
  await expect.poll(async () => (await kindsOn(desk, 'camera'))[0].eye).not.toEqual(camera.eye);
  const after = await pulledOn(desk);
  expect(after.map(({ spine }) => [...spine.points])).not.toEqual(lines.map(({ spine }) => [...spine.points]));
  expect(after.some(({ id }) => lines.some((one) => one.id === id))).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(async () => (await kindsOn(desk, 'camera'))[0].eye).toEqual(camera.eye);
  expect((await pulledOn(desk)).map(({ spine }) => [...spine.points])).toEqual(
    lines.map(({ spine }) => [...spine.points]),
  );
});

test('a set is kept with its picture and put on another page; a model is brought in from a GLB', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  await takeSet(page);
  await chip(page, 'Library').first().click();
  await page.getByRole('button', { name: 'Put The ferry landing on the page' }).click();
  await expect.poll(async () => (await kindsOn(desk, 'block', 'demo-heron')).length).toBeGreaterThan(30);
  expect((await kindsOn(desk, 'camera', 'demo-heron')).map(({ name }) => name).sort()).toEqual([
    'Along the quay',
    'From the water',
    'Up the stair',
  ]);
  await chip(page, 'Blocks').first().click();
  await page.getByRole('textbox', { name: 'Name of the set' }).fill('Landing stage');
  await page.getByRole('textbox', { name: 'Name of the set' }).press('Enter');
  await chip(page, 'Library').first().click();
  await page.getByRole('button', { name: 'Keep Landing stage' }).click();
  await expect(page.getByRole('button', { name: 'Put Landing stage on the page' })).toBeVisible();

  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'From a file…' }).click();
  await (await chooser).setFiles(require.resolve('@webxr-input-profiles/assets/dist/profiles/generic-hand/left.glb'));
  await expect(page.getByText('Touch where it is to stand, or drag its base.')).toBeVisible();
  await page.mouse.click(640, 640);
  await expect
    .poll(async () => (await kindsOn(desk, 'block', 'demo-heron')).filter(({ shape }) => shape.kind === 'mesh').length)
    .toBe(1);
});
