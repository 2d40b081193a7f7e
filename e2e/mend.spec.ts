import { outlineOf } from '@true-nib/core/ink';
import { ofKind } from '@true-nib/core/page';
import { areasOn } from './blacks';
import { onServer, openBoard, strokesOf, takeNib } from './board';
import { expect, test } from './desk';
import { linesOn, setNumber } from './guides';
import { along, line, mouseDraw, Pen, type Place } from './hands';
import { HANDS, mendWithEveryTool } from './mendHands';
import { deliveredSvg, doPlanned, ringsIn, straysFromCircle, takeMending, widthAtShare } from './mend';

const HERON = 'demo-heron';
const even = () => 0.5;

/** A house drawn as people draw who trim afterwards: every line runs past its corner. */
const HOUSE: readonly (readonly [Place, Place])[] = [
  [
    [640, 340],
    [640, 640],
  ],
  [
    [860, 340],
    [860, 640],
  ],
  [
    [620, 620],
    [880, 620],
  ],
  [
    [620, 360],
    [880, 360],
  ],
  [
    [624, 376],
    [762, 238],
  ],
  [
    [876, 376],
    [738, 238],
  ],
];

test('a house drawn with overshoots is tidied in one touch; what is delivered has none, and closed corners', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await takeNib(page, 'Fixed liner');
  const pen = await Pen.for(page);
  for (const [a, b] of HOUSE) await pen.draw(line(a, b, 24), even);
  const before = await linesOn(desk, HERON, 6);
  await takeMending(page, 'Tidy ends');
  await setNumber(page, 'Snip up to', 8);
  await doPlanned(page, /^12 ends to tidy\.$/, 'Tidy ends');
  await expect
    .poll(
      async () => (await linesOn(desk, HERON, 6)).flatMap(({ ends }) => ends).filter((end) => end !== 'round').length,
    )
    .toBe(12);
  // Each line is shorter by its overshoots, and none is longer.
  const after = await linesOn(desk, HERON, 6);
  expect(after.map(({ id }) => id).sort()).toEqual(before.map(({ id }) => id).sort());
  const rings = ringsIn(await deliveredSvg(page));
  const all = rings.flat();
  const ys = all.filter((_, k) => k % 2 === 1);
  // The floor is the lowest, and goes from wall to wall: its ink ends where theirs does.
  const wall = (k: number) => outlineOf(after[k]).box;
  expect(Math.max(...ys)).toBeLessThan(outlineOf(after[2]).box.maxY + 0.02);
  expect(Math.abs(wall(0).maxY - outlineOf(after[2]).box.maxY)).toBeLessThan(0.1);
  expect(Math.abs(wall(1).maxX - outlineOf(after[2]).box.maxX)).toBeLessThan(0.1);
  // The roof comes to one point: nothing of either side goes on beyond the other.
  const top = Math.min(...ys);
  const ridge = [after[4], after[5]].map((one) => outlineOf(one).box.minY);
  expect(Math.abs(ridge[0] - ridge[1])).toBeLessThan(after[4].nib.size * 0.8);
  expect(Math.min(...ridge)).toBeCloseTo(top, 1);
  // What is tidy stays tidy; one undo brings all back.
  await takeMending(page, 'Tidy ends');
  await expect(page.getByTestId('plan')).toHaveText('All ends are tidy.');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect
    .poll(async () => (await linesOn(desk, HERON, 6)).map(({ spine }) => spine))
    .toEqual(before.map(({ spine }) => spine));
});

