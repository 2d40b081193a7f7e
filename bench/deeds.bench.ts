import type { Page as Tab } from '@playwright/test';
import { along, line, mouseDraw, Pen, type Place } from '../e2e/hands';
import { atDesk, onPage, PATIENCE, rested } from './app';
import { profiled } from './profiled';
import { isAnyOver, longTasksIn, tasksInWords } from './tasks';
import { noise, processorTimes } from './timing';
import { traced } from './trace';

const saved = (tab: Tab) =>
  tab
    .getByTestId('save-state')
    .filter({ hasText: /(^|· )saved$/ })
    .waitFor(PATIENCE);

// Every deed is done on full pages in the built app, with the real server: what counts is the longest task of the main thread.
// The server, the browser and its workers share the same processors: a task that waits for one is long, but holds nothing up itself.
// PAGES="full one" picks pages, DEED=words deeds to be told, PROFILE=1 says in which functions long tasks were.

const only = process.env.DEED;

/** Does a deed in the app, and tells which tasks of the main thread took long. */
async function deed(tab: Tab, what: string, work: () => Promise<unknown>): Promise<void> {
  if (only && !what.includes(only)) {
    await work();
    return;
  }
  if (process.env.PROFILE) return profiled(tab, what, work);
  const start = Date.now();
  const before = processorTimes();
  const events = await traced(tab, ['toplevel'], async () => {
    await work();
    // What the deed leaves to do: saving, thumbnails.
    await tab.waitForTimeout(800);
  });
  const tasks = longTasksIn(events);
  const all = `${Date.now() - start - 800} ms in all${noise(before)}`;
  console.log(`${what}: ${tasksInWords(tasks)} (${all})${isAnyOver(tasks) ? '  OVER' : ''}`);
}

/** Each place waits for the one before it, as when a hand takes its time. */
async function slowly(pen: Pen, places: readonly Place[]): Promise<void> {
  await pen.down(places[0]);
  for (const place of places.slice(1)) await pen.move([place]);
  await pen.up(places[places.length - 1]);
}

const loop = ([x, y]: Place, radius: number) =>
  along((t) => [x + radius * Math.cos(6.3 * t), y + radius * Math.sin(6.3 * t)], 40);
const waitForLines = (tab: Tab) => tab.getByTestId('selected').filter({ hasText: /lines/ }).waitFor(PATIENCE);

async function fullPage(tab: Tab): Promise<void> {
  await tab.mouse.move(650, 400);
  await deed(tab, 'wheel zoom, 20,000 lines', async () => {
    for (let k = 0; k < 24; k++) await tab.mouse.wheel(0, k < 12 ? -60 : 60);
    await rested(tab);
  });
  const pen = await Pen.for(tab);
  await deed(tab, 'a line over 20,000', () => pen.draw(line([400, 300], [900, 320], 80)));
  await tab.keyboard.press('w');
  await deed(tab, 'rubbing across 20,000 lines', () => slowly(pen, line([400, 350], [900, 380], 60)));
  await deed(tab, 'undoing the rub', () => tab.keyboard.press('Control+z').then(() => saved(tab)));
  await tab.keyboard.press('4');
  await deed(tab, 'a loop round some 3,000 lines', async () => {
    await mouseDraw(tab, loop([650, 420], 150));
    await waitForLines(tab);
  });
  await deed(tab, 'deleting them', () => tab.keyboard.press('Delete').then(() => saved(tab)));
  await deed(tab, 'undoing that', () => tab.keyboard.press('Control+z').then(() => saved(tab)));
  await mouseDraw(tab, loop([650, 420], 150));
  await waitForLines(tab);
  await deed(tab, 'moving them by keys', async () => {
    for (let k = 0; k < 4; k++) await tab.keyboard.press('ArrowRight');
    await tab.keyboard.press('Enter');
    await saved(tab);
  });
  await tab.keyboard.press('Escape');
  await tab.getByRole('radio', { name: 'Touch', exact: true }).click();
  await deed(tab, 'selecting by a touch across 20,000 lines', async () => {
    await slowly(pen, line([400, 300], [900, 560], 80));
    await waitForLines(tab);
  });
  await tab.keyboard.press('Escape');
  await deed(tab, 'selecting 20,000 lines', async () => {
    await tab.keyboard.press('Control+a');
    await waitForLines(tab);
  });
  await deed(tab, 'moving 20,000 lines by keys', async () => {
    for (let k = 0; k < 4; k++) await tab.keyboard.press('ArrowRight');
    await tab.keyboard.press('Enter');
    await saved(tab);
  });
}

