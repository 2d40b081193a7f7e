import { drawStroke } from '@true-nib/core/ink';
import { seededRandom } from '@true-nib/core/math';
import {
  newLayer,
  ordersBetween,
  pack,
  packSamples,
  PACKED_TYPE,
  type Edit,
  type Nib,
  type StrokeEntity,
} from '@true-nib/core/page';
import type { Page } from '@playwright/test';
import { ask, darkCount, pixels, rested, saved } from './board';
import { expect, test, type Desk } from './desk';
import { along, line, mouseDraw, Pen } from './hands';

const STROKES = 20_000;
const SIZE = { width: 3300, height: 4200, ppi: 300 };
const BOARD = { x: 300, y: 80, width: 700, height: 640 };
const nib: Nib = { name: 'Pressure nib', size: 10, thinnest: 0.2, taperIn: 0, taperOut: 0, color: '#14161a' };

/** Some hundred drawn strokes of sixty samples, each laid down many times over the page. */
function fullPage(): Edit[] {
  const random = seededRandom(11);
  const hands = Array.from({ length: 200 }, () => {
    const [turn, bend] = [random() * 7, (random() - 0.5) * 0.08];
    const samples = Array.from({ length: 60 }, (_, j) => ({
      x: 3 * j * Math.cos(turn + bend * j),
      y: 3 * j * Math.sin(turn + bend * j),
      pressure: 0.3 + 0.5 * random(),
    }));
    return { packed: packSamples(samples), drawn: drawStroke(samples, nib, { way: 'even', strength: 30 }) };
  });
  return ordersBetween(undefined, undefined, STROKES).flatMap((order, k) => {
    const { packed, drawn } = hands[k % hands.length];
    const [dx, dy] = [random() * SIZE.width, random() * SIZE.height];
    const points = drawn.spine.points.map((value, i) => (i % 3 === 0 ? value + dx : i % 3 === 1 ? value + dy : value));
    const stroke: StrokeEntity = {
      ...{ kind: 'stroke', id: `s${k}`, layerId: 'inks', order, nib, ends: drawn.ends },
      spine: { points, closed: false },
      origin: { samples: `h${k}`, calm: { way: 'even', strength: 30 }, zoom: 1, matrix: [1, 0, 0, 1, dx, dy] },
    };
    return [
      { before: null, after: { kind: 'samples', id: `h${k}`, packed } },
      { before: null, after: stroke },
    ];
  });
}

async function layFullPage(desk: Desk): Promise<string> {
  const made = await fetch(`${desk.address}/api/pages`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ folioId: 'demo-saltmarsh-ferry', name: 'Full page', ...SIZE }),
  });
  const { id } = (await made.json()) as { id: string };
  const inks = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });
  const edits: Edit[] = [{ before: null, after: inks }, ...fullPage()];
  const each = 4_000;
  for (let from = 0; from < edits.length; from += each) {
    const change = { id: `c${from}`, by: 'me', label: 'Lay', at: 1, needs: [], edits: edits.slice(from, from + each) };
    const body = new Uint8Array(pack({ since: from / each, changes: [change] }));
    const answer = await fetch(`${desk.address}/api/pages/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': PACKED_TYPE },
      body,
    });
    expect(answer.status).toBe(200);
  }
  return id;
}

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
  const id = await layFullPage(desk);
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
  await saved(page);
  await page.reload();
  await rested(page);
  await expect.poll(async () => Math.abs((await dark()) - before) / before).toBeLessThan(0.01);
});
