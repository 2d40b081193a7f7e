import type { Page as Tab } from '@playwright/test';
import { ask, openBoard } from './board';
import { expect, type Desk } from './desk';
import { linesOn } from './guides';
import { along, Fingers, line, mouseDraw, Pen, type Place } from './hands';

const HERON = 'demo-heron';

export const HANDS = ['finger', 'mouse', 'pen'] as const;

async function drawer(tab: Tab, hand: (typeof HANDS)[number]): Promise<(places: readonly Place[]) => Promise<void>> {
  if (hand === 'mouse') return (places) => mouseDraw(tab, places);
  if (hand === 'finger') {
    const fingers = await Fingers.for(tab);
    return (places) => fingers.draw(places);
  }
  const pen = await Pen.for(tab);
  return (places) => pen.draw(places, () => 0.5);
}

/**
 * Every mending tool does its deed on two lines that cross, in one hand: the journal names each deed, in order, and each
 * has changed what lies on the page. `area` is where it is drawn, CSS px; `take` takes a mending tool, `lens` sets Re-weigh.
 */
export async function mendWithEveryTool(
  tab: Tab,
  desk: Desk,
  hand: (typeof HANDS)[number],
  area: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  { take, lens }: { readonly take: (tool: string) => Promise<void>; readonly lens: () => Promise<void> },
): Promise<void> {
  await openBoard(tab, desk, HERON);
  const draw = await drawer(tab, hand);
  const on = (u: number, v: number): Place => [area.x + u * area.width, area.y + v * area.height];
  await draw(line(on(0.05, 0.5), on(0.95, 0.5), 30));
  await draw(line(on(0.5, 0.05), on(0.5, 0.9), 30));
  await linesOn(desk, HERON, 2);
  const touch = (at: Place) => draw([at, at]);
  const deeds: readonly (readonly [tool: string, label: RegExp, work: () => Promise<void>])[] = [
    ['Tug', /^Tug$/, () => draw(line(on(0.22, 0.5), on(0.22, 0.4), 10))],
    [
      'Retrace',
      /^Retrace$/,
      () => draw(along((t): Place => on(0.5 + 0.06 * Math.sin(Math.PI * t), 0.12 + 0.25 * t), 24)),
    ],
    ['Re-weigh', /^Re-weigh$/, () => lens().then(() => draw(line(on(0.5, 0.6), on(0.5, 0.85), 20)))],
    ['Swell', /^Swell or pare$/, () => draw(line(on(0.62, 0.5), on(0.75, 0.5), 24))],
    [
      'Knife',
      /^Pare with the knife$/,
      () =>
        draw([
          ...line(on(0.88, 0.42), on(0.99, 0.42), 8),
          ...line(on(0.99, 0.58), on(0.88, 0.58), 8),
          ...line(on(0.88, 0.58), on(0.88, 0.42), 8),
        ]),
    ],
    ['Snip', /^Snip$/, () => touch(on(0.5, 0.7))],
    ['Lift', /^Lift$/, () => touch(on(0.7, 0.5))],
  ];
  let before = JSON.stringify(await linesOn(desk, HERON, 2));
  for (const [k, [tool, , work]] of deeds.entries()) {
    await take(tool);
    await work();
    await expect.poll(() => labels(desk), tool).toEqual(['Stroke', 'Stroke', ...told(deeds.slice(0, k + 1))]);
    const after = JSON.stringify(await linesOn(desk, HERON, tool === 'Lift' ? 1 : 2));
    expect(after).not.toBe(before);
    before = after;
  }

  function told(done: typeof deeds): unknown[] {
    return done.map(([, label]) => expect.stringMatching(label) as unknown);
  }
}

async function labels(desk: Desk): Promise<string[]> {
  const answer = await ask(desk, `/api/pages/${HERON}/changes?only=headers`);
  const { changes } = (await answer.json()) as { changes: { label: string }[] };
  const first = changes.findIndex(({ label }) => label === 'Stroke');
  return changes.slice(first).map(({ label }) => label);
}