test('an end that is touched is left alone; snip takes only the piece under it, and what a drag crosses', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  for (const [a, b] of HOUSE.slice(0, 4)) await pen.draw(line(a, b, 24), even);
  await linesOn(desk, HERON, 4);
  await takeMending(page, 'Tidy ends');
  await setNumber(page, 'Snip up to', 8);
  await expect(page.getByTestId('plan')).toHaveText('8 ends to tidy.');
  await page.mouse.click(640, 640);
  await doPlanned(page, /^7 ends to tidy\. 1 left alone\.$/, 'Tidy ends');
  await expect(page.getByTestId('plan')).toHaveText('0 ends to tidy. 1 left alone.');
  await takeMending(page, 'Snip');
  await page.mouse.click(640, 636);
  await expect
    .poll(
      async () => (await linesOn(desk, HERON, 4)).flatMap(({ ends }) => ends).filter((end) => end === 'round').length,
    )
    .toBe(0);
  // Across the floor and the eaves between the walls: both middles go, and nothing else is left of them.
  await mouseDraw(page, line([750, 340], [750, 640], 30));
  await linesOn(desk, HERON, 2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await linesOn(desk, HERON, 4);
  // Nothing under the hand: said, and nothing changes. A line that meets none is not taken.
  await page.mouse.click(450, 700);
  await expect(page.getByText('There is no line to snip here.')).toBeVisible();
});

test('lines of two layers are snipped where they meet, and merged clean into one', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeNib(page, 'Fixed liner');
  const pen = await Pen.for(page);
  await pen.draw(line([560, 420], [900, 440], 24), even);
  await linesOn(desk, HERON, 1);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Ink: lines' }).click();
  await pen.draw(line([740, 300], [730, 520], 24), even);
  const [back, front] = await linesOn(desk, HERON, 2);
  expect(front.layerId).not.toBe(back.layerId);
  await takeMending(page, 'Snip');
  // On its own layer it meets nothing.
  await page.mouse.click(731, 500);
  await expect(page.getByText('This line meets no other. Lift takes it whole.')).toBeVisible();
  await page.getByRole('radiogroup', { name: 'Reach' }).getByRole('radio', { name: 'All Ink' }).click();
  await page.mouse.click(731, 500);
  await expect
    .poll(async () => (await linesOn(desk, HERON, 2)).some(({ ends }) => typeof ends[1] !== 'string'))
    .toBe(true);
  const [, cut] = await linesOn(desk, HERON, 2);
  // The stem ends inside the line that it meets: no ink of it lies below that one's lower edge.
  expect(outlineOf(cut).box.maxY).toBeLessThan(outlineOf(back).box.maxY);
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  await page.getByRole('button', { name: 'Clean', exact: true }).click();
  await expect
    .poll(async () => new Set(strokesOf(await onServer(desk, HERON)).map(({ layerId }) => layerId)).size)
    .toBe(1);
  expect(ofKind(await onServer(desk, HERON), 'layer').filter(({ medium }) => medium === 'ink')).toHaveLength(1);
});

test('a wobbly arc is tugged into a good one in three pulls', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  const good = (t: number): Place => [740 + 170 * Math.cos(Math.PI * (1 + t)), 560 + 170 * Math.sin(Math.PI * (1 + t))];
  const dents = [0.25, 0.5, 0.75];
  const wobbly = along((t) => {
    const [x, y] = good(t);
    const off = dents.reduce((sum, at, k) => sum + (k % 2 ? 14 : -14) * Math.exp(-(((t - at) / 0.07) ** 2)), 0);
    return [x + ((x - 740) / 170) * off, y + ((y - 560) / 170) * off];
  }, 90);
  await pen.draw(wobbly, even);
  const [before] = await linesOn(desk, HERON, 1);
  await takeMending(page, 'Tug');
  await setNumber(page, 'Felt as far as', 340);
  let strays = straysFromCircle(before);
  for (const [k, at] of dents.entries()) {
    const [x, y] = good(at);
    const off = k % 2 ? 14 : -14;
    const from: Place = [x + ((x - 740) / 170) * off, y + ((y - 560) / 170) * off];
    await mouseDraw(page, line(from, [x, y], 8));
    await expect.poll(async () => straysFromCircle((await linesOn(desk, HERON, 1))[0])).toBeLessThan(strays);
    strays = straysFromCircle((await linesOn(desk, HERON, 1))[0]);
  }
  await expect
    .poll(async () => straysFromCircle((await linesOn(desk, HERON, 1))[0]))
    .toBeLessThan(0.4 * straysFromCircle(before));
});

