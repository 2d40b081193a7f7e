import { readFileSync } from 'node:fs';
import svgpath from 'svgpath';
import { flattenSpine } from '@true-nib/core/curve';
import { project, type GuideShape } from '@true-nib/core/guides';
import type { Page } from '@playwright/test';
import {
  AROUND_THE_PAGE,
  countStrokes,
  darkCount,
  greatestDifference,
  openBoard,
  pixels,
  saved,
  takeNib,
  unfold,
} from './board';
import { expect, test, type Desk } from './desk';
import { angleOf, bendOf, guidesOn, layNext, linesOn, setNumber } from './guides';
import { along, line, mouseDraw, Pen, type Place } from './hands';

const HERON = 'demo-heron';
/** A hand that shakes on its way from a place to another. */
const shaky = (a: Place, b: Place, shake = 4): Place[] =>
  along((t) => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t + shake * Math.sin(40 * t)], 60);
const ink = (page: Parameters<typeof pixels>[0]) => page.getByRole('tab', { name: 'Ink' }).click();

test('two lines along rails by a shaky pen are parallel in the SVG that is delivered', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Rails');
  await pen.draw(line([600, 300], [760, 250]));
  const [rails] = await guidesOn(desk, HERON, 1);
  await ink(page);
  // As wide everywhere: the sides of its outline are what the line is.
  await takeNib(page, 'Fixed liner');
  await pen.draw(shaky([600, 400], [900, 310]));
  await pen.draw(shaky([620, 520], [900, 440]));
  const lines = await linesOn(desk, HERON, 2);
  const angle = rails.shape.kind === 'rails' ? rails.shape.angle : NaN;
  for (const one of lines) {
    expect(Math.abs(Math.sin(angleOf(one) - angle))).toBeLessThan(1e-6);
    expect(bendOf(one)).toBeLessThan(0.05);
  }
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('radio', { name: 'SVG' }).click();
  const arriving = page.waitForEvent('download');
  await page.getByRole('button', { name: /Deliver/ }).click();
  const svg = readFileSync(await (await arriving).path(), 'utf8');
  // The longest straight sides of the two outlines run at the same angle, to what two decimals of a px tell.
  const sides = [...svg.matchAll(/<path[^>]* d="([^"]+)"/g)].map(([, d]) => longestSide(d));
  expect(sides.length).toBe(2);
  for (const side of sides) expect(Math.abs(Math.sin(side.angle - angle))).toBeLessThan(0.05 / side.length + 1e-4);
});

/** The longest straight leg of an SVG path, px. */
function longestSide(d: string): { readonly angle: number; readonly length: number } {
  let best = { angle: NaN, length: 0 };
  svgpath(d)
    .abs()
    .iterate(([command, u, v], _k, x, y) => {
      const [dx, dy] = [Number(u) - x, Number(v) - y].map((step) => step / 100);
      if (command === 'L' && Math.hypot(dx, dy) > best.length)
        best = { angle: Math.atan2(dy, dx), length: Math.hypot(dx, dy) };
    });
  return best;
}

