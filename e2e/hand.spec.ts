import { readFileSync } from 'node:fs';
import { flattenSpine, segmentCount, spineLength } from '@true-nib/core/curve';
import type { StrokeEntity } from '@true-nib/core/stroke';
import type { Page as Tab } from '@playwright/test';
import {
  AROUND_THE_PAGE,
  ask,
  countStrokes,
  onServer,
  openBoard,
  pixels,
  saved,
  strokesOf,
  takeNib,
  unfold,
} from './board';
import { expect, test, type Desk } from './desk';
import { along, line, mouseDraw, Pen, type Place } from './hands';

const HERON = 'demo-heron';
const strokes = async (desk: Desk): Promise<StrokeEntity[]> => strokesOf(await onServer(desk, HERON));
/** Waits until the server has so many lines, and answers the one that was drawn last. */
async function drawn(desk: Desk, count: number): Promise<StrokeEntity> {
  await expect.poll(() => countStrokes(desk, HERON)).toBe(count);
  return (await strokes(desk)).sort((a, b) => (a.order < b.order ? -1 : 1))[count - 1];
}

async function takeWay(page: Tab, way: string): Promise<void> {
  const ways = page.getByRole('radiogroup', { name: 'Calm' });
  if (!(await ways.isVisible())) await unfold(page, 'Ways of calm');
  await ways.getByRole('radio', { name: way, exact: true }).click();
}

/** A shaky hand along a wave that ends in a corner. */
const shaky: Place[] = along((t) => {
  const shake = 2.4 * Math.sin(95 * t);
  return t < 0.8
    ? [620 + 380 * t, 300 + 40 * Math.sin(6 * t) + shake]
    : [924 + shake, 300 + 40 * Math.sin(4.8) + 300 * (t - 0.8)];
}, 140);

/** How much a line turns to and fro, radians a px. */
function shiver({ spine }: StrokeEntity): number {
  const p = flattenSpine(spine, 0.05);
  let turn = 0;
  for (let i = 6; i < p.length; i += 3) {
    const before = Math.atan2(p[i - 2] - p[i - 5], p[i - 3] - p[i - 6]);
    const after = Math.atan2(p[i + 1] - p[i - 2], p[i] - p[i - 3]);
    turn += Math.abs(Math.atan2(Math.sin(after - before), Math.cos(after - before)));
  }
  return turn / spineLength(spine);
}

/** The greatest change of any px when the pen lifts. */
async function changeAtPenUp(page: Tab, pen: Pen, end: Place): Promise<number> {
  // A line that trails behind the pen goes on for a moment while that rests.
  let before = await pixels(page, ['ink', 'live'], AROUND_THE_PAGE);
  await expect
    .poll(async () => {
      const last = before;
      before = await pixels(page, ['ink', 'live'], AROUND_THE_PAGE);
      return Buffer.compare(last, before);
    })
    .toBe(0);
  await pen.up(end);
  await saved(page);
  const after = await pixels(page, ['ink', 'live'], AROUND_THE_PAGE);
  let worst = 0;
  for (let i = 0; i < before.length; i++) worst = Math.max(worst, Math.abs(before[i] - after[i]));
  return worst;
}

test('each way of calming takes the shiver out of the same hand, and nothing changes when the pen lifts', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  const left: Record<string, number> = {};
  for (const [k, way] of ['Raw', 'Even', 'Tow', 'Sprung'].entries()) {
    await takeWay(page, way);
    await pen.paced(
      shaky.map(([x, y]): Place => [x, y + 12 * k]),
      () => 0.6,
    );
    expect(await changeAtPenUp(page, pen, [shaky[139][0], shaky[139][1] + 12 * k])).toBeLessThanOrEqual(8);
    const stroke = await drawn(desk, k + 1);
    expect(stroke.origin?.calm.way).toBe(way.toLowerCase());
    left[way] = shiver(stroke);
  }
  expect(left.Even).toBeLessThan(0.5 * left.Raw);
  expect(left.Tow).toBeLessThan(0.6 * left.Raw);
  expect(left.Sprung).toBeLessThan(0.6 * left.Raw);
});

