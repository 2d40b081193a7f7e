import { ofKind } from '@true-nib/core/page';
import { openBoard, onServer, strokesOf } from './board';
import { expect, test } from './desk';

const PHOTO = 'demo-photo';

test('a finger lays a photo flat, traces it, and steps through the places that are in doubt', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, PHOTO);
  const chip = (name: string) => page.getByRole('button', { name, exact: true });
  await page.getByRole('tab', { name: 'Rough' }).click();
  await expect(chip('Photo')).toBeVisible();
  await chip('Scan').click();
  await chip('Straighten').click();
  await chip('Make flat').click();
  await expect.poll(async () => ofKind(await onServer(desk, PHOTO), 'picture')[0].scan?.corners?.length).toBe(4);
  await chip('All settings').click();
  await page.getByRole('switch', { name: 'Even light' }).click();
  await expect.poll(async () => ofKind(await onServer(desk, PHOTO), 'picture')[0].scan?.evened).toBe(true);
  await chip('Fewer settings').click();
  await chip('Trace').click();
  await chip('Trace').first().click();
  await expect.poll(async () => strokesOf(await onServer(desk, PHOTO)).length).toBeGreaterThan(60);
  await expect(page.getByTestId('doubts')).toContainText('In doubt:');
  await chip('Next place').click();
  await chip('Another way').click();
  await expect
    .poll(async () => ofKind(await onServer(desk, PHOTO), 'layer').find(({ traced }) => traced)?.traced?.said.length)
    .toBe(1);
});
