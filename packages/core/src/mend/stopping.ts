import { alongAt, courseOf, directionAt, endOf, lengthOf, placeOf, pointAt, type Spine } from '../curve';
import type { StrokeEntity } from '../stroke';
import { crossingsOfTwo, type LineIndex } from './crossings';
import { angleBetween, GLANCE, ownStops, touchedAt, type Stop } from './meetings';

/**
 * What stops the lines of a page: where their middles cross, and where an end lies in the ink of another line, for both of
 * them. Unlike `stopsOf` it does not count lines that only graze each other on the way: each pair is looked at once, so
 * that thousands of lines are done in a moment. Yields the share that is done, and answers the stops of each line, in no order.
 */
export function* stopping(index: LineIndex<StrokeEntity>): Generator<number, Stop<StrokeEntity>[][]> {
  const { strokes, hulls } = index;
  const stops = strokes.map(ownStops);
  for (let a = 0; a < strokes.length; a++) {
    if (a % EACH === 0) yield (0.6 * a) / strokes.length;
    for (const b of index.numbersWithin(hulls[a].box)) {
      if (b <= a) continue;
      for (const { atA, atB, angle } of crossingsOfTwo(strokes, a, b)) {
        if (angle <= GLANCE) continue;
        stops[a].push({ at: atA, other: strokes[b], otherAt: atB, crosses: true });
        stops[b].push({ at: atB, other: strokes[a], otherAt: atA, crosses: true });
      }
    }
  }
  for (let a = 0; a < strokes.length; a++) {
    if (a % EACH === 0) yield 0.6 + (0.2 * a) / strokes.length;
    const { spine } = strokes[a];
    if (spine.closed) continue;
    for (const at of [0, endOf(spine)]) addEnd(a, at, index, stops);
  }
  return stops;
}

/** Lines between two yields. */
const EACH = 32;

/** Adds the lines in whose ink an end of line `a` lies, where it neither crosses them nor runs along them. */
function addEnd(a: number, at: number, index: LineIndex<StrokeEntity>, stops: Stop<StrokeEntity>[][]): void {
  const { strokes, hulls } = index;
  const stroke = strokes[a];
  const { spine } = stroke;
  const tip = pointAt(spine, placeOf(spine, at));
  const half = tip.width / 2;
  const box = { minX: tip.x - half, minY: tip.y - half, maxX: tip.x + half, maxY: tip.y + half };
  for (const b of index.numbersWithin(box)) {
    if (b === a) continue;
    const otherAt = touchedAt(hulls[b], tip, half);
    const other = strokes[b];
    if (otherAt === undefined || !isMet(spine, at, other.spine, otherAt)) continue;
    if (stops[a].some((stop) => stop.other === other && isOneMeeting(spine, at, tip.width, stop))) continue;
    stops[a].push({ at, other, otherAt, crosses: false });
    stops[b].push({ at: otherAt, other: stroke, otherAt: at, crosses: false });
  }
}

/** Whether an end comes upon another line, or goes on where that one ends, rather than running along it. */
function isMet(spine: Spine, at: number, other: Spine, otherAt: number): boolean {
  if (angleBetween(spine, at, other, otherAt) > GLANCE) return true;
  if (other.closed || (otherAt > 0 && otherAt < endOf(other))) return false;
  const [out, inwards] = [directionAt(spine, placeOf(spine, at)), directionAt(other, placeOf(other, otherAt))];
  const sign = (at === 0 ? -1 : 1) * (otherAt === 0 ? 1 : -1);
  return sign * (out.x * inwards.x + out.y * inwards.y) > 0;
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
  const length = at === 0 ? alongAt(course, crossed) : lengthOf(course) - alongAt(course, crossed);
  return length <= (width + theirs) / 2 / Math.sin(angleBetween(spine, crossed, other.spine, otherAt));
}
