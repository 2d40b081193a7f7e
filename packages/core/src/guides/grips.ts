import { insertNode, nearestOnSpine } from '../curve';
import { distance, type Point } from '../math';
import type { GuideShape } from './guide';
import { shapeRow } from './shapes/table';
import type { GripDrag, GripLook, GripPlace } from './shapes/row';

export const guideGrips = (shape: GuideShape, look: GripLook): GripPlace[] => shapeRow(shape).grips(shape, look);

/** The grip nearest to `at`, within `reach` page px. */
export function guideGripAt(grips: readonly GripPlace[], at: Point, reach: number): GripPlace | undefined {
  let best: GripPlace | undefined;
  for (const one of grips)
    if (distance(one.at, at) <= reach && (!best || distance(one.at, at) < distance(best.at, at))) best = one;
  return best;
}

/** Whether a hand at `at` takes hold of the body of a guide: its edge or axis, or a ruler between its edges. */
export const isOnGuide = (shape: GuideShape, at: Point, reach: number): boolean =>
  shapeRow(shape).isOn(shape, at, reach);

/** Where a guide is taken hold of, and its tag lies. */
export const anchorOf = (shape: GuideShape): Point => shapeRow(shape).anchor(shape);

/** A guide after one of its grips was dragged. A grip that is none of its own moves it as a whole. */
export function draggedGuide(shape: GuideShape, drag: GripDrag): GuideShape {
  const row = shapeRow(shape);
  const placed = row.place?.(shape, drag);
  if (placed) return placed;
  const { from, to, isExact } = drag;
  const end = isExact ? axisWise(from, to) : to;
  return row.move(shape, end.x - from.x, end.y - from.y);
}

/** The way from `from` to `to` along the page's axis that is nearer to it. */
function axisWise(from: Point, to: Point): Point {
  return Math.abs(to.x - from.x) > Math.abs(to.y - from.y) ? { x: to.x, y: from.y } : { x: from.x, y: to.y };
}

/** A shape moved by page px. */
export const shiftedShape = (shape: GuideShape, dx: number, dy: number): GuideShape =>
  shapeRow(shape).move(shape, dx, dy);

/** A node put into a curve where a hand touched it. */
export function withNode(shape: GuideShape, at: Point): GuideShape {
  if (!('course' in shape)) return shape;
  const { segment, t } = nearestOnSpine(shape.course, at);
  return { ...shape, course: insertNode(shape.course, { segment, t }) };
}