test('a cup: rim and foot on two ripples, its sides free while a key says so; the guide comes back as it was', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Ripples');
  await pen.draw(line([660, 250], [760, 250]));
  const [ripples] = await guidesOn(desk, HERON, 1);
  await ink(page);
  const ring = along(
    (t): Place => [660 + 80 * Math.cos(6.4 * t) + 3 * Math.sin(50 * t), 250 + 40 * Math.sin(6.4 * t)],
    90,
  );
  await pen.draw(ring);
  // A button that was clicked is not pressed again by the key that is held.
  await linesOn(desk, HERON, 1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await linesOn(desk, HERON, 0);
  await page.getByRole('button', { name: 'Redo' }).click();
  await linesOn(desk, HERON, 1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await pen.draw(ring);
  await page.keyboard.down('Space');
  await pen.draw(line([580, 260], [600, 420]));
  await page.keyboard.up('Space');
  // Asleep by one tap on its tag, for the other side.
  await page.keyboard.press('Shift+T');
  await expect(page.getByRole('switch', { name: 'Guided' })).toHaveAttribute('aria-checked', 'false');
  await pen.draw(line([740, 260], [720, 420]));
  await page.keyboard.press('Shift+T');
  await pen.draw(along((t): Place => [600 + 120 * t, 420 + 24 * Math.sin(3.14 * t)], 50));
  const [rim, left, right, foot] = await linesOn(desk, HERON, 4);
  for (const curved of [rim, foot]) {
    expect(curved.guide?.id).toBe(ripples.id);
    const p = flattenSpine(curved.spine, 0.01);
    const { path } = curved.guide ?? { path: undefined };
    for (let i = 0; path && i < p.length; i += 3)
      expect(project(path, { x: p[i], y: p[i + 1] }).distance).toBeLessThan(0.05);
  }
  expect([left, right].map(({ guide }) => guide)).toEqual([undefined, undefined]);
  expect(bendOf(left)).toBeGreaterThan(0.0001);
  expect(await guidesOn(desk, HERON, 1)).toEqual([ripples]);
});

test('a template is ridden from inside and from outside, and stroked all round in one touch', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Template');
  await page.getByLabel('Find a template').fill('circle');
  await page.getByRole('radio', { name: 'Circles: Circle' }).click();
  await pen.draw(line([660, 300], [760, 300]));
  const [{ shape }] = await guidesOn(desk, HERON, 1);
  if (shape.kind !== 'template') throw new Error('A template was laid down.');
  await ink(page);
  for (const radius of [93, 107])
    await pen.draw(along((t): Place => [660 + radius * Math.cos(1 + 2 * t), 300 + radius * Math.sin(1 + 2 * t)], 60));
  const round = async (count: number) => {
    for (const { spine } of await linesOn(desk, HERON, count)) {
      const p = flattenSpine(spine, 0.01);
      for (let i = 0; i < p.length; i += 3) {
        const away = Math.hypot(p[i] - shape.place.x, p[i + 1] - shape.place.y);
        expect(Math.abs(away - 200 * shape.place.scaleX)).toBeLessThan(0.2);
      }
    }
  };
  await round(2);
  await page.getByRole('tab', { name: 'Guides' }).click();
  await page.getByRole('button', { name: 'Take Template in hand' }).click();
  await page.getByRole('button', { name: 'Stroke all round' }).click();
  await round(3);
  await page.keyboard.press('Control+z');
  await linesOn(desk, HERON, 2);
});

for (const { sectors, reflects } of [
  { sectors: 6, reflects: false },
  { sectors: 10, reflects: true },
])
  test(`a wheel of ${sectors}${reflects ? ' that reflects' : ''} draws ${sectors} in all, live, and one undo takes them back`, async ({
    page,
    desk,
  }) => {
    await openBoard(page, desk, HERON);
    const pen = await Pen.for(page);
    await layNext(page, 'Wheel');
    await pen.draw(line([780, 380], [840, 380]));
    await guidesOn(desk, HERON, 1);
    if (reflects) {
      await page.getByRole('switch', { name: 'Mirror every other one' }).click();
      await setNumber(page, 'Strokes in all', 10);
      await expect(page.getByText('One stroke and 9 copies: 10 in all, mirrored on 5 axes.')).toBeVisible();
    } else await expect(page.getByText('One stroke and 5 copies: 6 in all, turned by 60° each.')).toBeVisible();
    await ink(page);
    const way = along((t): Place => [790 + 90 * t, 380 + 30 * Math.sin(5 * t)], 60);
    await pen.paced(way, (t) => 0.2 + 0.6 * t);
    const before = await pixels(page, ['ink', 'live'], AROUND_THE_PAGE);
    // All of them are there before the pen lifts.
    const places = Array.from({ length: sectors }, (_, k) => (2 * Math.PI * k) / sectors);
    expect(darkCount(before)).toBeGreaterThan(150 * places.length);
    await pen.up(way[59]);
    await saved(page);
    expect(greatestDifference(before, await pixels(page, ['ink', 'live'], AROUND_THE_PAGE))).toBeLessThanOrEqual(8);
    const set = await linesOn(desk, HERON, sectors);
    expect(new Set(set.map(({ copy }) => copy?.set)).size).toBe(1);
    await page.keyboard.press('Control+z');
    await linesOn(desk, HERON, 0);
  });