test('a part is drawn again, weighed by a mouse, pooled, and all of it taken back', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeNib(page, 'Fixed liner');
  const pen = await Pen.for(page);
  await pen.draw(line([560, 400], [920, 400], 30), even);
  const [before] = await linesOn(desk, HERON, 1);
  await takeMending(page, 'Retrace');
  await mouseDraw(
    page,
    along((t): Place => [640 + 200 * t, 400 - 60 * Math.sin(Math.PI * t)], 40),
  );
  await expect
    .poll(async () => outlineOf((await linesOn(desk, HERON, 1))[0]).box.minY)
    .toBeLessThan(outlineOf(before).box.minY - 150);
  const [retraced] = await linesOn(desk, HERON, 1);
  expect([...retraced.spine.points.slice(-3, -1)]).toEqual([...before.spine.points.slice(-3, -1)]);
  expect(retraced.origin?.left).toBe('edited');

  await takeMending(page, 'Re-weigh');
  await page.getByRole('radiogroup', { name: 'Weight from' }).getByRole('radio', { name: 'Lens' }).click();
  await mouseDraw(page, line([566, 400], [914, 400], 30));
  await expect
    .poll(async () => widthAtShare((await linesOn(desk, HERON, 1))[0], 0.02))
    .toBeLessThan(0.6 * before.nib.size);
  expect(widthAtShare((await linesOn(desk, HERON, 1))[0], 0.5)).toBeGreaterThan(0.8 * before.nib.size);

  await page.getByRole('tab', { name: 'Ink' }).click();
  await page.getByRole('button', { name: 'Nib', exact: true }).click();
  await pen.draw(line([560, 430], [920, 372], 30), even);
  await linesOn(desk, HERON, 2);
  await takeMending(page, 'Pool');
  await setNumber(page, 'Sharper than', 85);
  await expect(page.getByTestId('plan')).toHaveText(/lines? to pool/);
  const plain = await linesOn(desk, HERON, 2);
  await doPlanned(page, /to pool/, 'Pool');
  await expect
    .poll(async () => JSON.stringify((await linesOn(desk, HERON, 2)).map(({ spine }) => spine.points.length)))
    .not.toBe(JSON.stringify(plain.map(({ spine }) => spine.points.length)));
  for (let k = 0; k < 4; k++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await linesOn(desk, HERON, 1))[0].spine).toEqual(before.spine);
});

test('a knife sharpens the end of a line, ends are bridged, and points that are too many go', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await takeNib(page, 'Fixed liner');
  const pen = await Pen.for(page);
  await pen.draw(line([560, 300], [900, 300], 30), even);
  await linesOn(desk, HERON, 1);
  await takeMending(page, 'Knife');
  await pen.draw(
    [...line([850, 306], [910, 298], 12), ...line([910, 298], [910, 320], 6), ...line([910, 320], [850, 306], 10)],
    even,
  );
  await expect.poll(async () => typeof (await linesOn(desk, HERON, 1))[0].ends[1]).toBe('object');

  await page.getByRole('tab', { name: 'Ink' }).click();
  await page.getByRole('button', { name: 'Nib', exact: true }).click();
  for (const x of [560, 680, 800])
    await pen.draw(
      along((t): Place => [x + 115 * t, 500 + 3 * Math.sin(20 * t)], 60),
      even,
    );
  await linesOn(desk, HERON, 4);
  await takeMending(page, 'Bridge');
  await setNumber(page, 'Gaps up to', 60);
  await setNumber(page, 'Turns up to', 90);
  await doPlanned(page, /^2 bridges\.$/, 'Bridge');
  const [, whole] = await linesOn(desk, HERON, 2);
  await takeMending(page, 'Ease');
  await setNumber(page, 'Stray at most', 8);
  await doPlanned(page, /^\d+ points become \d+\.$/, 'Ease');
  await expect
    .poll(async () => (await linesOn(desk, HERON, 2)).find(({ id }) => id === whole.id)?.spine.points.length)
    .toBeLessThan(whole.spine.points.length);
});

