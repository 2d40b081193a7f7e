import Flatbush from 'flatbush';
import { STRIDE } from '../curve';
import { gapTo, type DrawnEntity } from '../drawn';
import { boxesMeet, growBox, type Box, type Point } from '../math';
import { mmToPx, pxToMm, type Page } from '../page';
import type { StrokeEntity } from '../stroke';
import { BREATH, type Finding, type Placed, type PressSettings } from './finding';

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

/** What the last look at a page found, and of what: where nothing changed since, it is so still. Each look writes it anew. */
export interface KnownEnds {
  last?: Looked;
}

interface Looked {
  readonly reach: number;
  readonly drawn: ReadonlySet<DrawnEntity>;
  readonly boxes: readonly Box[];
  readonly shorts: Map<StrokeEntity, readonly [Short | undefined, Short | undefined]>;
}

/** Ends of lines that stop just short of another line on their layer: a gap that ink and flats leak through. */
export function* looseEnds(
  page: Page,
  placed: readonly Placed[],
  { scale }: PressSettings,
  known: KnownEnds,
): Generator<Finding | undefined, void> {
  if (placed.length === 0) return;
  const { ppi } = page.size;
  const reach = mmToPx(SHORT_MM, ppi) / scale;
  const before = known.last;
  const shorts: Looked['shorts'] = new Map();
  const now: Looked = {
    ...{ reach, shorts, drawn: new Set(placed.map(({ entity }) => entity)), boxes: placed.map(({ box }) => box) },
  };
  known.last = now;
  const isAsBefore = unchangedSince(before, now);
  const index = indexOf(now.boxes);
  for (const [k, { entity: stroke }] of placed.entries()) {
    if (k % BREATH === BREATH - 1) yield undefined;
    if (stroke.kind !== 'stroke') continue;
    const ends = endsOf(stroke);
    if (ends.length === 0) continue;
    const last = before?.shorts.get(stroke);
    const short = ends.map((end, j) => {
      const far = reach + end.half;
      const box = growBox({ minX: end.x, minY: end.y, maxX: end.x, maxY: end.y }, far);
      if (last && isAsBefore(box)) return last[j];
      const near = index.search(box.minX, box.minY, box.maxX, box.maxY).flatMap((one) => {
        const { entity } = placed[one];
        return entity !== stroke && entity.layerId === stroke.layerId ? [entity] : [];
      });
      return measured(end, near, reach);
    });
    shorts.set(stroke, [short[0], short[1]]);
    for (const [j, one] of short.entries()) if (one) yield asFinding(ends[j], one, page, scale);
  }
}

function asFinding(end: End, { gap, on }: Short, { size }: Page, scale: number): Finding {
  const { stroke } = end;
  return {
    ...{ id: `loose end:${stroke.id}:${end.end}`, kind: 'loose end', at: { x: end.x, y: end.y } },
    words: `A line stops ${(pxToMm(gap, size.ppi) * scale).toFixed(2)} mm short of another.`,
    ...(on !== undefined && {
      mending: { as: 'reach', id: stroke.id, end: end.end, from: ahead(end, 0), to: ahead(end, on) },
    }),
  };
}

function indexOf(boxes: readonly Box[]): Flatbush {
  const index = new Flatbush(boxes.length);
  for (const { minX, minY, maxX, maxY } of boxes) index.add(minX, minY, maxX, maxY);
  index.finish();
  return index;
}

/** Things that may have changed for what is known to be worth asking. */
const MOST_CHANGED = 500;

/** Tells of a place whether nothing came or went there between two looks. */
function unchangedSince(before: Looked | undefined, now: Looked): (box: Box) => boolean {
  if (before?.reach !== now.reach) return () => false;
  const changed = [...onlyIn(now, before), ...onlyIn(before, now)];
  if (changed.length > MOST_CHANGED) return () => false;
  return (box) => !changed.some((other) => boxesMeet(box, other));
}

/** Where things lie that one look saw and another did not. */
function onlyIn({ drawn, boxes }: Looked, other: Looked): Box[] {
  const found: Box[] = [];
  let k = 0;
  for (const entity of drawn) {
    if (!other.drawn.has(entity)) found.push(boxes[k]);
    k++;
  }
  return found;
}

/** Where an end would be if it went on straight. */
const ahead = ({ x, y, dx, dy }: End, by: number): Point => ({ x: x + dx * by, y: y + dy * by });

/** How an end stops short of what lies near; nothing where it meets something, or aims at nothing. */
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
