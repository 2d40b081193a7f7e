import { countStrokes, onServer, openBoard, rested, saved, strokesOf } from './board';
import { expect, test } from './desk';
import { along, Fingers } from './hands';

// A phone's own sharpness.
test.use({ deviceScaleFactor: 2 });

test('a newcomer draws a first line over the demo rough: three touches and a stroke', async ({ page, desk }) => {
  await page.goto(desk.address);
  await page.getByRole('link', { name: 'Open Saltmarsh Ferry' }).tap();
  await page.getByRole('link', { name: 'Open Quay at low tide' }).tap();
  await rested(page);
  const before = await countStrokes(desk);
  const finger = await Fingers.for(page);
  await finger.draw(along((t) => [80 + 220 * t, 300 + 40 * Math.sin(6 * t)], 30));
  await expect.poll(() => countStrokes(desk)).toBe(before + 1);
  // A finger has no pressure: it reads as half of it (W3C Pointer Events).
  const fresh = strokesOf(await onServer(desk)).find(({ id }) => !id.startsWith('demo'));
  expect(fresh?.spine.points[2]).toBeCloseTo(fresh?.spine.points.at(-1) ?? 0, 6);
  await saved(page);
});

test('whether all is saved is readable on a phone, and so is what waits while the server is away', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk);
  await saved(page);
  const finger = await Fingers.for(page);
  const words = page.getByTestId('save-state');
  /** CSS px by which the first words of the line stay inside it. */
  const room = (count: number) =>
    words.evaluate((line, letters) => {
      const range = document.createRange();
      const text = document.createTreeWalker(line, NodeFilter.SHOW_TEXT).nextNode();
      if (!text) throw new Error('The line is empty.');
      range.setStart(text, 0);
      range.setEnd(text, letters);
      return line.getBoundingClientRect().right - range.getBoundingClientRect().right;
    }, count);
  expect(await room('saved'.length)).toBeGreaterThan(0);
  await desk.kill();
  await finger.draw(along((t) => [80 + 220 * t, 300 + 40 * Math.sin(6 * t)], 30));
  await expect(words).toHaveText(/^offline, 1 waiting/);
  expect(await room('offline'.length)).toBeGreaterThan(0);
  await desk.start();
  await saved(page);
});
