import { ofKind, rowsOf, stackOf } from '@true-nib/core/page';
import type { Page } from '@playwright/test';
import { countStrokes, onServer, openBoard, tapPageSheet } from './board';
import { expect, test, type Desk } from './desk';
import { Fingers, line, Pen } from './hands';

const rows = async (desk: Desk) => rowsOf(stackOf(await onServer(desk, 'demo-heron'))).map(({ layer }) => layer.name);

/** The bench may still be on its way back from under a drag: a touch that it misses is made again. */
async function pullUpBench(page: Page): Promise<void> {
  await expect(async () => {
    await page.getByRole('button', { name: 'All settings' }).tap({ timeout: 2_000 });
    await expect(page.getByRole('button', { name: 'Fewer settings' })).toBeVisible({ timeout: 2_000 });
  }).toPass();
}

test('the stack opens over the foot of the page, which answers above it', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  await page.getByRole('button', { name: 'Stack', exact: true }).tap();
  const drawer = page.getByRole('region', { name: 'Stack' });
  await expect(drawer).toBeVisible();
  const box = await drawer.boundingBox();
  expect(box!.height).toBeLessThanOrEqual(0.6 * 844 + 1);
  await drawer.getByRole('button', { name: 'Add', exact: true }).tap();
  await drawer.getByRole('button', { name: 'Ink: lines' }).tap();
  await expect.poll(() => rows(desk)).toContain('Inks');
  const before = (await rows(desk)).length;
  // Several at once, without a keyboard.
  await drawer.getByRole('button', { name: 'Several' }).tap();
  await drawer.getByRole('button', { name: /^Rough, / }).tap();
  await drawer.getByRole('button', { name: 'Group', exact: true }).tap();
  await expect.poll(async () => (await rows(desk)).length).toBe(before + 1);
  // The page is in sight above, and takes ink.
  await (await Pen.for(page)).draw(line([120, 120], [270, 180]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await drawer.getByRole('button', { name: 'Close stack' }).tap();
  await expect(drawer).toBeHidden();
});

test('a finger selects, the frame is dragged, and is kept by a button', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const fingers = await Fingers.for(page);
  await fingers.draw(line([120, 250], [280, 300], 14));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await page.getByRole('button', { name: 'Select', exact: true }).tap();
  await page.getByRole('radio', { name: 'Box' }).tap();
  await fingers.draw(line([90, 220], [310, 330], 8));
  await expect(page.getByTestId('selected')).toHaveText('1 line');
  await fingers.draw(line([200, 275], [200, 335], 6));
  await expect(page.getByTestId('selected')).toHaveText('1 line, not kept yet');
  await pullUpBench(page);
  await page.getByRole('button', { name: 'Keep', exact: true }).tap();
  await expect(page.getByTestId('selected').first()).toHaveText('1 line');
});

test('what a palm dabs before the pen comes leaves no trace; a dab alone is kept', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const fingers = await Fingers.for(page);
  const pen = await Pen.for(page);
  await fingers.rest([200, 400]);
  await fingers.lift();
  await pen.draw(line([120, 250], [280, 300]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await page.getByRole('button', { name: 'Undo' }).tap();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(0);
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('aria-disabled', 'true');
  // With fingers allowed to draw, a dab that no pen follows is a dot.
  await tapPageSheet(page);
  await page.getByRole('switch', { name: /Fingers draw/ }).tap();
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).tap();
  await fingers.rest([200, 400]);
  await fingers.lift();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
});

test('a tall scroll has a small view of the whole, which moves the page', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-crossing');
  const small = page.getByTestId('navigator');
  await expect(small).toBeVisible();
  const frame = small.locator('div');
  const top = async () => (await frame.boundingBox())!.y;
  const before = await top();
  const box = await small.boundingBox();
  await page.touchscreen.tap(box!.x + box!.width / 2, box!.y + box!.height * 0.8);
  await expect.poll(top).toBeGreaterThan(before + 60);
});

test('a wash is added, drawn on by a finger, and an area of it filled from the bench', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  await page.getByRole('button', { name: 'Stack', exact: true }).tap();
  const drawer = page.getByRole('region', { name: 'Stack' });
  await drawer.getByRole('button', { name: 'Add', exact: true }).tap();
  await drawer.getByRole('button', { name: 'Wash: pixels' }).tap();
  await expect.poll(() => rows(desk)).toContain('Wash');
  await drawer.getByRole('button', { name: 'Close stack' }).tap();
  const fingers = await Fingers.for(page);
  await fingers.draw(line([100, 200], [290, 240], 14));
  const tiles = async () => ofKind(await onServer(desk, 'demo-heron'), 'wash').length;
  await expect.poll(tiles).toBeGreaterThan(2);
  const drawn = await tiles();
  await page.getByRole('button', { name: 'Select', exact: true }).tap();
  await page.getByRole('radio', { name: 'Box' }).tap();
  await fingers.draw(line([100, 300], [290, 420], 8));
  await expect(page.getByTestId('selected')).toHaveText(/ px$/);
  await pullUpBench(page);
  await page.getByRole('button', { name: 'Fill with this colour' }).tap();
  await expect.poll(tiles).toBeGreaterThan(drawn);
  await page.getByRole('button', { name: /^Undo/ }).tap();
  await expect.poll(tiles).toBe(drawn);
});
