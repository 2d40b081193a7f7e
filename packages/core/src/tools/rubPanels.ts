import { pointAt, segmentCount, type Spine } from '../curve';
import { distance } from '../math';
import type { Edit } from '../page';
import type { BorderGap, PanelEntity } from '../panel';
import { wayTo, type Swept } from './swept';

/** Page px from one place of a border that is looked at to the next. */
const STEP = 1;
const MOST_STEPS = 4_000;

/** Rubs borders where a brush went: the panel stays, and its border has a gap there. */
export function rubbedPanels(panels: Iterable<PanelEntity>, { course, radius }: Swept): Edit[] {
  return [...panels].flatMap((before): Edit[] => {
    const { border, ring } = before;
    if (!border) return [];
    const reach = radius + border.nib.size / 2;
    const more = Array.from({ length: segmentCount(ring) }, (_, side) =>
      gapsOf(ring, side, (x, y) => wayTo(course, x, y) < reach),
    ).flat();
    const gaps = merged([...(border.gaps ?? []), ...more]);
    return more.length === 0 || isSame(gaps, border.gaps ?? [])
      ? []
      : [{ before, after: { ...before, border: { ...border, gaps } } }];
  });
}

/** The parts of a side in which places are touched. */
function gapsOf(ring: Spine, side: number, isTouched: (x: number, y: number) => boolean): BorderGap[] {
  const [from, to] = [pointAt(ring, { segment: side, t: 0 }), pointAt(ring, { segment: side, t: 1 })];
  const steps = Math.min(MOST_STEPS, Math.max(8, Math.ceil(distance(from, to) / STEP)));
  const gaps: BorderGap[] = [];
  let start: number | undefined;
  for (let k = 0; k <= steps; k++) {
    const { x, y } = pointAt(ring, { segment: side, t: k / steps });
    const isIn = isTouched(x, y);
    if (isIn) start ??= k / steps;
    if (start === undefined || (isIn && k < steps)) continue;
    const end = isIn ? 1 : (k - 1) / steps;
    if (end > start) gaps.push({ side, from: start, to: end });
    start = undefined;
  }
  return gaps;
}

/** Gaps in their order, those that touch made one. */
function merged(gaps: readonly BorderGap[]): BorderGap[] {
  const all: BorderGap[] = [];
  for (const gap of [...gaps].sort((a, b) => a.side - b.side || a.from - b.from)) {
    const last = all.at(-1);
    if (last?.side === gap.side && gap.from <= last.to)
      all[all.length - 1] = { ...last, to: Math.max(last.to, gap.to) };
    else all.push(gap);
  }
  return all;
}

const isSame = (a: readonly BorderGap[], b: readonly BorderGap[]): boolean =>
  a.length === b.length &&
  a.every(({ side, from, to }, k) => side === b[k].side && from === b[k].from && to === b[k].to);
