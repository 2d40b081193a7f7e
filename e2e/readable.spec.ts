import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page as Tab } from '@playwright/test';
import type { AxeResults, RunOptions } from 'axe-core';
import { openBoard } from './board';
import { expect, test } from './desk';

// The rules of WCAG 2.2 and of good practice, as axe-core 4.14 checks them.
const AXE = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * It compares names with what is shown without the gaps between lines: "InksInk" is not in "Inks, Ink". The first line of what a
 * button shows is in its name; a second one, as whether all is saved, may be its description or not be told.
 */
const options: RunOptions = { rules: { 'label-content-name-mismatch': { enabled: false } } };

declare const axe: { run(options: RunOptions): Promise<AxeResults> };

/** What of a screen cannot be read or reached, in words. */
async function faults(tab: Tab): Promise<string[]> {
  await tab.evaluate(AXE);
  const { violations } = await tab.evaluate((how) => axe.run(how), options);
  return violations.map(({ help, nodes }) => `${help}: ${nodes.map(({ html }) => html.slice(0, 200)).join(' and ')}`);
}

const DEVICES = [
  ['a wide screen by day', { viewport: { width: 1280, height: 800 }, colorScheme: 'light' }],
  ['a phone by night', { viewport: { width: 390, height: 844 }, colorScheme: 'dark' }],
] as const;

for (const [device, use] of DEVICES)
  test.describe(device, () => {
    test.use(use);
    test('every view can be read and reached without seeing it', async ({ page, desk }) => {
      await page.goto(desk.address);
      await expect(page.getByRole('link', { name: 'Open Saltmarsh Ferry' })).toBeVisible();
      expect(await faults(page)).toEqual([]);
      await page.getByRole('link', { name: 'Open Saltmarsh Ferry' }).click();
      await expect(page.getByRole('link', { name: 'Open The heron mask' })).toBeVisible();
      expect(await faults(page)).toEqual([]);
      await page.getByRole('button', { name: 'New page' }).click();
      await expect(page.getByRole('dialog', { name: 'New page' })).toBeVisible();
      expect(await faults(page)).toEqual([]);
      await openBoard(page, desk, 'demo-depth');
      await expect(page.getByRole('button', { name: /page settings/ })).toHaveAccessibleDescription(/saved/);
      for (const stage of ['Rough', 'Guides', 'Ink', 'Mend', 'Finish']) {
        await page.getByRole('tab', { name: stage }).click();
        await expect(page.getByRole('tab', { name: stage, selected: true })).toBeVisible();
        expect(await faults(page)).toEqual([]);
      }
      await page.getByRole('button', { name: /page settings/ }).click();
      await expect(page.getByRole('dialog', { name: 'Page' })).toBeVisible();
      expect(await faults(page)).toEqual([]);
    });
  });
