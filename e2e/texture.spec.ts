import { readFileSync } from 'node:fs';
import { decode } from 'fast-png';
import sharp from 'sharp';
import type { Page as Tab } from '@playwright/test';
import { nearestOnSpine } from '@true-nib/core/curve';
import { byOrder, ofKind } from '@true-nib/core/page';
import { areasOn } from './blacks';
import { darkCount, greatestDifference, onServer, openBoard, pixels, rested, saved, strokesOf } from './board';
import { expect, test, type Desk } from './desk';
import { along, line, mouseDraw, Pen, type Place } from './hands';

const HERON = 'demo-heron';
const round = (x: number, y: number, r: number): Place[] =>
  along((t) => [x + r * Math.cos(2 * Math.PI * t), y + r * Math.sin(2 * Math.PI * t)], 40);
const rows = async (desk: Desk) => strokesOf(await onServer(desk, HERON)).sort(byOrder);
const dots = async (desk: Desk) => ofKind(await onServer(desk, HERON), 'dots');

async function takeTexture(page: Tab, tool: string): Promise<void> {
  await page.getByRole('tab', { name: 'Blacks' }).click();
  await page.getByRole('button', { name: tool, exact: true }).click();
}

const underway = (page: Tab) => page.getByTestId('underway');
const setNumber = async (page: Tab, name: string, value: string) => {
  await page.getByRole('spinbutton', { name, exact: true }).click();
  await page.locator('input:focus').fill(value);
  await page.keyboard.press('Enter');
};

test('a cheek is hatched by pen and crossed, scrubbed while it is under way, laid down as one change, undone and reloaded', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  await takeTexture(page, 'Comb');
  const pen = await Pen.for(page);
  await pen.draw(round(500, 300, 70));
  await expect(underway(page)).toHaveText(/^\d+ rows/);
  const count = async () => parseInt((await underway(page).textContent()) ?? '', 10);
  const before = await count();
  // The way first, then the gap: each by a drag within the loop.
  await pen.draw(line([460, 300], [540, 300]));
  await pen.draw(line([500, 270], [500, 330]));
  const angle = page.getByRole('spinbutton', { name: 'Angle' });
  await expect(angle).toHaveAttribute('aria-valuenow', '0');
  // Each drag is taken back on its own.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(angle).toHaveAttribute('aria-valuenow', '-45');
  await pen.draw(line([460, 300], [540, 300]));
  await setNumber(page, 'Apart', '20');
  await expect.poll(count).not.toBe(before);
  const single = await count();
  await page.getByRole('radio', { name: 'Crossed' }).click();
  await expect.poll(count).toBeGreaterThan(1.7 * single);
  // Nothing of it is on the page yet.
  expect(await rows(desk)).toHaveLength(0);
  const crossed = await count();
  await page.getByRole('button', { name: 'Lay them down' }).click();
  await expect.poll(async () => (await rows(desk)).length).toBe(crossed);
  const level = (await rows(desk)).filter(
    ({ spine: { points } }) => Math.abs(points[1] - points[points.length - 2]) < 1,
  );
  expect(level.length).toBeGreaterThan(single / 3);
  const box = { x: 420, y: 220, width: 160, height: 160 };
  const laid = await pixels(page, ['ink'], box);
  expect(darkCount(laid)).toBeGreaterThan(1_000);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await rows(desk)).length).toBe(0);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(async () => (await rows(desk)).length).toBe(crossed);
  await saved(page);
  await page.reload();
  await rested(page);
  await expect.poll(async () => greatestDifference(laid, await pixels(page, ['ink'], box))).toBeLessThanOrEqual(8);
});