test('broken edges, profiles and flat tips do not change when the pen lifts, nor after a reload', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await page.getByRole('button', { name: 'Brush and broad, group of nibs' }).click();
  await page.getByRole('button', { name: 'For the mouse, group of nibs' }).click();
  for (const [k, name] of ['Broad nib', 'Chisel marker', 'Dry brush', 'Rough nib', 'Lens line'].entries()) {
    await takeNib(page, name);
    const way = along((t): Place => [620 + 340 * t, 220 + 70 * k + 20 * Math.sin(7 * t)]);
    await pen.paced(way, (t) => 0.2 + 0.6 * Math.sin(Math.PI * t));
    expect(await changeAtPenUp(page, pen, way[59])).toBeLessThanOrEqual(8);
  }
  await expect.poll(() => countStrokes(desk, HERON)).toBe(5);
  expect((await strokes(desk)).filter(({ grain }) => grain !== undefined)).toHaveLength(2);
});

test('a flick keeps its tip when the line stops where it is', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeWay(page, 'Tow');
  await page.getByRole('switch', { name: 'Draw on to the pen when it lifts' }).click();
  const pen = await Pen.for(page);
  const flick = line([620, 300], [920, 240], 40);
  await pen.paced(flick, (t) => 0.9 * (1 - t) + 0.02);
  await pen.up(flick[39]);
  const { spine, nib } = await drawn(desk, 1);
  const widths = flattenSpine(spine, 0.1).filter((_, k) => k % 3 === 2);
  expect(widths.at(-1)!).toBeLessThan(0.3 * Math.max(...widths));
  expect(Math.max(...widths)).toBeGreaterThan(0.5 * nib.size);
});

test('a towed line turns a sharp corner where its key is pressed, and a round one otherwise', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await takeWay(page, 'Tow');
  const pen = await Pen.for(page);
  const corner: Place = [860, 300];
  for (const [k, isAsked] of [true, false].entries()) {
    const lift = (places: readonly Place[]) => places.map(([x, y]): Place => [x, y + 160 * k]);
    const [across, down] = [line([640, 300], corner, 40), line(corner, [860, 420], 40)].map(lift);
    // A hand that goes on without a rest; the key comes where it turns.
    await pen.paced(isAsked ? across : [...across, ...down.slice(1)], () => 0.6);
    if (isAsked) {
      await page.keyboard.press('g');
      await pen.goesOn(down, () => 0.6);
    }
    await pen.up(lift([[860, 420]])[0]);
    const { spine } = await drawn(desk, k + 1);
    // The corner on the page: as far right and as high as the line goes.
    const p = flattenSpine(spine, 0.05);
    const [right, top] = [Math.max(...p.filter((_, i) => i % 3 === 0)), p[1]];
    let gap = Infinity;
    for (let i = 0; i < p.length; i += 3) gap = Math.min(gap, Math.hypot(p[i] - right, p[i + 1] - top));
    if (isAsked) expect(gap).toBeLessThan(2);
    else expect(gap).toBeGreaterThan(8);
  }
});

test('a mouse draws a lens: out of a point, into a point', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'For the mouse, group of nibs' }).click();
  await takeNib(page, 'Lens line');
  await mouseDraw(page, line([620, 300], [940, 330]));
  const { spine, nib } = await drawn(desk, 1);
  const widths = flattenSpine(spine, 0.1).filter((_, k) => k % 3 === 2);
  expect([widths[0], widths.at(-1)]).toEqual([0, expect.closeTo(0, 6)]);
  expect(Math.max(...widths)).toBeCloseTo(nib.size, 0);
});

