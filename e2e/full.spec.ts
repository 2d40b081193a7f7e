import type { Page } from '@playwright/test';
import { ask, darkCount, pixels, rested, saved } from './board';
import { expect, test, type Desk } from './desk';
import { layFullPage } from './fullPage';
import { along, line, mouseDraw, Pen } from './hands';

const BOARD = { x: 300, y: 80, width: 700, height: 640 };
const labels = async (desk: Desk, id: string): Promise<string[]> => {
  const answer = await ask(desk, `/api/pages/${id}/changes?only=headers`);
  return ((await answer.json()) as { changes: { label: string }[] }).changes.map(({ label }) => label);
};

/** Looks at the ink in every frame while `work` goes on: the least and the most there was of it. */
async function watched(
  page: Page,
  work: () => Promise<void>,
): Promise<{ least: number; most: number; frames: number }> {
  await page.evaluate(() => {
    const ink = document.querySelector<HTMLCanvasElement>('canvas[data-layer="ink"]');
    const probe = document.createElement('canvas').getContext('2d', { willReadFrequently: true });
    const seen: number[] = [];
    Object.assign(window, { seen, isWatching: true });
    const look = () => {
      if (ink && probe) {
        probe.canvas.width = probe.canvas.height = 64;
        probe.drawImage(ink, 0, 0, 64, 64);
        const { data } = probe.getImageData(0, 0, 64, 64);
        seen.push(data.reduce((sum, value, i) => (i % 4 === 3 ? sum + value : sum), 0));
      }
      if ((window as unknown as { isWatching: boolean }).isWatching) requestAnimationFrame(look);
    };
    look();
  });
  await work();
  return page.evaluate(() => {
    const { seen } = window as unknown as { seen: number[] };
    Object.assign(window, { isWatching: false });
    return { least: Math.min(...seen), most: Math.max(...seen), frames: seen.length };
  });
}

test('a page of 20,000 strokes opens, moves without a blank frame, takes ink, is selected, and is whole after a reload', async ({
  page,
  desk,
}, info) => {
  test.setTimeout(420_000);
  const id = await layFullPage(desk.address, 'demo-saltmarsh-ferry');
  await page.addInitScript(() => {
    const long: number[] = [];
    Object.assign(window, { long });
    new PerformanceObserver((list) =>
      long.push(...list.getEntries().map((entry) => Math.round(entry.duration))),
    ).observe({
      entryTypes: ['longtask'],
    });
  });
  const longest = (what: string) =>
    page
      .evaluate(() => (window as unknown as { long: number[] }).long.splice(0))
      .then((long) =>
        info.annotations.push({ type: 'longest tasks, ms', description: `${what}: ${long.join(' ') || 'none'}` }),
      );
  const start = Date.now();
  await page.goto(`${desk.address}/page/${id}`);
  await rested(page);
  info.annotations.push({ type: 'opened', description: `${Date.now() - start} ms` });
  await longest('open');
  const dark = () => pixels(page, ['ink', 'live'], BOARD).then(darkCount);
  expect(await dark()).toBeGreaterThan(20_000);

  await page.mouse.move(650, 400);
  // Little enough that most of the page stays in view: what is missing then is a blank frame.
  const moved = await watched(page, async () => {
    await page.keyboard.down('Shift');
    for (let k = 0; k < 16; k++) await page.mouse.wheel(0, k < 8 ? 20 : -20);
    await page.keyboard.up('Shift');
    await page.keyboard.down('Alt');
    for (let k = 0; k < 16; k++) await page.mouse.wheel(0, k < 8 ? 60 : -60);
    await page.keyboard.up('Alt');
    for (let k = 0; k < 8; k++) await page.mouse.wheel(0, k < 4 ? -60 : 60);
    await rested(page);
  });
  expect(moved.frames).toBeGreaterThan(5);
  expect(moved.least, `of ${moved.most}`).toBeGreaterThan(0.4 * moved.most);
  await longest('pan, turn and zoom');

  // A line is laid down, saved, and taken back.
  const pen = await Pen.for(page);
  await page.getByRole('button', { name: 'Paper white' }).click();
  await pen.draw(line([400, 300], [900, 320]), () => 1);
  await expect.poll(async () => (await labels(desk, id)).at(-1)).toBe('Stroke');
  await longest('a stroke');

  // A loop finds its lines; they are deleted and brought back.
  await page.keyboard.press('4');
  const before = await dark();
  await mouseDraw(
    page,
    along((t) => [650 + 130 * Math.cos(6.3 * t), 420 + 130 * Math.sin(6.3 * t)], 40),
  );
  await expect(page.getByTestId('selected')).toHaveText(/^\d[\d,]* lines$/);
  await longest('a loop');
  await page.keyboard.press('Delete');
  await expect.poll(dark).toBeLessThan(before - 2_000);
  await page.keyboard.press('Control+z');
  await rested(page);
  await expect.poll(dark).toBe(before);

  // All of them are moved: done in parts, kept as one step, and taken back as one.
  await page.keyboard.press('Control+a');
  await expect(page.getByTestId('selected')).toHaveText(/^20,\d{3} lines$/);
  for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  const moves = () => labels(desk, id).then((all) => all.filter((label) => label === 'Transform').length);
  await expect.poll(moves).toBe(1);
  await longest('moving 20,000 lines');
  await page.keyboard.press('Control+z');
  await expect.poll(moves).toBe(2);
  await rested(page);
  await expect.poll(dark).toBe(before);
  await saved(page);
  await page.reload();
  await rested(page);
  await expect.poll(async () => Math.abs((await dark()) - before) / before).toBeLessThan(0.01);
});

test('what the fade of a layer does is seen while a hand goes on scrubbing it, however long the painter takes', async ({
  page,
  desk,
}) => {
  test.setTimeout(180_000);
  const id = await layFullPage(desk.address, 'demo-saltmarsh-ferry', { count: 8_000, layers: 2 });
  await page.goto(`${desk.address}/page/${id}`);
  await rested(page);
  const fade = page.getByRole('spinbutton', { name: 'Fade' });
  const box = await fade.boundingBox();
  if (!box) throw new Error('There is no fade.');
  const [x, y] = [box.x + 200, box.y + 20];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 20, y);
  let looks = 0;
  await watched(page, async () => {
    // In every frame, by the page itself, so that the hand never rests: each move asks for another picture before the last came.
    looks = await page.evaluate(
      async ([from, height]) => {
        const { seen } = window as unknown as { seen: number[] };
        const end = performance.now() + 40_000;
        for (let k = 0; performance.now() < end && new Set(seen).size < 5; k++) {
          const at = { clientX: from - 20 - (k % 100), clientY: height, buttons: 1, bubbles: true };
          document.elementFromPoint(from, height)?.dispatchEvent(new MouseEvent('mousemove', at));
          await new Promise(requestAnimationFrame);
        }
        return new Set(seen).size;
      },
      [x, y] as const,
    );
  });
  expect(looks).toBeGreaterThanOrEqual(5);
  // The number goes along with the hand, too.
  await expect(fade).not.toHaveAttribute('aria-valuenow', '100');
  await page.mouse.up();
  await saved(page);
  expect(await labels(desk, id)).toContain('Fade the layer');
});