test('a face in a mirror: halves that end on the axis are one line with their twin; a set that is awake is edited as one', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Mirror');
  await pen.draw(line([700, 200], [700, 500]));
  await guidesOn(desk, HERON, 1);
  await page.getByRole('switch', { name: /Join lines/ }).click();
  await ink(page);
  await unfold(page, 'Ways of calm');
  await page.getByRole('radiogroup', { name: 'Calm' }).getByRole('radio', { name: 'Raw' }).click();
  await pen.draw(along((t): Place => [700 + 90 * Math.sin(Math.PI * t), 240 + 200 * t], 80));
  const [face] = await linesOn(desk, HERON, 1);
  expect(face.spine.closed).toBe(true);
  await pen.draw(line([730, 300], [760, 296]));
  const [, right, left] = await linesOn(desk, HERON, 3);
  const axis = (face.spine.points[0] + 0) as number;
  for (let i = 0; i < right.spine.points.length; i += 3)
    expect(right.spine.points[i] + left.spine.points[i]).toBeCloseTo(2 * axis, 0);
  // Awake: what is done to one is done to both.
  await page.keyboard.press('4');
  await page.getByRole('radio', { name: 'Touch', exact: true }).click();
  await page.mouse.click(745, 298);
  await page.getByRole('button', { name: 'Wake the set' }).click();
  await expect(page.getByText('A set of 2 lines is awake')).toBeVisible();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => {
      const [, a, b] = await linesOn(desk, HERON, 3);
      return [a.spine.points[0] - right.spine.points[0], b.spine.points[0] - left.spine.points[0]].map(Math.round);
    })
    .toEqual([10, -10]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await linesOn(desk, HERON, 3))[2].spine.points[0]).toBe(left.spine.points[0]);
  await page.getByRole('button', { name: 'Release the set' }).click();
});

test('focus lines run to a point and leave a calm middle; speed lines run along rails', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Rays');
  await pen.draw(line([760, 400], [760, 400], 2));
  const [{ shape }] = await guidesOn(desk, HERON, 1);
  if (shape.kind !== 'rays') throw new Error('Rays were laid down.');
  await page.getByRole('button', { name: 'Rake', exact: true }).click();
  await expect(page.getByText('Along Rays, with the nib in hand.')).toBeVisible();
  await pen.draw(along((t): Place => [760 + 160 * Math.cos(6.3 * t), 400 + 160 * Math.sin(6.3 * t)], 70));
  await expect.poll(() => countStrokes(desk, HERON)).toBeGreaterThan(60);
  const lines = await linesOn(desk, HERON, await countStrokes(desk, HERON));
  const reach = Math.min(
    ...lines.map(({ spine: { points } }) =>
      Math.hypot(points[points.length - 3] - shape.x, points[points.length - 2] - shape.y),
    ),
  );
  // 160 CSS px of the loop, 45 % of it calm.
  const loop = Math.max(...lines.map(({ spine: { points } }) => Math.hypot(points[0] - shape.x, points[1] - shape.y)));
  expect(reach).toBeGreaterThan(0.4 * loop);
  for (const {
    spine: { points },
  } of lines) {
    const [x, y] = [points[0] - shape.x, points[1] - shape.y];
    const cross = x * (points[points.length - 2] - shape.y) - y * (points[points.length - 3] - shape.x);
    expect(Math.abs(cross) / Math.hypot(x, y)).toBeLessThan(1e-3);
  }
  await page.keyboard.press('Control+z');
  await linesOn(desk, HERON, 0);
});

/** Level rails at a height of the window, to which lines are tethered; answers the pen they were laid down with. */
async function layTetheredRails(page: Page, desk: Desk, y: number): Promise<Pen> {
  const pen = await Pen.for(page);
  await layNext(page, 'Rails');
  await pen.draw(line([700, y], [800, y]));
  await guidesOn(desk, HERON, 1);
  await page.getByRole('switch', { name: /Tether/ }).click();
  return pen;
}