test('shapes are dragged out: a circle, a square that is moved meanwhile, and a line straight on', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'Shapes', exact: true }).click();
  await page.getByRole('radio', { name: 'Ellipse' }).click();
  await page.keyboard.down('Shift');
  await page.mouse.move(700, 300);
  await page.mouse.down();
  await page.mouse.move(760, 350, { steps: 6 });
  await expect(page.getByTestId('tip')).toHaveText(/^(\d+(\.\d)?) × \1 px$/);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  const circle = await drawn(desk, 1);
  expect([circle.spine.closed, segmentCount(circle.spine)]).toEqual([true, 4]);

  await page.getByRole('radio', { name: 'Rectangle' }).click();
  await page.keyboard.down('Shift');
  await page.mouse.move(600, 450);
  await page.mouse.down();
  await page.mouse.move(660, 500, { steps: 4 });
  await page.keyboard.down('v');
  await page.mouse.move(760, 500, { steps: 4 });
  await page.keyboard.up('v');
  await page.mouse.up();
  await page.keyboard.up('Shift');
  const square = await drawn(desk, 2);
  const xs = [0, 9, 18, 27].map((i) => square.spine.points[i]);
  const ys = [1, 10, 19, 28].map((i) => square.spine.points[i]);
  expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(Math.max(...ys) - Math.min(...ys), 6);
  // It was carried 100 CSS px on, not drawn out by them: it is as wide as the circle, which was dragged as far.
  const wide = circle.spine.points[0] - circle.spine.points[18];
  expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(wide, 0);
  expect(Math.max(...xs)).toBeCloseTo(circle.spine.points[0], 0);

  // Straight on from its end, shown before the touch.
  await page.keyboard.press('q');
  await page.mouse.move(900, 520);
  await page.keyboard.down('5');
  await page.mouse.move(930, 560);
  const shown = await pixels(page, ['live'], AROUND_THE_PAGE);
  expect(shown.some((value) => value < 100)).toBe(true);
  await page.mouse.down();
  await page.mouse.move(932, 562);
  await page.mouse.up();
  await page.keyboard.up('5');
  const on = await drawn(desk, 3);
  expect(segmentCount(on.spine)).toBe(1);
  expect([on.spine.points[0], on.spine.points[1]]).toEqual([square.spine.points.at(-3), square.spine.points.at(-2)]);
});

test('a Bézier curve is built, taken back by a node, bent, closed and ended by keys', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'Bézier', exact: true }).click();
  await page.mouse.click(620, 300);
  await mouseDraw(page, line([720, 240], [780, 240], 5));
  await page.mouse.click(860, 320);
  await page.mouse.click(900, 420);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Enter');
  const open = await drawn(desk, 1);
  expect([open.spine.closed, segmentCount(open.spine)]).toEqual([false, 2]);
  await page.mouse.click(620, 450);
  await page.mouse.click(760, 450);
  await page.mouse.click(700, 540);
  // The last node drops nothing here; the line between the first two is bent, then the ring is closed.
  await mouseDraw(page, line([690, 450], [690, 420], 5));
  await page.mouse.click(620, 450);
  const ring = await drawn(desk, 2);
  expect([ring.spine.closed, segmentCount(ring.spine)]).toEqual([true, 3]);
  expect(ring.spine.points[4]).not.toBeCloseTo(ring.spine.points[1], 3);
  // Esc ends too; an undo then takes the whole curve back.
  await page.mouse.click(640, 600);
  await page.mouse.click(800, 600);
  await page.keyboard.press('Escape');
  await drawn(desk, 3);
  await page.keyboard.press('Control+z');
  await expect.poll(() => countStrokes(desk, HERON)).toBe(2);
  // Taking another layer in hand ends a curve where it was begun.
  await page.mouse.click(640, 600);
  await page.mouse.click(800, 620);
  await page.keyboard.press('Shift+A');
  const ended = await drawn(desk, 3);
  expect(ended.layerId).toBe(open.layerId);
});

