import {
  countStrokes,
  darkCount,
  onServer,
  openBoard,
  pixels,
  rested,
  strokesOf,
  viewInWords,
  tapPageSheet,
} from './board';
import { expect, test } from './desk';
import { Fingers, line, Pen } from './hands';

const PAPER = { x: 20, y: 80, width: 350, height: 500 };

test('two fingers move, zoom and turn the page, and draw nothing', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const start = await viewInWords(page);
  const fingers = await Fingers.for(page);
  await fingers.pinch(
    [
      [150, 300],
      [240, 300],
    ],
    [
      [80, 300],
      [310, 300],
    ],
  );
  await rested(page);
  const zoomed = await viewInWords(page);
  expect(zoomed.zoom).toBeGreaterThan(1.8 * start.zoom);
  expect(zoomed.turn).toBe(0);
  await fingers.pinch(
    [
      [120, 300],
      [270, 300],
    ],
    [
      [150, 230],
      [240, 370],
    ],
  );
  await rested(page);
  expect((await viewInWords(page)).turn).toBeGreaterThan(40);
  expect(await countStrokes(desk, 'demo-heron')).toBe(0);
});

test('two fingers on the bench, or on bench and page, do not enlarge the desk as a whole', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  await page.getByRole('button', { name: 'All settings' }).tap();
  const fingers = await Fingers.for(page);
  for (const places of [
    [
      [100, 640],
      [200, 640],
    ],
    [
      [100, 300],
      [200, 640],
    ],
  ] as const) {
    const [a, b] = places;
    await fingers.pinch(places, [
      [a[0] - 70, a[1] - 60],
      [b[0] + 120, b[1] + 90],
    ]);
    expect(await page.evaluate(() => visualViewport?.scale)).toBe(1);
  }
  await expect(page.getByRole('button', { name: 'Fewer settings' })).toBeVisible();
});

test('once a pen was seen, one finger moves the page; it can be switched back', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  await (await Pen.for(page)).draw(line([100, 250], [280, 300]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  const inked = darkCount(await pixels(page, ['ink'], PAPER));
  const fingers = await Fingers.for(page);
  await fingers.draw(line([200, 300], [200, 420], 10));
  await rested(page);
  expect(await countStrokes(desk, 'demo-heron')).toBe(1);
  expect(Math.abs(darkCount(await pixels(page, ['ink'], PAPER)) - inked)).toBeLessThan(0.2 * inked);
  await tapPageSheet(page);
  await page.getByRole('switch', { name: /Fingers draw/ }).tap();
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).tap();
  await fingers.draw(line([120, 380], [260, 380], 12));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(2);
});

test('a palm that rests on the glass neither draws, nor moves the page, nor keeps the pen from drawing', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  const pen = await Pen.for(page);
  await pen.draw(line([100, 250], [280, 250]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  const start = await viewInWords(page);
  const palm = await Fingers.for(page);
  await palm.rest([300, 420]);
  await pen.draw(line([100, 300], [280, 300]));
  await palm.lift();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(2);
  expect(await viewInWords(page)).toEqual(start);
  const [a, b] = strokesOf(await onServer(desk, 'demo-heron'));
  // Drawn 50 CSS px apart, and so they lie on the page: it was not moved in between.
  const zoom = 362 / 2800;
  expect(Math.abs(Math.abs(a.spine.points[1] - b.spine.points[1]) * zoom - 50)).toBeLessThan(2);
});

test('a pen that comes down while two fingers still hold the page draws at once, on a page at rest', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  const before = await countStrokes(desk, 'demo-heron');
  const [fingers, pen] = [await Fingers.for(page), await Pen.for(page)];
  // They turn the page by a degree, which is meant to be none, and stay where they are.
  await fingers.hold(
    [
      [120, 300],
      [270, 300],
    ],
    [
      [120, 320],
      [270, 323],
    ],
  );
  await pen.down([200, 420]);
  await pen.move(line([200, 420], [300, 440]));
  await fingers.lift();
  await pen.move(line([300, 440], [320, 400]));
  await pen.up([320, 400]);
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(before + 1);
  expect((await viewInWords(page)).turn).toBe(0);
  // And one finger afterwards moves the page.
  await fingers.draw(line([200, 300], [200, 360]));
  expect(await countStrokes(desk, 'demo-heron')).toBe(before + 1);
});

