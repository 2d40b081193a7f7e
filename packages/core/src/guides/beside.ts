import { segmentLengths, type Spine } from '../curve';
import { distance, type Point } from '../math';
import type { Track } from './track';

/** A place beside a path: the measure of the path nearest to it, and how far to the right of its direction it lies, page px. */
export interface Beside {
  readonly at: number;
  readonly off: number;
}

export function besideOf(track: Track, p: Point): Beside {
  const at = track.nearest(p);
  const [on, way] = [track.place(at), track.direction(at)];
  const off = distance(p, on);
  return { at, off: way.x * (p.y - on.y) - way.y * (p.x - on.x) < 0 ? -off : off };
}

export function placeBeside(track: Track, { at, off }: Beside): Point {
  const [on, way] = [track.place(at), track.direction(at)];
  return { x: on.x - off * way.y, y: on.y + off * way.x };
}

/** The length of a course, page px. */
export const measureOf = (course: Spine): number => segmentLengths(course).reduce((sum, length) => sum + length, 0);
