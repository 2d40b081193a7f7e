import { widestOf } from '../curve';
import { dotsLeft, type DotsEntity } from '../dots';
import type { Point } from '../math';
import { gapTo, type DrawnEntity } from '../drawn';
import type { AreaEntity } from '../area';
import { recolourStroke, ringsWithout, rubStroke, sweptRing } from '../mend';
import { replacedBy, type Edit } from '../page';
import type { EntityId } from '../kind';
import type { StrokeEntity } from '../stroke';
import { wayTo, type Swept } from './swept';

/** How a layer shows a stroke. */
export type Shown = (stroke: StrokeEntity) => StrokeEntity;

const asDrawn: Shown = (stroke) => stroke;

/** Rubs where a brush went: one edit for each stroke that is touched, further ones for pieces beyond its first. */
export const rubbedEdits = (
  strokes: Iterable<StrokeEntity>,
  { course, radius }: Swept,
  newId: () => EntityId,
  shown: Shown = asDrawn,
  cutEnd: 'flat' | 'round' = 'flat',
): Edit[] => cutEdits(strokes, newId, (stroke) => rubStroke(stroke, course, radius, thickness(stroke, shown), cutEnd));

/** Rubs areas where a brush went: what is left keeps the id. Corner by corner, since it is done while the hand moves. */
export function rubbedAreas(areas: Iterable<AreaEntity>, { course, radius }: Swept): Edit[] {
  const gone = [sweptRing(course, radius)];
  return [...areas].flatMap((before): Edit[] => {
    const rings = ringsWithout(before, gone, { isEased: false });
    return rings ? [{ before, after: rings.length > 0 ? { ...before, rings } : null }] : [];
  });
}

/** Rubs dots where a brush went: those that it touches go whole. */
export function rubbedDots(all: Iterable<DotsEntity>, { course, radius }: Swept): Edit[] {
  return [...all].flatMap((before): Edit[] => {
    const left = dotsLeft(before, (x, y, width) => wayTo(course, x, y) < radius + width / 2);
    return left ? [{ before, after: left.dots.length > 0 ? left : null }] : [];
  });
}

/** Gives strokes another colour where a brush went. */
export const recolouredEdits = (
  strokes: Iterable<StrokeEntity>,
  { course, radius }: Swept,
  color: string,
  newId: () => EntityId,
  shown: Shown = asDrawn,
): Edit[] =>
  cutEdits(strokes, newId, (stroke) => recolourStroke(stroke, course, radius, color, thickness(stroke, shown)));

function cutEdits(
  strokes: Iterable<StrokeEntity>,
  newId: () => EntityId,
  cut: (stroke: StrokeEntity) => readonly StrokeEntity[] | undefined,
): Edit[] {
  const edits: Edit[] = [];
  for (const stroke of strokes) {
    const pieces = cut(stroke);
    if (!pieces) continue;
    edits.push(...replacedBy(stroke, pieces, newId));
  }
  return edits;
}

/** By how much a stroke is shown wider than it is. */
function thickness(stroke: StrokeEntity, shown: Shown): number {
  const inked = shown(stroke);
  return inked === stroke ? 1 : widestOf(inked.spine) / Math.max(1e-6, widestOf(stroke.spine));
}

/**
 * Lifts what was drawn, whole. A drag takes all whose marks it touches; a tap that touches none takes the nearest one within
 * `reach` page px.
 */
export function liftedEdits(
  drawn: Iterable<DrawnEntity>,
  from: Point,
  to: Point,
  reach: number,
  shown: (entity: DrawnEntity) => DrawnEntity = (entity) => entity,
): Edit[] {
  const gaps = [...drawn].map((entity) => ({ entity, gap: gapTo(shown(entity), from, to, reach) }));
  const touched = gaps.filter(({ gap }) => gap <= 0);
  const isTap = from.x === to.x && from.y === to.y;
  const nearest = gaps.reduce<(typeof gaps)[number] | undefined>(
    (best, next) => (next.gap < (best?.gap ?? reach) ? next : best),
    undefined,
  );
  const taken = touched.length > 0 || !isTap ? touched : nearest ? [nearest] : [];
  return taken.map(({ entity }) => ({ before: entity, after: null }));
}