test('tethered lines go along when their guide is turned, still meet, and one undo brings all back; released ones stay', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await layTetheredRails(page, desk, 300);
  await ink(page);
  await pen.draw(shaky([600, 420], [800, 420]));
  const [flat] = await linesOn(desk, HERON, 1);
  expect(Math.abs(angleOf(flat))).toBeLessThan(1e-6);
  await page.getByRole('tab', { name: 'Guides' }).click();
  await page.getByRole('button', { name: 'Take Rails in hand' }).click();
  // The knob that turns it, 96 CSS px along; with Shift by whole 15°.
  await page.keyboard.down('Shift');
  await mouseDraw(
    page,
    along((t): Place => [700 + 96 * Math.cos(0.5 * t), 300 - 96 * Math.sin(0.5 * t)], 14),
  );
  await page.keyboard.up('Shift');
  await expect.poll(async () => Math.round((-angleOf((await linesOn(desk, HERON, 1))[0]) * 180) / Math.PI)).toBe(30);
  const [turned] = await linesOn(desk, HERON, 1);
  expect(Math.abs(Math.sin(angleOf(turned) + Math.PI / 6))).toBeLessThan(1e-6);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Math.abs(angleOf((await linesOn(desk, HERON, 1))[0]))).toBeLessThan(1e-6);
  await page.getByRole('button', { name: 'Release its lines' }).click();
  await expect.poll(async () => (await linesOn(desk, HERON, 1))[0].guide).toBeUndefined();
  await mouseDraw(
    page,
    along((t): Place => [700 + 96 * Math.cos(0.5 * t), 300 - 96 * Math.sin(0.5 * t)], 14),
  );
  await expect
    .poll(async () => {
      const [{ shape }] = await guidesOn(desk, HERON, 1);
      return 'angle' in shape && Math.abs(shape.angle) > 0.3;
    })
    .toBe(true);
  expect(Math.abs(angleOf((await linesOn(desk, HERON, 1))[0]))).toBeLessThan(1e-6);
});

test('hundreds of tethered lines are seen where they would go while their guide is turned, and are carried as one change', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await layTetheredRails(page, desk, 160);
  await page.getByRole('button', { name: 'Rake', exact: true }).click();
  await setNumber(page, 'Apart', 2);
  // A long low field of level lines, which reach far above it when they stand upright.
  await pen.draw(along((t): Place => [780 + 150 * Math.cos(6.3 * t), 500 + 50 * Math.sin(6.3 * t)], 70));
  await expect.poll(() => countStrokes(desk, HERON)).toBeGreaterThan(150);
  const flat = await linesOn(desk, HERON, await countStrokes(desk, HERON));
  await saved(page);
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  const above = { x: 660, y: 380, width: 240, height: 50 };
  const shown = async () => darkCount(await pixels(page, ['grids'], above));
  await page.keyboard.down('Shift');
  const turn = along((t): Place => [700 + 96 * Math.cos(1.57 * t), 160 - 96 * Math.sin(1.57 * t)], 14);
  await page.mouse.move(...turn[0]);
  await page.mouse.down();
  for (const place of turn) await page.mouse.move(...place);
  await expect.poll(shown).toBeGreaterThan(500);
  expect(await countStrokes(desk, HERON)).toBe(flat.length);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page.getByText(`${flat.length} lines went along.`)).toBeVisible();
  await expect
    .poll(async () => Math.abs(Math.sin(angleOf((await linesOn(desk, HERON, flat.length))[0]))))
    .toBeCloseTo(1);
  for (const stroke of await linesOn(desk, HERON, flat.length))
    expect(Math.abs(Math.cos(angleOf(stroke)))).toBeLessThan(1e-6);
  await expect.poll(shown).toBe(0);
  // Steps that come faster than the lines can be carried are all taken.
  const [{ shape: turned }] = await guidesOn(desk, HERON, 1);
  for (let step = 0; step < 4; step++) await page.keyboard.press('ArrowRight');
  const x = (of: GuideShape) => ('x' in of ? of.x : NaN);
  await expect.poll(async () => x((await guidesOn(desk, HERON, 1))[0].shape) - x(turned)).toBeCloseTo(4);
  // A step back takes back the one that is still being kept, and a page that is left takes the next one along.
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('ArrowRight');
  await page.reload();
  await expect.poll(async () => x((await guidesOn(desk, HERON, 1))[0].shape) - x(turned)).toBeCloseTo(5);
  await saved(page);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  for (let step = 0; step < 6; step++) await page.keyboard.press('Control+z');
  await expect.poll(async () => angleOf((await linesOn(desk, HERON, flat.length))[0])).toBeCloseTo(angleOf(flat[0]));
});

