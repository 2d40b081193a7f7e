import Flatbush from 'flatbush';
import { STRIDE } from '../curve';
import { gapTo, isDrawn, markBox, type DrawnEntity } from '../drawn';
import type { Point } from '../math';
import { mmToPx, pxToMm, type Page } from '../page';
import type { StrokeEntity } from '../stroke';
import type { Finding, PressSettings } from './finding';
import { BREATH } from './thinLines';

/** An end that stops short of a line by less than this was meant to meet it, mm as printed. */
const SHORT_MM = 0.6;
/** Page px of a gap that nobody sees. */
const UNSEEN = 0.35;
/** An end runs towards what it comes nearer to by at least this share of the gap when it goes on straight by as much. */
const NEARER = 0.5;

/** An end of a line: where it is, where it goes, and half of its width there. */
interface End extends Point {
  readonly stroke: StrokeEntity;
  readonly end: 0 | 1;
  readonly dx: number;
  readonly dy: number;
  readonly half: number;
}

function endsOf(stroke: StrokeEntity): End[] {
  const { points, closed } = stroke.spine;
  if (closed || stroke.fills) return [];
  const last = points.length - STRIDE;
  const at = (end: 0 | 1): End => {
    const [i, step] = end === 0 ? [0, STRIDE] : [last, -STRIDE];
    let j = i + step;
    while (j > 0 && j < last && Math.hypot(points[j] - points[i], points[j + 1] - points[i + 1]) < 0.5) j += step;
    const [dx, dy] = [points[i] - points[j], points[i + 1] - points[j + 1]];
    const length = Math.hypot(dx, dy) || 1;
    return {
      ...{ x: points[i], y: points[i + 1], stroke, end },
      ...{ dx: dx / length, dy: dy / length, half: points[i + 2] / 2 },
    };
  };
  return [at(0), at(1)];
}

/** How short an end stops, and how far it goes on straight to meet what it runs towards, page px; nothing where it passes by. */
interface Short {
  readonly gap: number;
  readonly on?: number;
}

interface Looked {
  readonly near: readonly DrawnEntity[];
  readonly reach: number;
  readonly short: Short | undefined;
}

const known = new WeakMap<StrokeEntity, [Looked?, Looked?]>();

/** Ends of lines that stop just short of another line on their layer: a gap that ink and flats leak through. */
export function* looseEnds(
  page: Page,
  strokes: readonly StrokeEntity[],
  { scale }: PressSettings,
): Generator<Finding | undefined> {
  const { ppi } = page.size;
  const reach = mmToPx(SHORT_MM, ppi) / scale;
  const drawn = [...page.entities].filter(isDrawn);
  if (drawn.length === 0) return;
  const index = new Flatbush(drawn.length);
  for (const entity of drawn) {
    const { minX, minY, maxX, maxY } = markBox(entity);
    index.add(minX, minY, maxX, maxY);
  }
  index.finish();
  for (const [k, stroke] of strokes.entries()) {
    if (k % BREATH === BREATH - 1) yield undefined;
    for (const end of endsOf(stroke)) {
      const far = reach + end.half;
      const near = index
        .search(end.x - far, end.y - far, end.x + far, end.y + far)
        .map((k) => drawn[k])
        .filter((entity) => entity !== stroke && entity.layerId === stroke.layerId);
      const short = shortOf(end, near, reach);
      if (!short) continue;
      const { gap, on } = short;
      yield {
        ...{ id: `loose end:${stroke.id}:${end.end}`, kind: 'loose end', at: { x: end.x, y: end.y } },
        words: `A line stops ${(pxToMm(gap, ppi) * scale).toFixed(2)} mm short of another.`,
        ...(on !== undefined && { mending: { as: 'reach', id: stroke.id, end: end.end, to: ahead(end, on) } }),
      };
    }
  }
}

/** Where an end would be if it went on straight. */
const ahead = ({ x, y, dx, dy }: End, by: number): Point => ({ x: x + dx * by, y: y + dy * by });

/** How an end stops short of what lies near; nothing where it meets something, or aims at nothing. */
function shortOf(end: End, near: readonly DrawnEntity[], reach: number): Short | undefined {
  const kept = known.get(end.stroke) ?? [];
  const last = kept[end.end];
  if (last && last.reach === reach && last.near.length === near.length && near.every((one, k) => one === last.near[k]))
    return last.short;
  const short = measured(end, near, reach);
  kept[end.end] = { near, reach, short };
  known.set(end.stroke, kept);
  return short;
}

function measured(end: End, near: readonly DrawnEntity[], reach: number): Short | undefined {
  let least: { readonly gap: number; readonly entity: DrawnEntity } | undefined;
  const far = reach + end.half;
  for (const entity of near) {
    const gap = gapTo(entity, end, end, far) - end.half;
    if (gap <= UNSEEN) return undefined;
    if ((least && gap >= least.gap) || gap > reach) continue;
    // Only what it runs towards: a line beside it is no aim.
    const there = ahead(end, gap + end.half);
    if (gapTo(entity, end, there, far) <= (1 - NEARER) * (gap + end.half)) least = { gap, entity };
  }
  return least && { gap: least.gap, ...wayOn(end, least.entity, far) };
}

/** How far an end goes on straight until it lies in an entity: each step is as long as that is sure to be free of it. */
function wayOn(end: End, entity: DrawnEntity, far: number): Pick<Short, 'on'> {
  let on = 0;
  for (let step = 0; step < MOST_STEPS && on <= FARTHEST * far; step++) {
    const at = ahead(end, on);
    const free = gapTo(entity, at, at, far);
    if (free <= UNSEEN) return { on: on + free };
    on += free;
  }
  return {};
}

const MOST_STEPS = 30;
/** How much farther than straight across an end may go to meet what it runs towards. */
const FARTHEST = 3;
