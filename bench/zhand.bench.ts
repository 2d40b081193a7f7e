
import type { Page as Tab } from '@playwright/test';
import { atDesk, onPage, rested } from './app';
import { Pen, along, line, type Place } from '../e2e/hands';
import { longTasksIn, tasksInWords, ranIn } from './tasks';
import { movesIn, latenciesIn, LATENCY_CATEGORIES } from './latency';
import { traced } from './trace';
const BEAT = 1000 / 60;
async function steadily(tab: Tab, pen: Pen, places: readonly Place[]) {
  await pen.down(places[0]);
  const start = Date.now();
  for (const [k, place] of places.slice(1).entries()) { const wait = start + BEAT * (k + 1) - Date.now(); if (wait > 0) await tab.waitForTimeout(wait); void pen.move([place]); }
  await tab.waitForTimeout(300);
  await pen.up(places[places.length - 1]);
  await tab.waitForTimeout(1200);
}
async function deed(tab: Tab, what: string, work: () => Promise<unknown>, n = 120) {
  const events = await traced(tab, ['toplevel', ...LATENCY_CATEGORIES], work);
  const lat = latenciesIn(events).map((l) => l.painted).sort((a, b) => a - b);
  let ran = NaN; try { ran = ranIn(events, movesIn(events)) / n; } catch {}
  console.log(`${what}: painted ${lat[lat.length >> 1]?.toFixed(0)} p95 ${lat[Math.floor(lat.length * 0.95)]?.toFixed(0)} (${lat.length}); main ${ran.toFixed(1)} an event; ${tasksInWords(longTasksIn(events))}`);
}
atDesk(async (desk) => {
  await onPage(desk, { count: 20000 }, async (tab) => {
    const pen = await Pen.for(tab);
    const wave = along((t): Place => [450 + 400 * t, 400 + 60 * Math.sin(9 * t)], 121);
    await tab.getByRole('tab', { name: 'Mend' }).click();
    const tools = (process.env.TOOLS ?? 'Tug,Retrace,Re-weigh,Swell,Snip').split(',');
    for (const name of tools) {
      const b = tab.getByRole('button', { name, exact: true });
      if (!(await b.count())) { console.log('no', name); continue; }
      await b.first().click(); await tab.waitForTimeout(600);
      await deed(tab, name, () => steadily(tab, pen, wave));
      await tab.keyboard.press('Escape'); await tab.keyboard.press('Control+z'); await tab.waitForTimeout(600);
    }
    await tab.getByRole('tab', { name: 'Ink' }).click();
    await tab.getByRole('button', { name: 'Select', exact: true }).click();
    await tab.keyboard.press('Control+a');
    await tab.getByText(/20,000 lines/).first().waitFor({ timeout: 20000 }).catch(() => undefined);
    await tab.waitForTimeout(1500);
    await tab.screenshot({ path: '/tmp/zsel.png' });
    await deed(tab, 'drag 20,000 selected', () => steadily(tab, pen, wave));
    await tab.keyboard.press('Escape'); await tab.waitForTimeout(800);
    await tab.keyboard.press('Escape'); await tab.waitForTimeout(800);
  });
});