test('selected lines are changed after the fact: weight, taper, colour, way, and into blots', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await takeNib(page, 'Fixed liner');
  const pen = await Pen.for(page);
  await pen.draw(line([560, 300], [900, 340], 30), even);
  const [before] = await linesOn(desk, HERON, 1);
  await page.getByRole('button', { name: 'Select', exact: true }).click();
  await page.getByRole('radiogroup', { name: 'Select by' }).getByRole('radio', { name: 'Touch' }).click();
  await page.mouse.click(730, 320);
  await expect(page.getByTestId('selected')).toHaveText('1 line');
  await setNumber(page, 'Width times', 200);
  await expect.poll(async () => (await linesOn(desk, HERON, 1))[0].nib.size).toBeCloseTo(2 * before.nib.size, 5);
  await setNumber(page, 'Taper', 120);
  await page.getByRole('button', { name: 'Taper both ends' }).click();
  await expect.poll(async () => widthAtShare((await linesOn(desk, HERON, 1))[0], 0)).toBe(0);
  await page.getByRole('button', { name: 'Reverse', exact: true }).click();
  await expect
    .poll(async () => (await linesOn(desk, HERON, 1))[0].spine.points[0])
    .toBeGreaterThan(before.spine.points[0] + 500);
  await page.getByRole('button', { name: 'Lines to areas' }).click();
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
});

test('several points are picked by a box, set level, and the line is broken and joined again', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await mouseDraw(
    page,
    along((t): Place => [600 + 300 * t, 420 + 40 * Math.sin(9 * t)]),
  );
  await linesOn(desk, HERON, 1);
  await takeMending(page, 'Points');
  await page.mouse.click(600, 420);
  await expect(page.getByText(/points\. Drag one/)).toBeVisible();
  await mouseDraw(page, line([560, 340], [960, 500], 12));
  await expect(page.getByText(/^(\d+) of \1 points\.$/)).toBeVisible();
  const height = async () => {
    const p = (await linesOn(desk, HERON, 1))[0].spine.points;
    const ys = Array.from({ length: (p.length - 3) / 9 + 1 }, (_, k) => p[9 * k + 1]);
    return Math.max(...ys) - Math.min(...ys);
  };
  await page.getByRole('button', { name: 'Level', exact: true }).click();
  await expect.poll(height).toBeLessThan(1e-6);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(height).toBeGreaterThan(1);
  await page.mouse.click(500, 600);
  await page.mouse.click(600, 420);
  const count = Number(/^(\d+) points/.exec((await page.getByText(/points\. Drag one/).textContent()) ?? '')?.[1]);
  expect(count).toBeGreaterThan(3);
  // The first inner point breaks it; its two ends are joined again.
  const p = (await linesOn(desk, HERON, 1))[0].spine.points;
  const [ax, ay, bx] = [p[0], p[1], p[9]];
  const perPage = 300 / (p[p.length - 3] - ax);
  await page.mouse.click(600 + (bx - ax) * perPage, 420 + (p[10] - ay) * perPage);
  await page.getByRole('button', { name: 'Break', exact: true }).click();
  await linesOn(desk, HERON, 2);
  // The end that the break left is joined with the one beside it: the line is whole again.
  await page.mouse.click(500, 600);
  await page.mouse.click(600, 420);
  await expect(page.getByText(/^2 points\. Drag one/)).toBeVisible();
  await page.mouse.click(600 + (bx - ax) * perPage, 420 + (p[10] - ay) * perPage);
  await page.getByRole('button', { name: 'Join', exact: true }).click();
  await linesOn(desk, HERON, 1);
});

// A finger draws on a phone: see mend.phone.spec.
for (const hand of HANDS.filter((one) => one !== 'finger'))
  test(`every mending tool does its deed with a ${hand}`, async ({ page, desk }) => {
    const area = { x: 560, y: 240, width: 360, height: 400 };
    await mendWithEveryTool(page, desk, hand, area, {
      take: (tool) => takeMending(page, tool),
      lens: () => page.getByRole('radiogroup', { name: 'Weight from' }).getByRole('radio', { name: 'Lens' }).click(),
    });
  });
