import type { Page as Tab } from '@playwright/test';
import { frameFromPoints, type FrameGrid, type GuideEntity, type GuideShape } from '@true-nib/core/guides';
import { opening } from '../apps/web/src/render/view';
import { FULL_SIZE, type FullPageOptions } from '../e2e/fullPage';
import { along, Pen, type Place } from '../e2e/hands';
import { inDepth } from '../e2e/perspective';
import { atDesk, onPage } from './app';
import { LATENCY_CATEGORIES, latenciesIn, movesIn, type Latency } from './latency';
import { longTasksIn, ranIn, tasksInWords } from './tasks';
import { noise, processorTimes } from './timing';
import { traced } from './trace';

// How long what a hand does takes to be seen, sixty times a second, by the browser's own trace. WHAT=wheel picks one.

/** ms between two events, of which 120 make a deed, done so many times. */
const BEAT = 1000 / 60;
const EVENTS = 120;
const TIMES = 3;
/** Two frames, ms. */
const TWO_FRAMES = 2 * BEAT;

const guide = (id: string, shape: GuideShape, tethers = false): GuideEntity => ({
  ...{ kind: 'guide', id, order: 'a0', name: id, seen: true, acting: true, locked: false, tethers },
  ...{ reach: 'all', hue: 0, shape },
});
const wheel: GuideShape = { kind: 'wheel', x: 1650, y: 2100, angle: 0, sectors: 24, reflects: false, joins: false };
const grid: FrameGrid = { step: 60, reach: 200, fade: 0.5, hue: 0, snaps: false };
const corners = { left: [300, 1600, 1], right: [3000, 1600, 1], height: [0, 1, 0] } as const;
const bare = frameFromPoints(corners, FULL_SIZE, { grids: {} });
const gridded = frameFromPoints(corners, FULL_SIZE, { grids: { left: grid, right: grid, floor: grid } });

/** Page px to CSS px of the window, as a page opens. */
async function onBoard(tab: Tab): Promise<(x: number, y: number) => Place> {
  const box = await tab.getByTestId('board').boundingBox();
  if (!box) throw new Error('The board is not there.');
  const [scale, , , , dx, dy] = opening(FULL_SIZE, box);
  return (x, y) => [box.x + scale * x + dx, box.y + scale * y + dy];
}

/** A hand that moves in its time, whether what it does is seen or not. */
async function steadily(tab: Tab, pen: Pen, places: readonly Place[]): Promise<void> {
  await pen.down(places[0]);
  const start = Date.now();
  for (const [k, place] of places.slice(1).entries()) {
    const wait = start + BEAT * (k + 1) - Date.now();
    if (wait > 0) await tab.waitForTimeout(wait);
    void pen.move([place]);
  }
  await tab.waitForTimeout(200);
  await pen.up(places[places.length - 1]);
  await tab.waitForTimeout(600);
}

const share = (times: readonly number[], part: number): string =>
  ([...times].sort((a, b) => a - b)[Math.floor((times.length - 1) * part)] ?? NaN).toFixed(0);

function tell(
  what: string,
  all: readonly Latency[],
  tasks: string,
  ran: number,
  since: ReturnType<typeof processorTimes>,
): void {
  const painted = all.map((one) => one.painted);
  const shown = all.map((one) => one.shown);
  const late = (100 * painted.filter((ms) => ms > TWO_FRAMES).length) / painted.length;
  console.log(
    `${what}: painted after ${share(painted, 0.5)} ms in the median, p95 ${share(painted, 0.95)} (${late.toFixed(0)} % later than two frames); ` +
      `on the screen after ${share(shown, 0.5)}, p95 ${share(shown, 0.95)} (${all.length} events${noise(since)}); ` +
      `the main thread ran ${(ran / (TIMES * EVENTS)).toFixed(1)} ms an event, tasks: ${tasks}`,
  );
}

interface Deed {
  readonly name: string;
  readonly what: string;
  readonly page: FullPageOptions;
  /** Where the hand goes, page px. */
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  /** Takes the guide in hand that is dragged. */
  readonly take?: (tab: Tab) => Promise<void>;
}

const line = { from: [1900, 2200], to: [2700, 2900] } as const;
const takeFrame = (tab: Tab) => inDepth(tab, 'Frame');
const point = { from: [3000, 1600], to: [2700, 1600], take: takeFrame } as const;
async function takeRails(tab: Tab): Promise<void> {
  await tab.getByRole('tab', { name: 'Guides' }).click();
  await tab.getByRole('button', { name: 'Take Rails in hand' }).click();
}
const rails: GuideShape = { kind: 'rails', x: 1650, y: 2100, angle: Math.PI / 4 };
const deeds: readonly Deed[] = [
  { name: 'line', what: 'a line over 20,000', page: {}, ...line },
  { name: 'wheel', what: 'a line in a wheel of 24', page: { count: 1, guides: [guide('Wheel', wheel)] }, ...line },
  {
    ...{ name: 'grids', what: 'dragging a point of three full grids', ...point },
    page: { count: 1, guides: [guide('Frame', gridded)] },
  },
  {
    ...{ name: 'tethers', what: 'dragging a point that holds 5,000 lines', ...point },
    page: {
      ...{ count: 5_000, guides: [guide('Frame', bare, true)] },
      heldBy: { id: 'Frame', path: { kind: 'line', x: 100, y: 100, dx: 1, dy: 0 } },
    },
  },
  {
    ...{ name: 'rails', what: 'dragging rails that hold 2,000 lines', take: takeRails },
    ...{ from: [1650, 2100], to: [1800, 2300] },
    page: {
      ...{ count: 2_000, guides: [guide('Rails', rails, true)] },
      heldBy: { id: 'Rails', path: { kind: 'line', x: 100, y: 100, dx: Math.SQRT1_2, dy: Math.SQRT1_2 } },
    },
  },
];

atDesk(async (desk) => {
  for (const { name, what, page, from, to, take } of deeds) {
    if (process.env.WHAT && process.env.WHAT !== name) continue;
    await onPage(desk, page, async (tab) => {
      const on = await onBoard(tab);
      const pen = await Pen.for(tab);
      await take?.(tab);
      await tab.waitForTimeout(500);
      const since = processorTimes();
      const all: Latency[] = [];
      const tasks: ReturnType<typeof longTasksIn> = [];
      let ran = 0;
      for (let k = 0; k < TIMES; k++) {
        // There and back, so that a point can be taken hold of anew.
        const [a, b] = k % 2 === 0 ? [from, to] : [to, from];
        const places = along((t) => {
          const [x, y] = on(a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]));
          return [x, y + (t > 0 && t < 1 ? 4 * Math.sin(24 * t) : 0)];
        }, EVENTS);
        const events = await traced(tab, ['toplevel', ...LATENCY_CATEGORIES], () => steadily(tab, pen, places));
        all.push(...latenciesIn(events));
        tasks.push(...longTasksIn(events));
        ran += ranIn(events, movesIn(events));
      }
      tell(what, all, tasksInWords(tasks), ran, since);
    });
  }
});
