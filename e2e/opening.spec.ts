import type { Page as Tab } from '@playwright/test';
import { ask, AROUND_THE_PAGE, countStrokes, darkCount, openBoard, pixels, rested, saved } from './board';
import { expect, test, type Desk } from './desk';
import { line, Pen } from './hands';

const picture = (tab: Tab) => tab.locator('#first-picture');
const inkSeen = async (tab: Tab) => darkCount(await pixels(tab, ['ink'], AROUND_THE_PAGE));

/** Lets nothing through that matches until it is let go. */
async function held(tab: Tab, glob: string): Promise<() => void> {
  let letGo = (): void => undefined;
  const free = new Promise<void>((resolve) => (letGo = resolve));
  await tab.route(glob, async (route) => {
    await free;
    await route.continue();
  });
  return letGo;
}

const hasThumbnail = (desk: Desk, pageId: string) =>
  expect.poll(async () => (await ask(desk, `/api/pages/${pageId}/thumbnail`)).status).toBe(200);

test('a page is seen from the first moment, before the app and before its inks, and can be drawn on meanwhile', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-nibs');
  const before = await countStrokes(desk, 'demo-nibs');
  const whole = await inkSeen(page);
  await hasThumbnail(desk, 'demo-nibs');
  const app = await held(page, '**/index-*.js');
  const worker = await held(page, '**/ink-*.js');
  await page.goto(`${desk.address}/page/demo-nibs`, { waitUntil: 'commit' });
  await expect(picture(page)).toBeVisible();
  await expect.poll(() => picture(page).evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(320);
  const early = await picture(page).boundingBox();
  app();
  await expect(page.getByRole('tab', { name: 'Ink' })).toBeVisible();
  // The board has it now, at the same place.
  await expect(picture(page)).toHaveCount(0);
  const board = await page.getByTestId('board').boundingBox();
  expect(early).toEqual({
    x: Number(board?.x) + 14,
    y: Number(board?.y) + 14,
    width: Number(board?.width) - 28,
    height: Number(board?.height) - 28,
  });
  await expect.poll(() => inkSeen(page)).toBeGreaterThan(whole / 3);
  await expect(page.getByTestId('board')).not.toHaveAttribute('aria-busy', 'false');
  const soft = await inkSeen(page);
  const pen = await Pen.for(page);
  await pen.draw(line([600, 120], [900, 700]));
  await expect.poll(() => inkSeen(page)).toBeGreaterThan(soft + 300);
  worker();
  await rested(page);
  await expect.poll(() => inkSeen(page)).toBeGreaterThan(whole + 300);
  await saved(page);
  expect(await countStrokes(desk, 'demo-nibs')).toBe(before + 1);
});

test('on the way from the folio the shelf’s picture stands in for a page, and is gone with it when one turns back', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  await hasThumbnail(desk, 'demo-heron');
  await page.goto(`${desk.address}/folio/demo-saltmarsh-ferry`);
  const answer = await held(page, '**/api/pages/demo-heron?form=packed');
  await page.getByRole('link', { name: 'Open The heron mask' }).click();
  await expect(picture(page)).toBeVisible();
  await expect(page.getByRole('banner')).toContainText('Opening the page');
  await page.goBack();
  await expect(page.getByText('Saltmarsh Ferry').first()).toBeVisible();
  await expect(picture(page)).toHaveCount(0);
  answer();
  await page.getByRole('link', { name: 'Open The heron mask' }).click();
  await rested(page);
  await expect(picture(page)).toHaveCount(0);
});
