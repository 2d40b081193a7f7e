import { flattenSpine, STRIDE, type Spine } from '../../curve';
import { PageError } from '../../gate';
import { ringArea } from '../../math';
import type { ExtrudedBlock, TurnedBlock } from '../types';
import { BLOCK_LIMITS } from './table';

/** m that an outline is wide, and a profile high, as it comes. */
const FRESH = 2;
/** Corners that a course is followed by, and the share of its size that it may stray. */
const MOST = 240;
const STRAY = 1 / 400;
/** The cosine of the turn above which an outline has a corner: 20°. */
const SMOOTH = Math.cos((20 * Math.PI) / 180);

/** Corners of courses, x to the right and y up, all with one scale: the first is `FRESH` m across. */
function followed(courses: readonly Spine[]): number[][] {
  const [width, height] = extentOf(courses[0]);
  const size = Math.max(width, height);
  if (!(size > 0)) throw new PageError('This line has no size.');
  return courses.map((course) => {
    let tolerance = size * STRAY;
    let flat = flattenSpine(course, tolerance);
    while (flat.length / STRIDE > MOST) flat = flattenSpine(course, (tolerance *= 2));
    const places: number[] = [];
    for (let k = 0; k < flat.length; k += STRIDE) {
      const [x, y] = [(flat[k] * FRESH) / size, (-flat[k + 1] * FRESH) / size];
      const last = places.length - 2;
      if (last < 0 || Math.hypot(x - places[last], y - places[last + 1]) > 1e-4) places.push(x, y);
    }
    return places;
  });
}

function extentOf({ points }: Spine): readonly [number, number] {
  const [xs, ys] = [0, 1].map((axis) =>
    Array.from({ length: points.length / STRIDE }, (_, k) => points[STRIDE * k + axis]),
  );
  return [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
}

/**
 * What closed courses of the page give that are drawn out, the largest as outline and those within it as holes. Its middle is
 * the origin. Throws a PageError where none of them is closed.
 */
export function drawnOut(courses: readonly Spine[], height = 1): ExtrudedBlock {
  const closed = courses.filter((course) => course.closed || comesRound(course)).slice(0, BLOCK_LIMITS.rings);
  if (closed.length === 0) throw new PageError('Select a closed line, or an area: it is drawn out to a block.');
  const bySize = [...closed].sort((a, b) => area(b) - area(a));
  const rings = followed(bySize).map(opened);
  const [outer] = rings;
  const [x, y] = [0, 1].map((axis) => {
    const values = outer.filter((_, k) => k % 2 === axis);
    return (Math.min(...values) + Math.max(...values)) / 2;
  });
  return {
    kind: 'extruded',
    // The outer one turns from x towards y, holes the other way.
    rings: rings.map((ring, k) =>
      turnedSo(
        ring.map((value, at) => value - (at % 2 === 0 ? x : y)),
        k === 0,
      ),
    ),
    smooth: isSmooth(outer),
    height,
  };
}

const area = (course: Spine): number => {
  const [width, height] = extentOf(course);
  return width * height;
};

function comesRound(course: Spine): boolean {
  const { points } = course;
  const last = points.length - STRIDE;
  const [width, height] = extentOf(course);
  return Math.hypot(points[last] - points[0], points[last + 1] - points[1]) < 0.05 * Math.hypot(width, height);
}

/** Without the last corner where it is the first again. */
function opened(ring: number[]): number[] {
  const last = ring.length - 2;
  return Math.hypot(ring[last] - ring[0], ring[last + 1] - ring[1]) < 1e-3 ? ring.slice(0, last) : ring;
}

function turnedSo(ring: readonly number[], isOuter: boolean): number[] {
  if (ringArea(ring) > 0 === isOuter) return [...ring];
  return Array.from({ length: ring.length / 2 }, (_, k) =>
    ring.slice(ring.length - 2 * k - 2, ring.length - 2 * k),
  ).flat();
}

/** Whether an outline is a curve for the most part. */
function isSmooth(ring: readonly number[]): boolean {
  const count = ring.length / 2;
  const corners = Array.from({ length: count }, (_, k) => {
    const at = (n: number) => [ring[2 * ((n + count) % count)], ring[2 * ((n + count) % count) + 1]];
    const [[ax, ay], [bx, by], [cx, cy]] = [at(k - 1), at(k), at(k + 1)];
    const [ux, uy, vx, vy] = [bx - ax, by - ay, cx - bx, cy - by];
    return (ux * vx + uy * vy) / (Math.hypot(ux, uy) * Math.hypot(vx, vy) || 1);
  });
  return corners.filter((cosine) => cosine > SMOOTH).length > count / 2;
}

/**
 * What half an outline gives that is turned round: its axis is upright and touches it on its left. Throws a PageError for one
 * without width or height.
 */
export function turnedFrom(course: Spine): TurnedBlock {
  const [places] = followed([course]);
  const xs = places.filter((_, k) => k % 2 === 0);
  const ys = places.filter((_, k) => k % 2 === 1);
  const [axis, foot] = [Math.min(...xs), Math.min(...ys)];
  if (Math.max(...xs) - axis < 0.02 || Math.max(...ys) - foot < 0.02)
    throw new PageError('Draw half an outline, upright: it is turned round its left side.');
  const profile = Array.from({ length: xs.length }, (_, k) => [xs[k] - axis, ys[k] - foot] as const);
  // From its foot up.
  const upwards = profile[0][1] <= profile[profile.length - 1][1] ? profile : [...profile].reverse();
  return { kind: 'turned', profile: upwards.flat() };
}
