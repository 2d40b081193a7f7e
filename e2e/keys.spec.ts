import type { Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { countStrokes, openBoard, viewInWords } from './board';
import { expect, test } from './desk';
import { line, Pen } from './hands';

const tool = (page: Page, name: string) => page.getByTestId('bench').getByRole('button', { name, exact: true });

test('a hold key borrows a tool and gives it back, also when it is let go outside the window', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  await page.keyboard.press('e');
  await expect(tool(page, 'Lift')).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.down('t');
  await expect(tool(page, 'Nib')).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.up('t');
  await expect(tool(page, 'Lift')).toHaveAttribute('aria-pressed', 'true');
  // The window loses the focus while the key is down; it is let go elsewhere.
  await page.keyboard.down('t');
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await expect(tool(page, 'Lift')).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.up('t');
  await expect(tool(page, 'Lift')).toHaveAttribute('aria-pressed', 'true');
  // With a modifier pressed meanwhile, and let go after it.
  await page.keyboard.down('t');
  await page.keyboard.down('Shift');
  await page.keyboard.up('t');
  await page.keyboard.up('Shift');
  await expect(tool(page, 'Lift')).toHaveAttribute('aria-pressed', 'true');
});

test('a command gets another key; the owner of a key is named and gives it up only when asked', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  await page.keyboard.press('Backquote');
  await page.getByLabel('Name of a command').fill('keys');
  await page.keyboard.press('Enter');
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await keys.getByRole('button', { name: 'Key of "Rub"' }).click();
  await page.keyboard.press('q');
  await expect(keys.getByText('Q belongs to "Nib".')).toBeVisible();
  await keys.getByRole('button', { name: 'Leave it' }).click();
  await expect(keys.getByRole('button', { name: 'Key of "Rub"' })).toHaveText('W');
  await keys.getByRole('button', { name: 'Key of "Rub"' }).click();
  await page.keyboard.press('q');
  await keys.getByRole('button', { name: 'Take it over' }).click();
  await expect(keys.getByRole('button', { name: 'Key of "Nib"' })).toHaveText('none');
  await keys.getByRole('button', { name: 'Close', exact: true }).click();
  await page.keyboard.press('q');
  await expect(tool(page, 'Rub')).toHaveAttribute('aria-pressed', 'true');
  // It is still so after a reload, and in the tooltip.
  await page.reload();
  await expect(tool(page, 'Rub')).toHaveAttribute('title', 'Rub (Q)');
});

test('keys are saved as a file, loaded, mirrored for the other hand, and put back as they were', async ({
  page,
  desk,
}, info) => {
  await openBoard(page, desk, 'demo-heron');
  const open = async () => {
    await page.getByRole('button', { name: /page settings/ }).click();
    await page.getByRole('button', { name: 'Keys', exact: true }).click();
  };
  await open();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const file = info.outputPath('keys.json');
  await (await download).saveAs(file);
  const set = JSON.parse(readFileSync(file, 'utf8'));
  expect(set.keys.nib).toBe('KeyQ');
  const load = async (text: string) => {
    writeFileSync(file, text);
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Load a file' }).click();
    await (await chooser).setFiles(file);
  };
  await load('{"nib":');
  await expect(page.getByText('This file is not JSON.')).toBeVisible();
  await load(JSON.stringify({ ...set, keys: { ...set.keys, nib: 'KeyU', spray: 'KeyI' } }));
  await expect(page.getByText(/unknown here: spray/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Key of "Nib"' })).toHaveText('U');
  await page.getByRole('button', { name: 'As they were' }).click();
  await expect(page.getByRole('button', { name: 'Key of "Nib"' })).toHaveText('Q');
  await page.getByRole('radio', { name: 'I draw with the left' }).click();
  await expect(page.getByRole('button', { name: 'Key of "Nib"' })).toHaveText('P');
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).click();
  // The whole layout is mirrored: the bench stands on the right now.
  const bench = await page.getByTestId('bench').boundingBox();
  expect(bench!.x).toBeGreaterThan(700);
  await page.keyboard.press('o');
  await expect(tool(page, 'Rub')).toHaveAttribute('aria-pressed', 'true');
});

test('the view is flipped, sized as in print, and reset in each part on its own', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const start = await viewInWords(page);
  await page.keyboard.press('Shift+Digit6');
  await expect.poll(async () => (await viewInWords(page)).zoom).toBe(100);
  await page.keyboard.press('c');
  await page.keyboard.press('Shift+Digit5');
  expect((await viewInWords(page)).turn).toBe(-15);
  await page.keyboard.press('x');
  expect((await viewInWords(page)).turn).toBe(0);
  // Print size: at 350 ppi and 96 px an inch of screen.
  await page.keyboard.press('Shift+B');
  const ppi = 350;
  expect((await viewInWords(page)).zoom).toBe(Math.round((96 / ppi) * 100));
  await page.keyboard.press('f');
  expect((await viewInWords(page)).zoom).toBe(start.zoom);
  // Drawn on a flipped page, a line lies where the pen was.
  await page.keyboard.press('Shift+Digit5');
  await (await Pen.for(page)).draw(line([560, 300], [700, 300]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  for (let k = 0; k < 40; k++) await page.keyboard.press('+');
  await expect.poll(async () => (await viewInWords(page)).zoom).toBe(6400);
});
