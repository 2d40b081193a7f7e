import { outlineOf } from '@true-nib/core/ink';
import { openBoard } from './board';
import { expect, test } from './desk';
import { linesOn } from './guides';
import { Fingers, line } from './hands';
import { widthAtShare } from './mend';
import { mendWithEveryTool } from './mendHands';
import type { Page as Tab } from '@playwright/test';

const HERON = 'demo-heron';

async function takeMending(page: Tab, tool: string): Promise<void> {
  await page.getByRole('tab', { name: 'Mend' }).tap();
  await page.getByRole('button', { name: tool, exact: true }).first().tap();
}

test('a finger snips an overshoot that it does not quite touch, and takes it back', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await fingers.draw(line([90, 400], [300, 400], 16));
  await fingers.draw(line([220, 320], [220, 470], 16));
  await linesOn(desk, HERON, 2);
  await takeMending(page, 'Snip');
  // 14 CSS px beside the end that stands out.
  await page.touchscreen.tap(280, 386);
  await expect
    .poll(
      async () => (await linesOn(desk, HERON, 2)).flatMap(({ ends }) => ends).filter((end) => end !== 'round').length,
    )
    .toBe(1);
  await page.getByRole('button', { name: 'Undo' }).tap();
  await expect
    .poll(
      async () => (await linesOn(desk, HERON, 2)).flatMap(({ ends }) => ends).filter((end) => end !== 'round').length,
    )
    .toBe(0);
});

test('ends are tidied by a thumb, with one left alone; a line is tugged and swelled by a finger', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const fingers = await Fingers.for(page);
  await fingers.draw(line([90, 400], [230, 400], 20));
  await fingers.draw(line([220, 300], [220, 410], 20));
  const [before] = await linesOn(desk, HERON, 2);
  await takeMending(page, 'Tidy ends');
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('radiogroup', { name: 'Unit' }).getByRole('radio', { name: 'px', exact: true }).tap();
  await page.getByRole('spinbutton', { name: 'Snip up to' }).tap();
  await page.locator('input:focus').fill('200');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await expect(page.getByTestId('plan')).toHaveText('2 ends to tidy.');
  await page.touchscreen.tap(220, 410);
  await expect(page.getByTestId('plan')).toHaveText('1 end to tidy. 1 left alone.');
  await page.getByRole('button', { name: 'Tidy ends', exact: true }).first().tap();
  await expect
    .poll(
      async () => (await linesOn(desk, HERON, 2)).flatMap(({ ends }) => ends).filter((end) => end !== 'round').length,
    )
    .toBe(1);

  await takeMending(page, 'Tug');
  await fingers.draw(line([150, 400], [150, 440], 10));
  await expect
    .poll(async () => outlineOf((await linesOn(desk, HERON, 2))[0]).box.maxY)
    .toBeGreaterThan(outlineOf(before).box.maxY + 100);
  await takeMending(page, 'Swell');
  const weight = widthAtShare((await linesOn(desk, HERON, 2))[0], 0.2);
  await fingers.draw(line([92, 400], [130, 404], 30));
  await expect.poll(async () => widthAtShare((await linesOn(desk, HERON, 2))[0], 0.1)).not.toBeCloseTo(weight, 1);
});

// Mouse and pen do theirs on a wide screen: see mend.spec.
test('every mending tool does its deed with a finger', async ({ page, desk }) => {
  const area = { x: 70, y: 280, width: 250, height: 200 };
  await mendWithEveryTool(page, desk, 'finger', area, {
    take: (tool) => takeMending(page, tool),
    lens: async () => {
      await page.getByRole('button', { name: 'All settings' }).tap();
      await page.getByRole('radiogroup', { name: 'Weight from' }).getByRole('radio', { name: 'Lens' }).tap();
      await page.getByRole('button', { name: 'Fewer settings' }).tap();
    },
  });
});
