import type { Page as Tab } from '@playwright/test';
import { flattenSpine } from '@true-nib/core/curve';
import type { GuideEntity } from '@true-nib/core/guides';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { countStrokes, onServer, strokesOf } from './board';
import { expect, type Desk } from './desk';

/** Takes the kind of guide in hand that the next drag lays down, on the wide board. */
export async function layNext(tab: Tab, kind: string): Promise<void> {
  await tab.getByRole('tab', { name: 'Guides' }).click();
  await tab.getByRole('radiogroup', { name: 'Lay down' }).getByRole('radio', { name: kind, exact: true }).click();
}

/** Waits until the server has so many guides, and answers them in the order of their list. */
export async function guidesOn(desk: Desk, pageId: string, count: number): Promise<GuideEntity[]> {
  const all = async () =>
    [...(await onServer(desk, pageId)).entities].filter((entity): entity is GuideEntity => entity.kind === 'guide');
  await expect.poll(async () => (await all()).length).toBe(count);
  return (await all()).sort((a, b) => (a.order < b.order ? -1 : 1));
}

/** Waits until the server has so many lines, and answers them from the first to the last. */
export async function linesOn(desk: Desk, pageId: string, count: number): Promise<StrokeEntity[]> {
  await expect.poll(() => countStrokes(desk, pageId)).toBe(count);
  return strokesOf(await onServer(desk, pageId)).sort((a, b) => (a.order < b.order ? -1 : 1));
}

/** The angle between the ends of a line, radians. */
export function angleOf({ spine: { points } }: StrokeEntity): number {
  return Math.atan2(points[points.length - 2] - points[1], points[points.length - 3] - points[0]);
}

/** The greatest distance of a line from the straight way between its ends, page px. */
export function bendOf({ spine }: StrokeEntity): number {
  const p = flattenSpine(spine, 0.01);
  const [x, y] = [p[p.length - 3] - p[0], p[p.length - 2] - p[1]];
  let most = 0;
  for (let i = 3; i < p.length; i += 3)
    most = Math.max(most, Math.abs((p[i] - p[0]) * y - (p[i + 1] - p[1]) * x) / Math.hypot(x, y));
  return most;
}

/** Types a number into a setting: it is a field once it was touched. */
export async function setNumber(tab: Tab, name: string, value: number): Promise<void> {
  await tab.getByRole('spinbutton', { name }).click();
  await tab.locator('input:focus').fill(String(value));
  await tab.keyboard.press('Enter');
}
