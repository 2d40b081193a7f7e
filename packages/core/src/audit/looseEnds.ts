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

interface Looked {
  readonly near: readonly DrawnEntity[];
  readonly reach: number;
  readonly gap: number | undefined;
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
      const gap = gapOf(end, near, reach);
      if (gap === undefined) continue;
      const to = { x: end.x + end.dx * (gap + end.half), y: end.y + end.dy * (gap + end.half) };
      yield {
        ...{ id: `loose end:${stroke.id}:${end.end}`, kind: 'loose end', at: { x: end.x, y: end.y } },
        words: `A line stops ${(pxToMm(gap, ppi) * scale).toFixed(2)} mm short of another.`,
        mending: { as: 'reach', id: stroke.id, end: end.end, to },
      };
    }
  }
}

/** By how much an end stops short of what lies near, page px; nothing where it meets something, or aims at nothing. */
function gapOf(end: End, near: readonly DrawnEntity[], reach: number): number | undefined {
  const kept = known.get(end.stroke) ?? [];
  const last = kept[end.end];
  if (last && last.reach === reach && last.near.length === near.length && near.every((one, k) => one === last.near[k]))
    return last.gap;
  const gap = measured(end, near, reach);
  kept[end.end] = { near, reach, gap };
  known.set(end.stroke, kept);
  return gap;
}

function measured(end: End, near: readonly DrawnEntity[], reach: number): number | undefined {
  let least = Infinity;
  const far = reach + end.half;
  for (const entity of near) {
    const gap = gapTo(entity, end, end, far) - end.half;
    if (gap <= UNSEEN) return undefined;
    if (gap >= least || gap > reach) continue;
    // Only what it runs towards: a line beside it is no aim.
    const ahead = { x: end.x + end.dx * (gap + end.half), y: end.y + end.dy * (gap + end.half) };
    if (gapTo(entity, end, ahead, far) <= (1 - NEARER) * (gap + end.half)) least = gap;
  }
  return least < Infinity ? least : undefined;
}
