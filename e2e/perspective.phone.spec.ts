import type { Page as Tab } from '@playwright/test';
import { openBoard } from './board';
import { expect, test } from './desk';
import { guidesOn, linesOn } from './guides';
import { Fingers, line, Pen } from './hands';
import { frameOf, wayOfStroke } from './perspective';

const HERON = 'demo-heron';

/** Takes up something to do in depth, with a thumb. */
async function inDepth(page: Tab, deed: string): Promise<void> {
  await page.getByRole('tab', { name: 'Guides' }).tap();
  await page.getByRole('button', { name: 'Depth', exact: true }).tap();
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('radiogroup', { name: 'In depth' }).getByRole('radio', { name: deed, exact: true }).tap();
}

async function makeFrame(page: Tab, name: string): Promise<void> {
  await inDepth(page, 'Frame');
  await page.getByRole('button', { name, exact: true }).tap();
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
}

test('a thumb makes a frame, a touch on a letter limits lines to one direction, a far point is dragged from the edge', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await makeFrame(page, 'Two points');
  const [made] = await guidesOn(desk, HERON, 1);
  const frame = frameOf(made);
  // The left point waits at the edge of the board; the hand pulls it nearer along the horizon.
  await fingers.draw(line([40, 350], [70, 350], 8));
  await expect
    .poll(async () => frameOf((await guidesOn(desk, HERON, 1))[0]).points.left[0])
    .toBeGreaterThan(frame.points.left[0] + 50);
  const [moved] = await guidesOn(desk, HERON, 1);
  expect(frameOf(moved).points.left[1]).toBeCloseTo(frame.points.left[1], 6);
  await page.getByRole('tab', { name: 'Ink' }).tap();
  // The letter of the upright at the top of the board.
  await fingers.draw([
    [195, 110],
    [195, 110],
  ]);
  await fingers.draw(line([120, 520], [280, 500], 20));
  const [upright] = await linesOn(desk, HERON, 1);
  expect(wayOfStroke(frameOf(moved), upright)).toBe('height');
  await fingers.draw([
    [195, 110],
    [195, 110],
  ]);
  await fingers.draw(line([120, 560], [280, 544], 20));
  const lines = await linesOn(desk, HERON, 2);
  expect(wayOfStroke(frameOf(moved), lines[1])).toBe('right');
});

test('a finger builds a box: the base on the floor, then its height', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await makeFrame(page, 'Two points');
  const [made] = await guidesOn(desk, HERON, 1);
  await inDepth(page, 'Box');
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await fingers.draw(line([150, 560], [240, 530], 8));
  await expect(page.getByText(/Now pull the height/)).toBeVisible();
  await fingers.draw(line([240, 520], [240, 440], 8));
  const lines = await linesOn(desk, HERON, 9);
  for (const stroke of lines) expect(wayOfStroke(frameOf(made), stroke)).toBeDefined();
});

test('a pen sights a frame on a phone, and shows how far each edge is off', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await inDepth(page, 'Sight');
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  // A pen, not a finger: a browser takes a finger that lifts on its way for a fling, and the next tap for the end of that.
  const pen = await Pen.for(page);
  for (const y of [220, 300, 460, 540]) await pen.draw(line([70, y], [260, 380 + (y - 380) * 0.55], 8));
  await expect(page.getByText('4 edges: drag along more, two a direction at least.')).toBeVisible();
  await expect(page.getByTestId('bench')).not.toHaveAttribute('aria-hidden', 'true');
  await page.getByRole('button', { name: 'All settings' }).tap();
  await expect(page.getByText(/^4 edges agree within \d\.\d+°\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep the frame' }).tap();
  const [frame] = await guidesOn(desk, HERON, 1);
  expect(frameOf(frame).edges).toHaveLength(4);
});