/** What a hand does to lines in the middle of a full page. */
async function handsOn(tab: Tab): Promise<void> {
  const pen = await Pen.for(tab);
  await tab.getByRole('tab', { name: 'Mend' }).click();
  for (const name of ['Tug', 'Retrace', 'Re-weigh', 'Swell']) {
    await tab.getByRole('button', { name, exact: true }).click();
    await deed(tab, `${name} across 20,000 lines`, () => slowly(pen, line([450, 400], [850, 440], 60)));
    await tab.keyboard.press('Control+z');
    await saved(tab);
  }
}

async function manyLayers(tab: Tab): Promise<void> {
  await tab.getByRole('button', { name: 'Merge', exact: true }).click();
  await deed(tab, 'merging 20 layers of 5,000 lines', async () => {
    await tab.getByRole('button', { name: 'All seen' }).click();
    await saved(tab);
    await tab.waitForTimeout(500);
    await saved(tab);
  });
  await deed(tab, 'undoing that (merge)', () => tab.keyboard.press('Control+z').then(() => saved(tab)));
}

async function oneLayer(tab: Tab): Promise<void> {
  await tab
    .getByRole('button', { name: /Inks, Ink/ })
    .first()
    .click();
  await tab.getByRole('button', { name: 'All lines of this layer' }).click();
  const nibs = tab.getByRole('radiogroup', { name: 'Nib of all lines' });
  await deed(tab, 'another nib for 5,000 lines', () =>
    nibs
      .getByRole('radio')
      .nth(1)
      .click()
      .then(() => rested(tab)),
  );
  await deed(tab, 'their own nibs again', () =>
    nibs
      .getByRole('radio')
      .nth(0)
      .click()
      .then(() => rested(tab)),
  );
  const edges = tab.getByRole('radiogroup', { name: 'Edge' });
  await deed(tab, 'a hard edge', () =>
    edges
      .getByRole('radio')
      .nth(1)
      .click()
      .then(() => rested(tab)),
  );
  await deed(tab, 'a soft edge', () =>
    edges
      .getByRole('radio')
      .nth(0)
      .click()
      .then(() => rested(tab)),
  );
  await tab.getByRole('tab', { name: 'Mend' }).click();
  const pen = await Pen.for(tab);
  await deed(tab, 'hovering with Snip over 5,000 lines', async () => {
    for (const [x, y] of line([420, 200], [880, 560], 60)) await tab.mouse.move(x, y);
  });
  await deed(tab, 'snipping across 5,000 lines', () => slowly(pen, line([420, 400], [880, 430], 60)));
  await deed(tab, 'undoing that (snip)', () => tab.keyboard.press('Control+z').then(() => saved(tab)));
  await tab.getByRole('button', { name: 'Tidy ends' }).first().click();
  await deed(tab, 'planning to tidy the ends of 5,000 lines', () =>
    tab
      .getByTestId('plan')
      .filter({ hasText: /to tidy/ })
      .waitFor(PATIENCE),
  );
  await deed(tab, 'tidying them', async () => {
    await tab.getByRole('button', { name: 'Tidy ends', exact: true }).last().click();
    await tab.waitForTimeout(1500);
    await saved(tab);
  });
}

const which = (process.env.PAGES ?? 'full hands layers one phone').split(' ');
atDesk(async (desk) => {
  if (which.includes('full')) await onPage(desk, {}, fullPage);
  if (which.includes('hands')) await onPage(desk, {}, handsOn);
  if (which.includes('layers')) await onPage(desk, { count: 5_000, layers: 20 }, manyLayers);
  if (which.includes('one')) await onPage(desk, { count: 5_000 }, oneLayer);
  if (which.includes('phone'))
    await onPage(
      desk,
      {},
      async (tab) => {
        await tab.mouse.move(190, 300);
        await deed(tab, 'wheel zoom at pixel ratio 3, 20,000 lines', async () => {
          for (let k = 0; k < 24; k++) await tab.mouse.wheel(0, k < 12 ? -60 : 60);
          await rested(tab);
        });
      },
      3,
    );
});
