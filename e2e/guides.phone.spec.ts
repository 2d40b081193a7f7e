import { flattenSpine } from '@true-nib/core/curve';
import { AROUND_THE_PAGE, openBoard, pixels } from './board';
import { expect, test } from './desk';
import { angleOf, bendOf, guidesOn, linesOn, setNumber } from './guides';
import { along, Fingers, line, Pen, type Place } from './hands';
import type { Page as Tab } from '@playwright/test';

const HERON = 'demo-heron';
const shaky = (a: Place, b: Place): Place[] =>
  along((t) => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t + 1.5 * Math.sin(40 * t)], 40);

/** Takes the kind of guide in hand that the next drag lays down, with a thumb. */
async function layNext(page: Tab, chip: string, touches = 1): Promise<void> {
  await page.getByRole('tab', { name: 'Guides' }).tap();
  for (let k = 0; k < touches; k++) await page.getByRole('button', { name: chip, exact: true }).tap();
}

const ink = (page: Tab) => page.getByRole('tab', { name: 'Ink' }).tap();

test('a finger lays down rails and draws two parallels; one tap on the tag makes the third one free', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await layNext(page, 'Field');
  await expect(page.getByText('Rails: drag along the direction.')).toBeVisible();
  await fingers.draw(line([80, 240], [200, 200], 12));
  const [{ shape }] = await guidesOn(desk, HERON, 1);
  await ink(page);
  await fingers.draw(shaky([60, 420], [300, 350]));
  await fingers.draw(shaky([80, 520], [320, 430]));
  // At the edge of the board, as high as the guide.
  await fingers.draw([
    [18, 240],
    [18, 240],
  ]);
  await expect.poll(async () => (await guidesOn(desk, HERON, 1))[0].acting).toBe(false);
  await fingers.draw(line([80, 300], [330, 300], 20));
  const lines = await linesOn(desk, HERON, 3);
  const angle = shape.kind === 'rails' ? shape.angle : NaN;
  for (const one of lines.slice(0, 2)) {
    expect(Math.abs(Math.sin(angleOf(one) - angle))).toBeLessThan(1e-6);
    expect(bendOf(one)).toBeLessThan(0.05);
  }
  expect(lines[2].guide).toBeUndefined();
  expect(Math.abs(angleOf(lines[2]))).toBeLessThan(0.01);
});

test('a template is found by name, ridden, and stroked all round; a wheel draws six', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await layNext(page, 'Edge', 3);
  await expect(page.getByText(/^Template: touch where it goes/)).toBeVisible();
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByLabel('Find a template').fill('hexagon');
  await page.getByRole('radio', { name: 'Polygons: Hexagon' }).tap();
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await fingers.draw(line([190, 250], [260, 250], 10));
  await guidesOn(desk, HERON, 1);
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('button', { name: 'Stroke all round' }).tap();
  const [round] = await linesOn(desk, HERON, 1);
  expect(round.spine.closed).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).tap();
  await linesOn(desk, HERON, 0);
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await layNext(page, 'Axes', 2);
  await fingers.draw(line([190, 420], [250, 420], 10));
  await guidesOn(desk, HERON, 2);
  await ink(page);
  await fingers.draw(line([215, 415], [290, 400], 16));
  const set = await linesOn(desk, HERON, 6);
  expect(new Set(set.map(({ copy }) => copy?.set)).size).toBe(1);
});

test('all is free at one touch of the switch, and the guides are as they were when it is turned back', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await layNext(page, 'Axes');
  await fingers.draw(line([195, 200], [195, 500], 12));
  const before = await guidesOn(desk, HERON, 1);
  await page.getByRole('switch', { name: 'Guided' }).tap();
  await expect(page.getByRole('switch', { name: 'Guided' })).not.toBeChecked();
  await ink(page);
  await fingers.draw(line([80, 300], [150, 330], 12));
  await linesOn(desk, HERON, 1);
  await page.getByRole('switch', { name: 'Guided' }).tap();
  await fingers.draw(line([80, 400], [150, 430], 12));
  const [, own, twin] = await linesOn(desk, HERON, 3);
  const p = flattenSpine(own.spine, 0.1);
  expect(Math.abs(p[0] + twin.spine.points[0] - 2 * (before[0].shape as { x: number }).x)).toBeLessThan(1e-6);
  expect(await guidesOn(desk, HERON, 1)).toEqual(before);
  await page.getByRole('tab', { name: 'Guides' }).tap();
  await page.getByRole('button', { name: 'List', exact: true }).tap();
  await page.getByRole('switch', { name: 'Mirror acts' }).tap();
  await expect(page.getByText('All of them sleep, so lines are free. Touch one to wake it.')).toBeVisible();
});

test('while the pen draws, a finger moves the edge that lies under it, and no line is drawn by that', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await layNext(page, 'Edge');
  await fingers.draw(line([80, 300], [310, 300], 12));
  const [laid] = await guidesOn(desk, HERON, 1);
  await ink(page);
  const pen = await Pen.for(page);
  await pen.draw(shaky([90, 276], [290, 278]));
  const [along] = await linesOn(desk, HERON, 1);
  expect(along.guide?.id).toBe(laid.id);
  expect(Math.abs(angleOf(along))).toBeLessThan(1e-6);
  await fingers.draw(line([200, 300], [200, 380], 12));
  await expect
    .poll(async () => {
      const [{ shape }] = await guidesOn(desk, HERON, 1);
      return shape.kind === 'straightedge' && laid.shape.kind === 'straightedge' ? shape.y - laid.shape.y : 0;
    })
    .toBeGreaterThan(300);
  await linesOn(desk, HERON, 1);
});

test('focus lines are raked by a finger round a calm middle, tethered lines turn by a number', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await layNext(page, 'Field', 3);
  await expect(page.getByText(/^Rays: touch where/)).toBeVisible();
  await fingers.draw([
    [195, 320],
    [195, 320],
  ]);
  await guidesOn(desk, HERON, 1);
  await page.getByRole('button', { name: 'Rake', exact: true }).tap();
  await fingers.draw(along((t): Place => [195 + 110 * Math.cos(6.3 * t), 320 + 110 * Math.sin(6.3 * t)], 50));
  await expect
    .poll(async () =>
      (await pixels(page, ['ink'], { ...AROUND_THE_PAGE, x: 90, y: 210, width: 210, height: 210 })).some(
        (value) => value < 100,
      ),
    )
    .toBe(true);
  await page.getByRole('button', { name: 'Undo' }).tap();
  await linesOn(desk, HERON, 0);
  // Rails that tether: the number turns them, and the line that was drawn on them.
  await page.getByRole('button', { name: 'List', exact: true }).tap();
  await page.getByRole('switch', { name: 'Rays acts' }).tap();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: 'Close' })
    .or(page.getByRole('button', { name: /Close/ }))
    .first()
    .tap();
  await layNext(page, 'Field');
  await fingers.draw(line([80, 420], [240, 420], 10));
  await guidesOn(desk, HERON, 2);
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('switch', { name: /Tether/ }).tap();
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await ink(page);
  await fingers.draw(shaky([80, 250], [300, 250]));
  await linesOn(desk, HERON, 1);
  await page.getByRole('tab', { name: 'Guides' }).tap();
  await page.getByRole('button', { name: 'All settings' }).tap();
  await setNumber(page, 'Angle', 25);
  await expect.poll(async () => Math.round((-angleOf((await linesOn(desk, HERON, 1))[0]) * 180) / Math.PI)).toBe(25);
});
