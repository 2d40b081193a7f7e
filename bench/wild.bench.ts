import type { Page as Tab } from '@playwright/test';
import { seededRandom } from '@true-nib/core/math';
import { pixels, saved } from '../e2e/board';
import type { Desk } from '../e2e/desk';
import { Fingers, Pen, type Place } from '../e2e/hands';
import { atDesk, openBrowser, rested } from './app';

// A wild hand at the built app: it draws, presses and takes back whatever comes, each seed in its own way. Then the page must
// come back the same after a reload, all that was done must be undone and done again, and nothing may have complained.
// With TABS=2 it works in two tabs of one browser, which must come to show the same; with KILLS=1 the server dies now and then.
// npm run bench -- wild; PAGES=demo-quay,demo-depth SEEDS=1,2,3 STEPS=120 PHONE=1 pick what it does.

const PAGES = (process.env.PAGES ?? 'demo-quay,demo-depth').split(',');
const SEEDS = (process.env.SEEDS ?? '1,2,3').split(',').map(Number);
const STEPS = Number(process.env.STEPS ?? 80);
const isPhone = process.env.PHONE !== undefined;
const TABS = Number(process.env.TABS ?? 1);
const KILL = process.env.KILLS === undefined ? 0 : 0.04;
/** Colour steps and px by which two pictures of the same lines may differ: edges are counted otherwise in parts than whole. */
const MOST_OFF = 60;
const MOST_PX = 20;

const KEYS = [...[...'QWERTASDFGZXCVB'].map((letter) => `Key${letter}`), ...[...'123456'].map((n) => `Digit${n}`)];
const DEEDS = ['Enter', 'Escape', 'Delete', 'ArrowLeft', 'Control+z', 'Control+z', 'Control+Shift+z'].concat(
  [...'acvx'].map((letter) => `Control+${letter}`),
);
const STAGES = ['Rough', 'Guides', 'Ink', 'Ink', 'Mend', 'Mend', 'Finish'];
/** What leads off the page or asks for a file. */
const LEFT_ALONE = /^(Back to the folio|Bring in|Deliver|Import|Export|PNG|SVG)/;
const SEEN = isPhone ? { x: 5, y: 60, width: 380, height: 560 } : { x: 300, y: 60, width: 700, height: 690 };

type Random = () => number;
const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)];
const place = (random: Random): Place => [SEEN.x + random() * SEEN.width, SEEN.y + 20 + random() * (SEEN.height - 40)];

/** A bowed way of some places. */
function way(random: Random): Place[] {
  const [a, b, c] = [place(random), place(random), place(random)];
  const count = 2 + Math.floor(random() * 30);
  return Array.from({ length: count }, (_, k) => {
    const t = k / (count - 1);
    const at = (axis: 0 | 1) => (1 - t) ** 2 * a[axis] + 2 * t * (1 - t) * b[axis] + t * t * c[axis];
    return [at(0), at(1)];
  });
}

async function draw(tab: Tab, pen: Pen, fingers: Fingers, random: Random): Promise<string> {
  const places = way(random);
  const held = pick(random, ['', '', '', '', 'Shift', 'Alt']);
  if (held) await tab.keyboard.down(held);
  if (!isPhone || random() < 0.2) await pen.draw(places);
  else if (random() < 0.8) await fingers.draw(places);
  else await fingers.pinch([places[0], place(random)], [place(random), place(random)]);
  if (held) await tab.keyboard.up(held);
  return `draw ${places[0].map(Math.round)} ${places[places.length - 1].map(Math.round)} ${held}`;
}

async function pressSomething(tab: Tab, random: Random): Promise<string> {
  const things = tab.locator('[role=button]:visible, [role=radio]:visible, [role=switch]:visible');
  const thing = things.nth(Math.floor(random() * (await things.count())));
  const name =
    (await thing.getAttribute('aria-label', { timeout: 1_000 })) ?? (await thing.innerText({ timeout: 1_000 }));
  if (LEFT_ALONE.test(name)) return 'nothing';
  await (isPhone ? thing.tap({ timeout: 1_500 }) : thing.click({ timeout: 1_500 }));
  return `press ${name.replaceAll('\n', ' ')}`;
}

async function step(tab: Tab, pen: Pen, fingers: Fingers, random: Random): Promise<string> {
  const chance = random();
  if (chance < 0.4) return draw(tab, pen, fingers, random);
  if (chance < 0.72) {
    if (chance < 0.5) {
      const stage = pick(random, STAGES);
      await tab.getByRole('tab', { name: stage, exact: true }).click({ timeout: 3_000 });
      return stage;
    }
    const key = pick(random, chance < 0.62 ? KEYS : DEEDS);
    await tab.keyboard.press(key);
    return key;
  }
  return pressSomething(tab, random);
}

