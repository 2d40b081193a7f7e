import { STRIDE, type CurvePath, type GuidePath, type LinePath, type Spine } from '../curve';
import { distance, type Point } from '../math';
import { CurveTrack } from './curveTrack';
import { ellipseTrack, lineTrack, type Track } from './track';

/** A place of a path: page px, how far away it is, and its measure along the path. */
export interface PathPlace extends Point {
  readonly at: number;
  readonly distance: number;
}

/** Tracks of curves, which take a while to make and are asked for again and again. */
const tracks = new WeakMap<CurvePath, Track>();

export function trackOf(path: GuidePath): Track {
  if (path.kind === 'line') return lineTrack(path);
  if (path.kind === 'ellipse') return ellipseTrack(path);
  const known = tracks.get(path);
  if (known) return known;
  const track = new CurveTrack(path);
  tracks.set(path, track);
  return track;
}

/** The place of a path that is nearest to `p`. */
export function project(path: GuidePath, p: Point): PathPlace {
  const track = trackOf(path);
  const at = track.nearest(p);
  const place = track.place(at);
  return { x: place.x, y: place.y, at, distance: distance(place, p) };
}

/** The part of a path between two measures (see `project`), as a course of width 1; it runs backwards where `to` is less. */
export function spineAlong(path: GuidePath, from: number, to: number): Spine {
  // Rows come by the thousand.
  if (path.kind === 'line') return straightAlong(path, from, to);
  const track = trackOf(path);
  const ends = [Math.min(from, to), Math.max(from, to)];
  const marks = [ends[0], ...track.breaks(ends[0], ends[1]), ends[1]];
  const triples: number[] = [];
  marks.slice(1).forEach((end, k) => {
    const cubic = track.cubic(marks[k], end);
    for (let n = k === 0 ? 0 : 1; n < 4; n++) triples.push(cubic[2 * n], cubic[2 * n + 1], 1);
  });
  if (to >= from) return { points: Float64Array.from(triples), closed: false };
  const points = new Float64Array(triples.length);
  for (let i = 0; i < triples.length; i += STRIDE)
    points.set(triples.slice(i, i + STRIDE), triples.length - STRIDE - i);
  return { points, closed: false };
}

function straightAlong({ x, y, dx, dy }: LinePath, from: number, to: number): Spine {
  const points = new Float64Array(4 * STRIDE);
  for (let k = 0; k < 4; k++) {
    const at = from + ((to - from) * k) / 3;
    points[STRIDE * k] = x + at * dx;
    points[STRIDE * k + 1] = y + at * dy;
    points[STRIDE * k + 2] = 1;
  }
  return { points, closed: false };
}

/** The one of some paths that comes nearest to a point. */
export function nearestPath(paths: readonly GuidePath[], point: Point): GuidePath | undefined {
  const away = paths.map((path) => ({ path, away: project(path, point).distance }));
  return away.sort((a, b) => a.away - b.away)[0]?.path;
}