test('a guide reaches the layers it is told to; one that sleeps holds nothing, and the list says why all is free', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Rails');
  await pen.draw(line([600, 300], [800, 300]));
  await guidesOn(desk, HERON, 1);
  await page.getByRole('radiogroup', { name: 'Reach' }).getByRole('radio', { name: 'Layer' }).click();
  await expect(page.getByText('acts on Inks')).toBeVisible();
  await ink(page);
  await pen.draw(shaky([600, 420], [800, 380]));
  await page.keyboard.press('Shift+A');
  await pen.draw(shaky([600, 520], [800, 480]));
  const both = await linesOn(desk, HERON, 2);
  const [own, other] = both.sort((a) => (a.guide ? -1 : 1));
  expect(Math.abs(angleOf(own))).toBeLessThan(1e-6);
  expect(other.guide).toBeUndefined();
  expect(Math.abs(angleOf(other))).toBeGreaterThan(0.1);
  await page.getByRole('switch', { name: 'Rails acts' }).click();
  await expect(page.getByText('All of them sleep, so lines are free. Touch one to wake it.')).toBeVisible();
  await expect.poll(async () => (await guidesOn(desk, HERON, 1))[0].acting).toBe(false);
});

test('of two fields the first movement chooses, a key takes the line to the other, and nothing changes when the pen lifts', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  for (const [a, b] of [
    [
      [600, 200],
      [760, 200],
    ],
    [
      [600, 240],
      [700, 340],
    ],
  ] as [Place, Place][]) {
    await layNext(page, 'Rails');
    await pen.draw(line(a, b));
  }
  const [level, slant] = await guidesOn(desk, HERON, 2);
  await ink(page);
  await pen.draw(shaky([600, 450], [800, 452], 0.8));
  await pen.draw(line([820, 300], [900, 375]));
  const way = shaky([620, 620], [800, 640], 0.8);
  await pen.paced(way);
  await expect(page.getByText('On Rails', { exact: true })).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.getByText('On Rails 2')).toBeVisible();
  const before = await pixels(page, ['ink', 'live'], AROUND_THE_PAGE);
  await pen.up(way[59]);
  await saved(page);
  expect(greatestDifference(before, await pixels(page, ['ink', 'live'], AROUND_THE_PAGE))).toBeLessThanOrEqual(8);
  const lines = await linesOn(desk, HERON, 3);
  expect(lines.map(({ guide }) => guide?.id)).toEqual([level.id, slant.id, slant.id]);
  // A box between two families of rails is a parallelogram.
  await page.getByRole('button', { name: 'Shapes', exact: true }).click();
  await page.getByRole('radiogroup', { name: 'Shape' }).getByRole('radio', { name: 'Rectangle' }).click();
  await mouseDraw(page, line([620, 280], [800, 360], 12));
  const box = (await linesOn(desk, HERON, 4))[3];
  const p = box.spine.points;
  const side = (k: number) => Math.atan2(p[9 * k + 10] - p[9 * k + 1], p[9 * k + 9] - p[9 * k]);
  expect(Math.abs(Math.sin(side(0)))).toBeLessThan(1e-6);
  expect(Math.abs(Math.sin(side(1) - (slant.shape.kind === 'rails' ? slant.shape.angle : 0)))).toBeLessThan(1e-6);
});