test('points of a line are shown, moved, added, weighed and removed; the line says that it has left its hand', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await mouseDraw(
    page,
    along((t): Place => [620 + 300 * t, 300 + 50 * Math.sin(6 * t)]),
  );
  const before = await drawn(desk, 1);
  await page.getByRole('tab', { name: 'Mend' }).click();
  await page.getByRole('button', { name: 'Points', exact: true }).click();
  await page.mouse.click(620, 300);
  await expect(page.getByText(/points\. Drag one/)).toBeVisible();
  await mouseDraw(page, line([620, 300], [600, 340], 6));
  await expect.poll(async () => (await strokes(desk))[0].spine.points[1]).toBeGreaterThan(before.spine.points[1] + 30);
  expect((await strokes(desk))[0].origin?.left).toBe('edited');
  await expect(page.getByText(/^Point 1 of \d+/)).toBeVisible();
  await page.getByRole('spinbutton', { name: 'Width here' }).click();
  await page.getByRole('textbox', { name: 'Width here, typed' }).fill('60');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await strokes(desk))[0].spine.points[2]).toBe(60);
  const nodes = segmentCount((await strokes(desk))[0].spine);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect.poll(async () => segmentCount((await strokes(desk))[0].spine)).toBe(nodes - 1);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('4');
  await page.keyboard.press('Control+a');
  await expect(page.getByTestId('recalm').getByText(/left their samples/)).toBeVisible();
});

test('lines are calmed again after they were drawn, and undone', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeWay(page, 'Raw');
  const pen = await Pen.for(page);
  await pen.paced(shaky, () => 0.6);
  await pen.up(shaky[139]);
  const lively = await drawn(desk, 1);
  await page.keyboard.press('4');
  await page.keyboard.press('Control+a');
  const recalm = page.getByTestId('recalm');
  const strength = recalm.getByRole('spinbutton', { name: 'Strength' });
  await strength.click();
  await recalm.getByRole('textbox', { name: 'Strength, typed' }).fill('70');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await strokes(desk))[0].origin?.calm).toMatchObject({ way: 'even', strength: 70 });
  expect(shiver((await strokes(desk))[0])).toBeLessThan(0.5 * shiver(lively));
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await strokes(desk))[0].spine.points).toEqual(lively.spine.points);
});

test('a rack is kept on the server, exported, and imported on a clean start', async ({ page, desk, browser }) => {
  await openBoard(page, desk, HERON);
  await page.getByRole('button', { name: 'Copy this nib' }).click();
  await page.getByLabel('Name of the nib').fill('Gull quill');
  await page.getByRole('spinbutton', { name: 'Size' }).click();
  await page.getByRole('textbox', { name: 'Size, typed' }).fill('23');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Make it a favourite' }).click();
  const onTheServer = async () => JSON.stringify(await (await ask(desk, '/api/rack')).json());
  await expect.poll(onTheServer).toMatch(/Gull quill.*"size":23|"size":23.*Gull quill/);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the rack' }).click();
  const file = await (await download).path();
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ format: 'true-nib-rack', version: 1 });
  // Deleted, and put back.
  await page.getByRole('button', { name: 'Delete this nib' }).click();
  await expect(page.getByText('Gull quill was deleted.')).toBeVisible();
  await expect.poll(onTheServer).not.toContain('Gull quill');
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect.poll(onTheServer).toContain('Gull quill');
  await page.getByRole('button', { name: 'Delete this nib' }).click();
  await expect.poll(onTheServer).not.toContain('Gull quill');
  // Another browser that has never been here.
  const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await openBoard(other, desk, HERON);
  const chooser = other.waitForEvent('filechooser');
  await other.getByRole('button', { name: 'Import nibs' }).click();
  await (await chooser).setFiles(file);
  await expect(other.getByText('One nib was added to the rack.')).toBeVisible();
  await other.getByLabel('Find a nib').fill('gull');
  await takeNib(other, 'Gull quill');
  await expect(other.getByRole('spinbutton', { name: 'Size' })).toHaveAttribute('aria-valuenow', '23');
  await other.close();
});
