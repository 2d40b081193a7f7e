import { segmentCount } from '@true-nib/core/curve';
import { countStrokes, onServer, openBoard, strokesOf, unfold } from './board';
import { expect, test } from './desk';
import { Fingers, line } from './hands';

const HERON = 'demo-heron';

test('a finger builds a curve: touches, a drag, and a long press to end it', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'Bézier', exact: true }).tap();
  const fingers = await Fingers.for(page);
  await fingers.flick([[80, 220]]);
  await expect(page.getByRole('button', { name: 'One back' })).toBeEnabled();
  await fingers.flick(line([180, 180], [220, 180], 6));
  await fingers.flick([[300, 260]]);
  await expect(page.getByRole('button', { name: 'End here' })).toBeEnabled();
  await fingers.rest([300, 260]);
  await expect.poll(() => countStrokes(desk, HERON)).toBe(1);
  await fingers.lift();
  const [curve] = strokesOf(await onServer(desk, HERON));
  expect(segmentCount(curve.spine)).toBe(2);
});

test('the rack and all settings of a nib are under the thumb', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('button', { name: 'Technical pens, group of nibs' }).tap();
  await page.getByRole('radiogroup', { name: 'Nib rack' }).getByRole('radio', { name: 'Pen 0.50 mm' }).tap();
  await unfold(page, 'This nib');
  await page.getByRole('radiogroup', { name: 'Tip' }).getByRole('radio', { name: 'Flat' }).tap();
  await page.getByRole('slider', { name: 'Pressure to width, point 2' }).press('ArrowUp');
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  await (await Fingers.for(page)).draw(line([80, 220], [300, 260], 14));
  await expect.poll(() => countStrokes(desk, HERON)).toBe(1);
  const [stroke] = strokesOf(await onServer(desk, HERON));
  expect(stroke.nib).toMatchObject({ name: 'Pen 0.50 mm', tip: { shape: 'flat' } });
  expect(stroke.nib.size).toBeCloseTo((0.5 / 25.4) * 350, 6);
  expect(stroke.nib.press).toHaveLength(4);
});

test('a shape is dragged out by a finger, and its points are moved', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'Shapes', exact: true }).tap();
  await page.getByRole('button', { name: 'All settings' }).tap();
  await page.getByRole('radio', { name: 'Rectangle' }).tap();
  await page.getByRole('button', { name: 'Fewer settings' }).tap();
  const fingers = await Fingers.for(page);
  // A second finger lies down while the box is drawn: it is carried 20 px to the left, as large as it was.
  await fingers.dragAndCarry(line([100, 200], [280, 320], 40), [330, 400], line([280, 320], [260, 320], 10));
  await expect.poll(() => countStrokes(desk, HERON)).toBe(1);
  const [box] = strokesOf(await onServer(desk, HERON));
  const p = box.spine.points;
  expect((p[9] - p[0]) / (p[19] - p[10])).toBeCloseTo(180 / 120, 1);
  await page.getByRole('tab', { name: 'Mend' }).tap();
  await page.getByRole('button', { name: 'Points', exact: true }).tap();
  await fingers.draw([
    [80, 200],
    [80, 200],
  ]);
  await expect(page.getByText(/4 points\. Drag one/)).toBeVisible();
  await fingers.draw(line([80, 200], [60, 180], 8));
  await expect
    .poll(async () => strokesOf(await onServer(desk, HERON))[0].spine.points[0])
    .toBeLessThan(box.spine.points[0] - 30);
});
