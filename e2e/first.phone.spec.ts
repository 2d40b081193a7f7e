import { countStrokes, onServer, rested, saved, strokesOf } from './board';
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
