import { CubicFitter, makeSpine, SEGMENT, SpineFitter, STRIDE, type Spine } from '../../curve';
import type { Camera } from '../../guides';
import type { Point, Vector } from '../../math';
import { placeAt, type Course } from '../solid';
import { picturedAt } from '../view';
import { pictured, picturedSlope } from './candidate';
import type { Stretch } from './visible';

/** Page px by which a fitted curve may stray. */
const STRAY = 0.08;
/** Samples of each cubic that is fitted. */
const SAMPLES = 24;
const MOST_PIECES = 64;

/** A stretch in the picture: its course, of width 1, and how deep it lies at a share of its length, m. */
export interface Traced {
  readonly course: Spine;
  readonly depthAt: (share: number) => number;
}

/** What is done to the ends of stretches, page px: how far they go over their corners, and end short of nearer contours. */
export interface Ends {
  readonly over: number;
  readonly halo: number;
}

/** The course of a stretch on the page; nothing where its ends leave nothing of it. */
export function traced(stretch: Stretch, camera: Camera, ends: Ends): Traced | undefined {
  const { line, ends: by } = stretch;
  const { course } = line;
  const by0 = endBy(by[0], ends);
  const by1 = endBy(by[1], ends);
  if (course.kind === 'segment') return straight(course, stretch, camera, by0, by1);
  const from = moved(course, stretch.from, -by0, camera);
  const to = moved(course, stretch.to, by1, camera);
  if (!(to > from)) return undefined;
  const isWhole = course.kind === 'arc' && to - from >= 2 * Math.PI - 1e-9;
  const spine =
    course.kind === 'arc' ? arcSpine(course, from, to, camera, isWhole) : chainSpine(course, from, to, camera);
  return spine && { course: spine, depthAt: (share) => placeAt(course, from + (to - from) * share)[2] };
}

/** By how much a line goes on at an end; below 0 it ends short. */
function endBy(end: Stretch['ends'][0], { over, halo }: Ends): number {
  if (end === 'corner') return over;
  return end === 'behind' ? -halo : 0;
}

function straight(
  course: Course,
  { from, to }: Stretch,
  camera: Camera,
  before: number,
  after: number,
): Traced | undefined {
  const [p, q] = [picturedAt(camera, placeAt(course, from)), picturedAt(camera, placeAt(course, to))];
  const long = Math.hypot(q.x - p.x, q.y - p.y);
  if (!(long + before + after > LEAST)) return undefined;
  const at = (by: number): Point => ({ x: p.x + ((q.x - p.x) * by) / long, y: p.y + ((q.y - p.y) * by) / long });
  const [a, b] = [at(-before), at(long + after)];
  const third = (share: number) => [a.x + (b.x - a.x) * share, a.y + (b.y - a.y) * share, 1];
  return {
    course: makeSpine(Float64Array.from([a.x, a.y, 1, ...third(1 / 3), ...third(2 / 3), b.x, b.y, 1])),
    depthAt: (share) => placeAt(course, pictured(course, from, to, share))[2],
  };
}

/** Page px under which nothing is left of a line. */
const LEAST = 0.05;

/** A parameter moved along the picture by page px, outwards for its end and inwards for its start. */
function moved(course: Course, t: number, by: number, camera: Camera): number {
  if (by === 0) return t;
  const [u, v] = picturedSlope(course, t, camera);
  const speed = Math.hypot(u, v);
  return speed > 0 ? t + by / speed : t;
}

/** An arc as few cubics, each leaving and arriving along its tangents. */
function arcSpine(course: Course, from: number, to: number, camera: Camera, closed: boolean): Spine | undefined {
  const fitter = new CubicFitter();
  for (let pieces = Math.max(1, Math.ceil((to - from) / (Math.PI / 2) - 1e-9)); pieces <= MOST_PIECES; pieces++) {
    const points = new Float64Array(STRIDE + SEGMENT * pieces);
    let worst = 0;
    for (let k = 0; k < pieces && worst <= STRAY; k++) {
      const [a, b] = [from + ((to - from) * k) / pieces, from + ((to - from) * (k + 1)) / pieces];
      const track = sampled((t) => placeAt(course, t), a, b, camera);
      const { handles, error } = fitter.fit(
        { track, lengths: lengthsOfTrack(track), first: 0, last: SAMPLES },
        { start: tangent(course, a, camera), end: tangent(course, b, camera) },
        STRAY,
      );
      worst = Math.max(worst, error);
      points.set(track.subarray(0, STRIDE), SEGMENT * k);
      points.set(handles, SEGMENT * k + STRIDE);
      points.set(track.subarray(STRIDE * SAMPLES), SEGMENT * (k + 1));
    }
    if (worst > STRAY && pieces < MOST_PIECES) continue;
    // A ring ends on the very numbers that it began with.
    if (closed) points.set(points.subarray(0, STRIDE), points.length - STRIDE);
    return makeSpine(points, closed);
  }
  return undefined;
}

function sampled(place: (t: number) => Vector, from: number, to: number, camera: Camera): Float64Array {
  const track = new Float64Array(STRIDE * (SAMPLES + 1));
  for (let k = 0; k <= SAMPLES; k++) {
    const { x, y } = picturedAt(camera, place(from + ((to - from) * k) / SAMPLES));
    track.set([x, y, 1], STRIDE * k);
  }
  return track;
}

/** How long a track is up to each of its triples. */
function lengthsOfTrack(track: Float64Array): Float64Array {
  const lengths = new Float64Array(track.length / STRIDE);
  for (let k = 1; k < lengths.length; k++) {
    const i = STRIDE * k;
    lengths[k] = lengths[k - 1] + Math.hypot(track[i] - track[i - STRIDE], track[i + 1] - track[i - STRIDE + 1]);
  }
  return lengths;
}

function tangent(course: Course, t: number, camera: Camera): { x: number; y: number } {
  const [x, y] = picturedSlope(course, t, camera);
  const long = Math.hypot(x, y) || 1;
  return { x: x / long, y: y / long };
}

function chainSpine(course: Course, from: number, to: number, camera: Camera): Spine | undefined {
  const places = [from];
  for (let k = Math.floor(from) + 1; k < to; k++) places.push(k);
  places.push(to);
  return fittedThrough(places.map((t) => picturedAt(camera, placeAt(course, t))));
}

/** A smooth course through places of the picture; corners stay. */
export function fittedThrough(places: readonly Point[]): Spine | undefined {
  const fitter = new SpineFitter(STRAY, places.length);
  for (const { x, y } of places) fitter.add(x, y, 1);
  const spine = fitter.finish();
  const { points } = spine;
  const last = points.length - STRIDE;
  return last > SEGMENT || Math.hypot(points[last] - points[0], points[last + 1] - points[1]) > LEAST
    ? spine
    : undefined;
}