test('a fold is spanned, an edge feathered by pen pressure, rows hatched by hand keep their distance', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await page.keyboard.press('q');
  await mouseDraw(page, line([350, 430], [420, 560]));
  await mouseDraw(page, line([520, 430], [480, 560]));
  await takeTexture(page, 'Span');
  await page.mouse.click(385, 495);
  await page.mouse.click(500, 495);
  await expect(underway(page)).toHaveText('7 rows are under way.');
  await setNumber(page, 'Rows', '9');
  await expect(underway(page)).toHaveText('9 rows are under way.');
  await page.getByRole('button', { name: 'Lay them down' }).click();
  await expect.poll(async () => (await rows(desk)).length).toBe(11);

  await page.getByRole('button', { name: 'Blot', exact: true }).click();
  await mouseDraw(page, round(780, 300, 60));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  await page.getByRole('button', { name: 'Feather', exact: true }).click();
  const edge = along((t) => [780 + 60 * Math.cos(Math.PI * t), 300 + 60 * Math.sin(Math.PI * t)], 40);
  await pen.draw(edge, (t) => 0.1 + 0.8 * t);
  await expect(underway(page)).toHaveText(/^\d\d+ rows/);
  await page.getByRole('button', { name: 'Lay them down' }).click();
  await expect.poll(async () => (await rows(desk)).length).toBeGreaterThan(30);
  const lengths = (await rows(desk)).slice(11).map(({ spine: { points: p } }) => {
    const end = p.length - 3;
    return { x: p[0], long: Math.hypot(p[end] - p[0], p[end + 1] - p[1]) };
  });
  const mean = (some: typeof lengths) => some.reduce((sum, { long }) => sum + long, 0) / some.length;
  // Pressed harder towards the left.
  const [middle] = [1900];
  expect(mean(lengths.filter(({ x }) => x < middle))).toBeGreaterThan(
    1.3 * mean(lengths.filter(({ x }) => x > middle)),
  );

  const known = (await rows(desk)).length;
  await page.getByRole('button', { name: 'Rows', exact: true }).click();
  for (const y of [600, 612, 625, 635]) await pen.draw(along((t) => [600 + 150 * t, y + 4 * Math.sin(20 * t)]));
  await expect.poll(async () => (await rows(desk)).length).toBe(known + 4);
  const [first, ...others] = (await rows(desk)).slice(known).map(({ spine }) => spine);
  const away = others.map(({ points }) => nearestOnSpine(first, { x: points[0], y: points[1] }).distance);
  // The first two say how far apart they lie; the others keep to it, whatever the hand does.
  expect(away[1] / away[0]).toBeCloseTo(2, 1);
  expect(away[2] / away[0]).toBeCloseTo(3, 1);
});