/** The inks as they are seen when the page fits and all is quiet. */
async function picture(tab: Tab): Promise<Uint8Array> {
  await tab.getByRole('tab', { name: 'Ink', exact: true }).click();
  await tab.keyboard.press('KeyF');
  await rested(tab);
  // Pixels of washes come a moment later.
  await tab.waitForLoadState('networkidle');
  await tab.waitForTimeout(500);
  return pixels(tab, ['ink'], SEEN);
}

function pxApart(a: Uint8Array, b: Uint8Array): number {
  let count = 0;
  for (let i = 0; i < a.length; i += 4) if (Math.abs(a[i] - b[i]) > MOST_OFF) count++;
  return count;
}

/** Presses undo or redo until there is nothing left, or often enough; answers how often. */
async function through(tab: Tab, name: 'Undo' | 'Redo', keys: string, most: number): Promise<number> {
  const button = tab.getByRole('button', { name, exact: true });
  let count = 0;
  for (; count < most && (await button.getAttribute('aria-disabled')) !== 'true'; count++) {
    await tab.keyboard.press(keys);
    await tab.waitForTimeout(60);
  }
  await saved(tab);
  return count;
}

/** One wild hand on a copy of a page; answers what went wrong. */
async function goWild(desk: Desk, page: string, seed: number): Promise<string[]> {
  const wrong: string[] = [];
  const done: string[] = [];
  const cry = (what: string) => wrong.push(`${what}, after ${done.slice(-6).join(' | ')}`);
  const copy = await fetch(`${desk.address}/api/pages/${page}/duplicate`, { method: 'POST' });
  const { id } = (await copy.json()) as { id: string };
  const browser = await openBrowser();
  const phone = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true };
  const context = await browser.newContext(isPhone ? phone : { viewport: { width: 1280, height: 800 } });
  const random = seededRandom(seed);
  const open = async (tab: Tab) => {
    await tab.goto(`${desk.address}/page/${id}`);
    await rested(tab);
  };
  const newHand = async () => {
    const tab = await context.newPage();
    tab.on('pageerror', ({ message }) => cry(`error: ${message}`));
    tab.on('dialog', (dialog) => void dialog.dismiss());
    await open(tab);
    return { tab, pen: await Pen.for(tab), fingers: await Fingers.for(tab) };
  };
  const hands = [await newHand()];
  while (hands.length < TABS) hands.push(await newHand());
  const [{ tab }] = hands;
  const room = async (of: Tab = tab) => (await of.getByTestId('board').boundingBox())?.width;
  const [start, roomAtStart] = [await picture(tab), await room()];
  let isUp = true;
  for (let k = 0; k < STEPS; k++) {
    const hand = TABS > 1 ? pick(random, hands) : hands[0];
    // What cannot be pressed just now is let be.
    done.push(await step(hand.tab, hand.pen, hand.fingers, random).catch(() => 'Escape'));
    if (done[k] === 'Escape') await hand.tab.keyboard.press('Escape');
    if (KILL > 0 && random() < (isUp ? KILL : 3 * KILL)) {
      await (isUp ? desk.kill() : desk.start());
      isUp = !isUp;
      done[k] += isUp ? ' (the server is back)' : ' (the server is gone)';
    }
    if (hand.tab.url().includes(id)) continue;
    cry(`left for ${hand.tab.url()}`);
    await open(hand.tab);
  }
  if (!isUp) await desk.start();
  for (const { tab: one } of hands) {
    for (const key of ['Escape', 'Escape', 'Enter']) await one.keyboard.press(key);
    await saved(one);
  }
  const same = async (what: string, other: Uint8Array) => {
    const apart = pxApart(await picture(tab), other);
    // A column that was folded meanwhile moves the page.
    if (apart > MOST_PX && (await room()) === roomAtStart) cry(`${apart} px differ ${what}`);
  };
  const seen: { readonly was: Uint8Array; readonly width: number | undefined }[] = [];
  for (const { tab: one } of hands) seen.push({ was: await picture(one), width: await room(one) });
  await open(tab);
  const then = await picture(tab);
  for (const [k, { was, width }] of seen.entries())
    if (width === (await room())) await same(`between tab ${k + 1} and what it is when opened anew`, was);
  await open(tab);
  await same('after a reload', then);
  const steps = await through(tab, 'Undo', 'Control+z', 400);
  await same(`after ${steps} steps back`, start);
  await through(tab, 'Redo', 'Control+Shift+z', steps);
  await same(`after ${steps} steps back and forth`, then);
  await browser.close();
  return wrong;
}

atDesk(async (desk) => {
  for (const page of PAGES)
    for (const seed of SEEDS) {
      const wrong = await goWild(desk, page, seed);
      console.log(`  wild hand ${seed} on ${page}: ${wrong.length === 0 ? 'all is well' : wrong.join('\n    ')}`);
      if (wrong.length > 0) process.exitCode = 1;
    }
});
