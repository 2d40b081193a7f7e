import { STRIDE } from '../curve';
import type { Point } from '../math';
import type { Track } from './resampled';

/** Where a line stands before a place that is unclear, and how it would go on. */
export interface Reach extends Point {
  /** The direction in which it goes on, radians from x towards y, and by how much that turns with each px. */
  readonly angle: number;
  readonly bend: number;
  readonly width: number;
}

/** The angle between −π and π. */
export const turned = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

/**
 * How a track goes on beyond one of its points, by the arc through what lies behind it: a parabola fitted by least squares
 * to `length` px. `way` −1 goes on before its first points, 1 after its last ones. Points that a ring has not are those at
 * its other end.
 */
export function reachOf({ points, step }: Track, from: number, way: 1 | -1, length: number, isRing = false): Reach {
  const count = points.length / STRIDE;
  const most = isRing ? Math.floor(count / 2) : way > 0 ? from : count - 1 - from;
  const n = Math.max(1, Math.min(most, Math.max(4, Math.round(length / step))));
  const at = (k: number, axis: number) => {
    const i = from - way * k;
    return points[STRIDE * (isRing ? (i + 2 * count) % count : Math.min(count - 1, Math.max(0, i))) + axis];
  };
  // Sums over s = 0, −1, … −n of the normal equations of a + b·s + c·s².
  let [s1, s2, s3, s4] = [0, 0, 0, 0];
  const right = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (let k = 0; k <= n; k++) {
    const s = -k;
    s1 += s;
    s2 += s * s;
    s3 += s * s * s;
    s4 += s * s * s * s;
    for (let axis = 0; axis < 3; axis++) {
      const value = at(k, axis);
      right[axis] += value;
      right[3 + axis] += s * value;
      right[6 + axis] += s * s * value;
    }
  }
  const s0 = n + 1;
  const solve = (p: number, q: number, r: number): readonly [number, number, number] => {
    if (n < 3) {
      const d = s0 * s2 - s1 * s1;
      return d === 0 ? [p / s0, 0, 0] : [(p * s2 - q * s1) / d, (s0 * q - s1 * p) / d, 0];
    }
    const d = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s2 * s3) + s2 * (s1 * s3 - s2 * s2);
    return [
      (p * (s2 * s4 - s3 * s3) - s1 * (q * s4 - r * s3) + s2 * (q * s3 - r * s2)) / d,
      (s0 * (q * s4 - r * s3) - p * (s1 * s4 - s2 * s3) + s2 * (s1 * r - s2 * q)) / d,
      (s0 * (s2 * r - s3 * q) - s1 * (s1 * r - s2 * q) + p * (s1 * s3 - s2 * s2)) / d,
    ];
  };
  const [x, vx, ax] = solve(right[0], right[3], right[6]);
  const [y, vy, ay] = solve(right[1], right[4], right[7]);
  let width = 0;
  for (let k = 0; k <= n; k++) width += at(k, 2);
  const speed = Math.hypot(vx, vy);
  const bend = speed > 0 ? (2 * (vx * ay - vy * ax)) / speed ** 3 : 0;
  // No line turns tighter than its ink is deep.
  const most2 = 2 / Math.max(2, width / (n + 1));
  return { x, y, angle: Math.atan2(vy, vx), bend: Math.max(-most2, Math.min(most2, bend)), width: width / (n + 1) };
}

/** Where a reach comes to after some px, going on as an arc. */
export function carriedOn({ x, y, angle, bend }: Reach, length: number): Point & { readonly angle: number } {
  const turn = bend * length;
  // The chord of an arc turns half as far, and is shorter by the sine over the angle.
  const chord = Math.abs(turn) > 1e-6 ? (length * Math.sin(turn / 2)) / (turn / 2) : length;
  return { x: x + chord * Math.cos(angle + turn / 2), y: y + chord * Math.sin(angle + turn / 2), angle: angle + turn };
}

/**
 * By how much a line would have to turn to go from one reach into another, radians: each goes on as an arc of its own bend,
 * half of it, or straight, whichever fits best.
 */
export function turnBetween(one: Reach, two: Reach): number {
  const [dx, dy] = [two.x - one.x, two.y - one.y];
  const gap = Math.hypot(dx, dy);
  if (gap < 1e-6) return Math.abs(turned(one.angle - two.angle - Math.PI));
  const chord = Math.atan2(dy, dx);
  let best = Infinity;
  for (const share of [0, 0.5, 1]) {
    const out = turned(one.angle + (share * one.bend * gap) / 2 - chord);
    const back = turned(two.angle + (share * two.bend * gap) / 2 - chord - Math.PI);
    best = Math.min(best, Math.abs(out) + Math.abs(back));
  }
  return best;
}

/** A smooth way from one reach to another: points with widths, neither end among them, about `step` px apart. */
export function wayBetween(one: Reach, two: Reach, step: number): number[] {
  const gap = Math.hypot(two.x - one.x, two.y - one.y);
  const parts = Math.max(1, Math.round(gap / step));
  const way: number[] = [];
  // Hermite's cubic: both ends with their directions.
  const [ux, uy] = [gap * Math.cos(one.angle), gap * Math.sin(one.angle)];
  const [vx, vy] = [-gap * Math.cos(two.angle), -gap * Math.sin(two.angle)];
  for (let k = 1; k < parts; k++) {
    const t = k / parts;
    const [a, b] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2];
    const [c, d] = [t * t * (3 - 2 * t), t * t * (t - 1)];
    way.push(
      a * one.x + b * ux + c * two.x + d * vx,
      a * one.y + b * uy + c * two.y + d * vy,
      one.width + t * (two.width - one.width),
    );
  }
  return way;
}

/** Where two reaches, carried on straight, meet: nothing where they are nearly parallel. */
export function meetingOf(one: Reach, two: Reach): Point | undefined {
  const [ux, uy, vx, vy] = [Math.cos(one.angle), Math.sin(one.angle), Math.cos(two.angle), Math.sin(two.angle)];
  const d = ux * vy - uy * vx;
  if (Math.abs(d) < 0.1) return undefined;
  const s = ((two.x - one.x) * vy - (two.y - one.y) * vx) / d;
  return { x: one.x + s * ux, y: one.y + s * uy };
}

/** Triples in the other order. */
export function backwards(triples: readonly number[]): number[] {
  const back: number[] = [];
  for (let i = triples.length - STRIDE; i >= 0; i -= STRIDE) back.push(triples[i], triples[i + 1], triples[i + 2]);
  return back;
}
