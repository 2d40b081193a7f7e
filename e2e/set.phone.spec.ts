import { ofKind } from '@true-nib/core/page';
import { openBoard, onServer, strokesOf } from './board';
import { expect, test } from './desk';
import { Fingers, line } from './hands';

const HERON = 'demo-heron';

test('a finger builds a small street, sizes a house by its side, and pulls its lines', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const chip = (name: string) => page.getByRole('button', { name, exact: true });
  const blocks = async () => ofKind(await onServer(desk, HERON), 'block');
  await page.getByRole('tab', { name: 'Guides' }).click();
  await chip('Set').first().click();
  const fingers = await Fingers.for(page);
  for (const [name, from, to] of [
    ['Box', [120, 420], [200, 430]],
    ['Wall', [230, 430], [300, 400]],
    ['Cylinder', [110, 480], [110, 480]],
  ] as const) {
    await chip('All settings').click();
    await page.getByRole('radio', { name, exact: true }).click();
    await chip('Fewer settings').click();
    if (name === 'Cylinder') await page.touchscreen.tap(...from);
    else await fingers.draw(line(from, to, 8));
  }
  await expect
    .poll(async () => (await blocks()).map(({ shape }) => shape.kind).sort())
    .toEqual(['box', 'cylinder', 'wall']);
  await chip('Pull').click();
  await chip('Pull lines').click();
  await expect.poll(async () => strokesOf(await onServer(desk, HERON)).length).toBeGreaterThan(10);
  await chip('Camera').first().click();
  const [before] = ofKind(await onServer(desk, HERON), 'camera');
  await fingers.draw(line([200, 300], [240, 290], 10));
  await expect.poll(async () => ofKind(await onServer(desk, HERON), 'camera')[0].eye).not.toEqual(before.eye);
});