test('a sky is stippled by pen and by a gradient, rubbed and nicked; a wall is toned, scrubbed, and delivered without one grey px', async ({
  page,
  desk,
}) => {
  await openBoard(page, desk, HERON);
  const pen = await Pen.for(page);
  await takeTexture(page, 'Shaker');
  await pen.draw(line([420, 160], [520, 160]));
  await expect.poll(async () => (await dots(desk)).length).toBe(1);
  await page.getByRole('radio', { name: 'In a loop' }).click();
  await page.getByRole('radio', { name: 'Straight' }).click();
  await mouseDraw(page, round(780, 200, 70));
  await expect(underway(page)).toHaveText(/dots/);
  await mouseDraw(page, line([720, 200], [840, 200]));
  await page.getByRole('button', { name: 'Lay them down' }).click();
  await expect.poll(async () => (await dots(desk)).length).toBe(2);
  const strewn = (await dots(desk)).sort((a, b) => b.dots.length - a.dots.length)[0].dots;
  const xs = [...strewn].filter((_, i) => i % 3 === 0).sort((a, b) => a - b);
  // Darker to the right: more than half of all dots lie beyond the middle.
  expect(xs[Math.floor(xs.length / 2)]).toBeGreaterThan((xs[0] + xs[xs.length - 1]) / 2 + 20);

  await page.getByRole('button', { name: 'Tone', exact: true }).click();
  await mouseDraw(page, [
    ...line([560, 420], [760, 420], 12),
    ...line([760, 420], [760, 620], 12),
    ...line([760, 620], [560, 620], 12),
    ...line([560, 620], [560, 425], 12),
  ]);
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  await setNumber(page, 'Share', '40');
  await expect
    .poll(async () => (await areasOn(desk, HERON))[0].fill)
    .toMatchObject({ as: 'tone', share: 0.4, screen: 'dots' });
  await expect(page.getByText(/Seen as the grey of its share/)).toBeVisible();
  // The grey of its share: 40 of 100 of the ink's darkness.
  const [red] = await pixels(page, ['ink'], { x: 600, y: 500, width: 4, height: 4 });
  expect(Math.abs(red - (255 - 0.4 * (255 - 20)))).toBeLessThan(3);
  // A light is nicked out of it, and takes dots along.
  await page.getByRole('button', { name: 'Nick', exact: true }).click();
  await mouseDraw(page, round(660, 520, 30));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(2);
  const [white] = await pixels(page, ['ink'], { x: 660, y: 520, width: 2, height: 2 });
  expect(white).toBe(255);

  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('switch', { name: /1-bit/ }).click();
  const got = async (kind: string): Promise<Buffer> => {
    await page.getByRole('radio', { name: kind, exact: true }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: `Deliver ${kind}` }).click();
    return readFileSync(await (await download).path());
  };
  const bits = await got('PNG');
  expect(decode(bits)).toMatchObject({ depth: 1, channels: 1 });
  const whole = await sharp(bits).greyscale().raw().toBuffer({ resolveWithObject: true });
  const [left, top] = [(575 - 290) * (2800 / 724), (435 - 62) * (2800 / 724)].map(Math.round);
  let [inked, grey] = [0, 0];
  for (let row = 0; row < 200; row++)
    for (let column = 0; column < 200; column++) {
      const value = whole.data[(top + row) * whole.info.width + left + column];
      if (value === 0) inked++;
      else if (value !== 255) grey++;
    }
  expect(grey).toBe(0);
  expect(Math.abs(inked / 40_000 - 0.4)).toBeLessThan(0.01);

  // Board, PNG and SVG of tones, gradients and dots are held against each other in `kinds.spec`.
  expect((await got('SVG')).toString()).not.toMatch(/<mask|<pattern/);
});

test('a gradient is dragged over a black; it becomes a tone, which is turned', async ({ page, desk }) => {
  await openBoard(page, desk, HERON);
  await takeTexture(page, 'Blot');
  await mouseDraw(page, round(500, 300, 70));
  await expect.poll(async () => (await areasOn(desk, HERON)).length).toBe(1);
  await page.getByRole('button', { name: 'Gradient', exact: true }).click();
  await mouseDraw(page, line([440, 300], [560, 300]));
  await expect.poll(async () => (await areasOn(desk, HERON))[0].fill.as).toBe('gradient');
  const at = async (x: number) => (await pixels(page, ['ink'], { x, y: 300, width: 2, height: 2 }))[0];
  const [dark, half, light] = [await at(445), await at(500), await at(555)];
  expect(dark).toBeLessThan(60);
  expect(Math.abs(half - (20 + 255) / 2)).toBeLessThan(8);
  expect(light).toBeGreaterThan(230);

  await page.getByRole('button', { name: 'Tone', exact: true }).click();
  await page.mouse.click(500, 300);
  await expect.poll(async () => (await areasOn(desk, HERON))[0].fill.as).toBe('tone');
  await page.getByRole('radio', { name: 'Turn' }).click();
  await mouseDraw(page, line([550, 300], [500, 350]));
  await expect
    .poll(async () => {
      const [{ fill }] = await areasOn(desk, HERON);
      return fill.as === 'tone' ? fill.angle : 0;
    })
    .toBeGreaterThan(2);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await areasOn(desk, HERON))[0].fill.as).toBe('colour');
});
