import { STRIDE } from '../curve';
import type { Point } from '../math';
import type { Track } from './resampled';
import { carriedOn, meetingOf, reachOf, turnBetween, type Reach } from './reach';

/** A corner of a line: the point of its track, where both sides meet when they are carried on, and how far they turn. */
export interface Corner extends Point {
  readonly k: number;
  readonly turn: number;
  readonly width: number;
  readonly before: Reach;
  readonly after: Reach;
  /** Points to either side that the thick of the corner has spoiled. */
  readonly gap: number;
}

/** Widths of a line to either side of a corner that tell nothing, and the widths beyond that which its sides are read off. */
const GAP = 0.8;
const SIDE = 1.5;
/** A place is looked at more closely from this turn of its chords. */
const SUSPECT = (14 * Math.PI) / 180;

/** The places where a line turns by at least so much, radians, when both of its sides are carried on as arcs. */
export function cornersOf(track: Track, isRing: boolean, least: number): Corner[] {
  const { points, step } = track;
  const count = points.length / STRIDE;
  const found: Corner[] = [];
  for (let k = 0; k < count; k++) {
    const width = points[STRIDE * k + 2];
    const gap = Math.max(2, Math.round((GAP * width) / step));
    if (!isRing && (k < gap + 2 || k > count - 3 - gap)) continue;
    if (isRing && count < 4 * gap) continue;
    if (chordTurn(points, count, k, gap, isRing) < SUSPECT) continue;
    const before = reachOf(track, at(k - gap, count, isRing), 1, SIDE * width, isRing);
    const after = reachOf(track, at(k + gap, count, isRing), -1, SIDE * width, isRing);
    const turn = turnBetween(before, after);
    if (turn < least) continue;
    const here = { x: points[STRIDE * k], y: points[STRIDE * k + 1] };
    const place = meeting(before, after, here, width);
    if (turn < SURE && Math.hypot(place.x - here.x, place.y - here.y) > roundness(turn, width)) continue;
    found.push({ k, turn, width: (before.width + after.width) / 2, before, after, gap, ...place });
  }
  return sharpest(found, count, isRing);
}

/** From this turn on no line bends so quickly. */
const SURE = (115 * Math.PI) / 180;

/**
 * How far the place where both sides meet may lie from the middle of the ink, px: of a corner with a round outside that lies
 * 0.1 of the width inside at a right angle, of a bend by the radius ρ ρ(1/cos(θ/2) − 1) outside.
 */
const roundness = (turn: number, width: number): number =>
  0.6 + 0.25 * width * Math.min(1.5, Math.max(0.4, (1 / Math.cos(turn / 2) - 1) / 0.41));

const at = (k: number, count: number, isRing: boolean): number =>
  isRing ? (k + count) % count : Math.min(count - 1, Math.max(0, k));

function chordTurn(points: Float64Array, count: number, k: number, gap: number, isRing: boolean): number {
  const a = STRIDE * at(k - 2 * gap, count, isRing);
  const c = STRIDE * at(k + 2 * gap, count, isRing);
  const b = STRIDE * k;
  const [ux, uy] = [points[b] - points[a], points[b + 1] - points[a + 1]];
  const [vx, vy] = [points[c] - points[b], points[c + 1] - points[b + 1]];
  return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
}

/** Where both sides meet, as arcs; the place itself where that would be far away. */
function meeting(before: Reach, after: Reach, here: Point, width: number): Point {
  let [one, two] = [before, after];
  for (let turn = 0; turn < 3; turn++) {
    const place = meetingOf(one, two);
    if (!place) return here;
    const far = (reach: Reach, from: Reach) => {
      const along = (place.x - from.x) * Math.cos(from.angle) + (place.y - from.y) * Math.sin(from.angle);
      return { ...reach, ...carriedOn(from, Math.max(0, Math.min(3 * width, along))) };
    };
    if (Math.hypot(place.x - here.x, place.y - here.y) > 1.2 * width + 2) return here;
    if (turn === 2) return place;
    // Carried on as arcs almost to where straight lines meet, and asked again from there.
    [one, two] = [far(before, before), far(after, after)];
    if (Math.hypot(one.x - two.x, one.y - two.y) < 0.05) return { x: (one.x + two.x) / 2, y: (one.y + two.y) / 2 };
  }
  return here;
}

/** Of corners that are nearer to each other than their gaps are wide only the one that turns most. */
function sharpest(found: readonly Corner[], count: number, isRing: boolean): Corner[] {
  const kept: Corner[] = [];
  for (const corner of [...found].sort((one, two) => two.turn - one.turn)) {
    const isNear = kept.some(({ k, gap }) => {
      const apart = Math.abs(k - corner.k);
      return (isRing ? Math.min(apart, count - apart) : apart) < Math.max(gap, corner.gap) * 1.6;
    });
    if (!isNear) kept.push(corner);
  }
  return kept.sort((one, two) => one.k - two.k);
}
