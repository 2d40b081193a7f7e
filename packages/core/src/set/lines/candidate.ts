import type { Camera } from '../../guides';
import { picturedAt } from '../view';
import { depthOf, placeAt, slopeOf, type Course } from '../solid';
import type { LineSort } from '../types';

/** What a line comes to at one of its ends: its own corner, going on as another, a nearer contour, a surface, or the end of the picture. */
export type LineEnd = 'corner' | 'on' | 'behind' | 'into' | 'out';

/** A line that may be seen: a part of a course. */
export interface Candidate {
  readonly block: number;
  readonly sort: LineSort;
  /** Names the edge that it is, through all views. */
  readonly key: string;
  /** In the eye's own space, and in that of the set. */
  readonly course: Course;
  readonly standing: Course;
  readonly from: number;
  readonly to: number;
  readonly ends: readonly [LineEnd, LineEnd];
  /** The surfaces that it lies on. */
  readonly own: readonly number[];
  /** What lies behind it may come out from behind its block there. */
  readonly hides: boolean;
  /** Whether it is drawn at all; what is not may still hide. */
  readonly draws: boolean;
  /** It lies on the far side of its own block. */
  readonly back: boolean;
  readonly run: string | undefined;
}

/** A candidate as a row of chords in the picture, each with the parameter at which it begins. */
export interface Flat {
  /** x, y, t in turn. */
  readonly points: Float64Array;
}

/** Page px by which a chord may stray from its curve, before crossings are found on the curve itself. */
const STRAY = 0.1;

/** The chords of a candidate in the picture of a camera. */
export function flatOf({ course, from, to }: Candidate, camera: Camera): Flat {
  const count = stepsOf(course, from, to, camera.focal);
  const points = new Float64Array(3 * (count + 1));
  for (let k = 0, at = 0; k <= count; k++) {
    const t = k === count ? to : from + ((to - from) * k) / count;
    const { x, y } = picturedAt(camera, placeAt(course, t));
    points[at++] = x;
    points[at++] = y;
    points[at++] = t;
  }
  return { points };
}

function stepsOf(course: Course, from: number, to: number, focal: number): number {
  if (course.kind === 'segment') return 1;
  if (course.kind === 'chain') return Math.max(1, Math.ceil(to) - Math.floor(from));
  const { centre, u } = course;
  const radius = Math.hypot(...u);
  const px = (focal * radius) / Math.max(centre[2] - radius, 0.05 * radius);
  const step = Math.acos(Math.max(0.5, 1 - STRAY / Math.max(px, STRAY)));
  return Math.max(2, Math.min(512, Math.ceil((to - from) / (2 * step))));
}

/** How the picture of a course goes on with its parameter, page px. */
export function picturedSlope(course: Course, t: number, { focal }: Camera): readonly [number, number] {
  const [x, y, z] = placeAt(course, t);
  const [dx, dy, dz] = slopeOf(course, t);
  const by = focal / (z * z);
  return [by * (dx * z - x * dz), by * (dy * z - y * dz)];
}

/** The parameter of a place on a segment's picture, `share` of the way between the pictures of two of its parameters. */
export function pictured(course: Course, a: number, b: number, share: number): number {
  if (course.kind !== 'segment') return a + (b - a) * share;
  const za = depthOf(course, a);
  const zb = depthOf(course, b);
  return a + ((b - a) * share * za) / (zb + share * (za - zb));
}