test('an edge is moved under the nib by a held key, and aimed at a point; a template of one’s own is kept for other pages', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await layNext(page, 'Straightedge');
  await pen.draw(line([600, 300], [900, 300]));
  const [laid] = await guidesOn(desk, HERON, 1);
  await ink(page);
  await page.keyboard.down('Shift');
  await page.keyboard.down('Space');
  await mouseDraw(page, line([700, 300], [700, 420], 10));
  await page.keyboard.up('Space');
  await page.keyboard.up('Shift');
  const yOf = async () => {
    const [{ shape }] = await guidesOn(desk, HERON, 1);
    return shape.kind === 'straightedge' ? shape.y : NaN;
  };
  const before = laid.shape.kind === 'straightedge' ? laid.shape.y : NaN;
  await expect.poll(async () => (await yOf()) - before).toBeGreaterThan(300);
  expect(await countStrokes(desk, HERON)).toBe(0);
  await page.getByRole('tab', { name: 'Guides' }).click();
  await page.getByRole('button', { name: 'Take Straightedge in hand' }).click();
  await page.getByRole('button', { name: 'Aim at…' }).click();
  await page.mouse.click(860, 640);
  await expect
    .poll(async () => {
      const [{ shape }] = await guidesOn(desk, HERON, 1);
      return shape.kind === 'straightedge' && shape.angle > 0.2;
    })
    .toBe(true);
  // Lines of one's own become a template.
  await ink(page);
  await page.keyboard.press('Shift+T');
  await mouseDraw(
    page,
    along((t): Place => [640 + 40 * Math.cos(6.3 * t), 180 + 40 * Math.sin(6.3 * t)], 40),
  );
  await linesOn(desk, HERON, 1);
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Make a template' }).click();
  await expect(page.getByRole('radio', { name: 'Own: Own outline' })).toBeVisible();
  await expect
    .poll(async () => ((await (await fetch(`${desk.address}/api/templates`)).json()) as unknown[]).length)
    .toBe(1);
  await page.evaluate(() => localStorage.clear());
  await openBoard(page, desk, 'demo-crossing');
  await layNext(page, 'Template');
  await expect(page.getByRole('radio', { name: 'Own: Own outline' })).toBeVisible();
});

test('outlines of an SVG and of a picture become templates; a file that is neither, or too much, is refused with a reason', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await layNext(page, 'Template');
  const bring = async (name: string, mimeType: string, buffer: Buffer) => {
    const choosing = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'From a file…' }).click();
    await (await choosing).setFiles({ name, mimeType, buffer });
  };
  const svg = (inside: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90">${inside}</svg>`);
  await bring('leaf.svg', 'image/svg+xml', svg('<path d="M10 40C10 10 80 10 80 40C80 70 10 70 10 40z"/>'));
  await expect(page.getByRole('radio', { name: 'Own: leaf' })).toBeVisible();
  const dots = `<path d="M0 0${'L1 1L2 0'.repeat(4_000)}"/>`;
  await bring('dots.svg', 'image/svg+xml', svg(dots));
  await expect(page.getByText(/at most 4000 nodes/)).toBeVisible();
  await bring('wicked.svg', 'image/svg+xml', svg('<script>alert(1)</script><path d="M0 0L9 9"/>'));
  await bring('words.png', 'image/png', Buffer.from('no picture at all'));
  await expect(page.getByText('This file cannot be read as a picture.')).toBeVisible();
  // A black disc on white, as the browser itself makes it.
  const disc = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(120, 120);
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, 120, 120);
    context.fillStyle = '#000000';
    context.arc(60, 60, 40, 0, 2 * Math.PI);
    context.fill();
    return [...new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer())];
  });
  await bring('disc.png', 'image/png', Buffer.from(disc));
  await page.getByRole('radio', { name: 'Own: disc' }).click();
  await (await Pen.for(page)).draw(line([700, 400], [800, 400]));
  const [{ shape }] = await guidesOn(desk, HERON, 1);
  if (shape.kind !== 'template') throw new Error('A template was laid down.');
  // The outline of a disc is a circle, to some px of its 400.
  const p = flattenSpine(shape.rings[0], 0.1);
  for (let i = 0; i < p.length; i += 3) expect(Math.abs(Math.hypot(p[i], p[i + 1]) - 200)).toBeLessThan(6);
});
