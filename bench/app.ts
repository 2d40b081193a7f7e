import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page as Tab } from '@playwright/test';
import { Desk } from '../e2e/desk';
import { layFullPage, type FullPageOptions } from '../e2e/fullPage';

// The built app with the real server, for what is measured in a browser.

export const PATIENCE = { timeout: 60_000 };
export const rested = (tab: Tab): Promise<void> =>
  tab.locator('[data-testid=board][aria-busy=false]').waitFor(PATIENCE);

/** Does a work with a server of its own, which is gone afterwards; a failure ends the process. */
export function atDesk(work: (desk: Desk) => Promise<void>): void {
  const folder = mkdtempSync(join(tmpdir(), 'true-nib-bench-'));
  const run = async () => {
    const desk = await Desk.open(folder);
    process.on('exit', () => void desk.kill());
    await work(desk);
    await desk.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  void run().catch((error) => {
    console.error(error);
    process.exit(1);
  });
}

export const openBrowser = () =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });

/** Opens a page of so many strokes in a browser of its own. */
export async function onPage(
  desk: Desk,
  options: FullPageOptions,
  work: (tab: Tab) => Promise<void>,
  ratio = 1,
): Promise<void> {
  const id = await layFullPage(desk.address, 'demo-saltmarsh-ferry', options);
  const browser = await openBrowser();
  const viewport = ratio === 1 ? { width: 1280, height: 800 } : { width: 390, height: 844 };
  const tab = await browser.newPage({ viewport, deviceScaleFactor: ratio });
  tab.on('pageerror', (error) => console.error(error));
  await tab.addInitScript(() => {
    // A browser follows an event to the screen when it asks for a frame while it is handled.
    addEventListener('pointermove', () => requestAnimationFrame(() => undefined), true);
  });
  await tab.goto(`${desk.address}/page/${id}`);
  await rested(tab);
  await work(tab);
  await browser.close();
}
