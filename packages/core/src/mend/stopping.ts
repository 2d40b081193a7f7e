import { alongAt, courseOf, directionAt, endOf, lengthOf, placeOf, pointAt, type Spine } from '../curve';
import type { EntityId, StrokeEntity } from '../page';
import { crossingsOfTwo, type InkIndex } from './crossings';
import { angleBetween, GLANCE, hullsOf, ownStops, touchedAt, type Stop } from './meetings';

/** What stops each line of a page, in no order. */
export type Stops = ReadonlyMap<EntityId, readonly Stop<StrokeEntity>[]>;

/**
 * What stops the lines of a page: where their middles cross, and where an end lies in the ink of another line, for both of
 * them. Unlike `stopsOf` it does not count lines that only graze each other on the way: each pair is looked at once, so
 * that thousands of lines are done in a moment. Yields the share that is done.
 */
export function* stopping(strokes: readonly StrokeEntity[], index: InkIndex<StrokeEntity>): Generator<number, Stops> {
  const stops = new Map(strokes.map((stroke) => [stroke.id, ownStops(stroke)]));
  const add = (stroke: StrokeEntity, stop: Stop<StrokeEntity>) => stops.get(stroke.id)?.push(stop);
  for (const [a, stroke] of strokes.entries()) {
    if (a % EACH === 0) yield (0.6 * a) / strokes.length;
    for (const b of index.numbersNear(stroke, 0)) {
      if (b <= a) continue;
      for (const { atA, atB, angle } of crossingsOfTwo(strokes, a, b)) {
        if (angle <= GLANCE) continue;
        add(stroke, { at: atA, other: strokes[b], otherAt: atB, crosses: true });
        add(strokes[b], { at: atB, other: stroke, otherAt: atA, crosses: true });
      }
    }
  }
  for (const [a, stroke] of strokes.entries()) {
    if (a % EACH === 0) yield 0.6 + (0.2 * a) / strokes.length;
    if (stroke.spine.closed) continue;
    for (const at of [0, endOf(stroke.spine)])
      for (const { other, otherAt } of metByEnd(stroke, at, stops.get(stroke.id) ?? [], index)) {
        add(stroke, { at, other, otherAt, crosses: false });
        add(other, { at: otherAt, other: stroke, otherAt: at, crosses: false });
      }
  }
  return stops;
}

/** Lines between two yields. */
const EACH = 32;

/** The lines in whose ink an end lies, where it neither crosses them nor runs along them. */
function metByEnd(
  stroke: StrokeEntity,
  at: number,
  stops: readonly Stop<StrokeEntity>[],
  index: InkIndex<StrokeEntity>,
): { readonly other: StrokeEntity; readonly otherAt: number }[] {
  const tip = pointAt(stroke.spine, placeOf(stroke.spine, at));
  const half = tip.width / 2;
  const box = { minX: tip.x - half, minY: tip.y - half, maxX: tip.x + half, maxY: tip.y + half };
  return index.within(box).flatMap((other) => {
    if (other === stroke) return [];
    const otherAt = touchedAt(hullsOf(other.spine), tip, half);
    if (otherAt === undefined || !isMet(stroke.spine, at, other.spine, otherAt)) return [];
    const isCrossed = stops.some((stop) => stop.other === other && isOneMeeting(stroke.spine, at, tip.width, stop));
    return isCrossed ? [] : [{ other, otherAt }];
  });
}

/** Whether an end comes upon another line, or goes on where that one ends, rather than running along it. */
function isMet(spine: Spine, at: number, other: Spine, otherAt: number): boolean {
  if (angleBetween(spine, at, other, otherAt) > GLANCE) return true;
  if (other.closed || (otherAt > 0 && otherAt < endOf(other))) return false;
  const [out, inwards] = [directionAt(spine, placeOf(spine, at)), directionAt(other, placeOf(other, otherAt))];
  const way = (at === 0 ? -1 : 1) * (otherAt === 0 ? 1 : -1);
  return way * (out.x * inwards.x + out.y * inwards.y) > 0;
}

/** Whether the ink of a line goes on meeting the other one from an end to a crossing. */
function isOneMeeting(
  spine: Spine,
  at: number,
  width: number,
  { at: crossed, other, otherAt, crosses }: Stop,
): boolean {
  if (!crosses) return false;
  const theirs = pointAt(other.spine, placeOf(other.spine, otherAt)).width;
  const course = courseOf(spine);
  const way = at === 0 ? alongAt(course, crossed) : lengthOf(course) - alongAt(course, crossed);
  return way <= (width + theirs) / 2 / Math.sin(angleBetween(spine, crossed, other.spine, otherAt));
}