test('the bench gives way while a line is drawn, and shows all settings when it is pulled up', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  const bench = page.getByTestId('bench');
  const top = async () => (await bench.boundingBox())?.y ?? 0;
  const rest = await top();
  const pen = await Pen.for(page);
  await pen.down([100, 250]);
  await pen.move(line([100, 250], [280, 300]));
  await expect.poll(top).toBeGreaterThan(rest + 100);
  await pen.up([280, 300]);
  await expect.poll(top).toBe(rest);
  await page.getByRole('button', { name: 'All settings' }).tap();
  await expect(page.getByRole('radio', { name: 'Fixed liner' })).toBeVisible();
  expect(await top()).toBeGreaterThan(0.35 * 844);
  await page.getByRole('radio', { name: 'Fixed liner' }).tap();
  await expect(page.getByRole('radio', { name: 'Fixed liner' })).toBeChecked();
});

test('the tall scroll opens at its width and is delivered in px and ppi', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-crossing');
  expect((await viewInWords(page)).zoom).toBeGreaterThan(20);
  await page.getByRole('tab', { name: 'Finish' }).tap();
  await page.getByRole('radio', { name: '25 %' }).tap();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Deliver PNG' }).tap();
  expect((await download).suggestedFilename()).toBe('the-crossing.png');
});

test('a phone on its side has the bench beside the page, which keeps all of its height', async ({ page, desk }) => {
  await page.setViewportSize({ width: 844, height: 390 });
  await openBoard(page, desk);
  const { zoom } = await viewInWords(page);
  expect((zoom / 100) * (await onServer(desk)).size.height).toBeGreaterThan(280);
  const before = await countStrokes(desk);
  await (await Fingers.for(page)).draw(line([500, 100], [600, 160], 10));
  await expect.poll(() => countStrokes(desk)).toBe(before + 1);
  await page.getByRole('button', { name: 'Open the stack' }).tap();
  await page.getByRole('switch', { name: 'Inks locked' }).tap();
  await page.getByRole('button', { name: 'Fold the stack' }).tap();
  await expect(page.getByRole('switch', { name: 'Inks locked' })).toBeHidden();
  await page.getByRole('tab', { name: 'Mend' }).tap();
  await expect(page.getByRole('button', { name: 'Snip', exact: true })).toBeVisible();
});

test('everything on the bench can be touched: 44 px or more', async ({ page, desk }) => {
  await openBoard(page, desk);
  for (const stage of ['Rough', 'Ink', 'Finish']) {
    await page.getByRole('tab', { name: stage }).tap();
    const controls = await page
      .getByTestId('bench')
      .locator('[role="button"], button, [role="tab"], [role="spinbutton"], [role="radio"]')
      .all();
    expect(controls.length).toBeGreaterThan(5);
    for (const control of controls) {
      const place = await control.boundingBox();
      expect(Math.min(place?.height ?? 0, place?.width ?? 0)).toBeGreaterThanOrEqual(43.5);
    }
  }
});

test('the thread has room for seven stages, a knot of 44 px each', async ({ page, desk }) => {
  await openBoard(page, desk);
  // One more knot of the same kind, in the browser's own layout.
  const knots = await page.getByRole('tablist', { name: 'Stages' }).evaluate((thread) => {
    const [, guides] = thread.querySelectorAll('[role="tab"]');
    thread.append(guides.cloneNode(true));
    return [...thread.querySelectorAll('[role="tab"]')].map((knot) => {
      const { width, right } = knot.getBoundingClientRect();
      return { width, isWhole: knot.scrollWidth <= knot.clientWidth && right <= window.innerWidth };
    });
  });
  expect(knots).toHaveLength(7);
  for (const { width, isWhole } of knots) {
    expect(width).toBeGreaterThanOrEqual(44);
    expect(isWhole).toBe(true);
  }
});
