import { distance, type Point } from '../math';
import {
  cubicAt,
  cubicSlope,
  pointAt,
  SEGMENT,
  segmentCount,
  type Spine,
  type SpinePlace,
  type WeightedPoint,
} from './spine';

export interface NearestPlace extends SpinePlace, WeightedPoint {
  /** Page px from the asked point to the course. */
  readonly distance: number;
}

const PROBES = 12;

/** The place of the course nearest to `p`: coarse probes on every cubic, then a descent from each valley. */
export function nearestOnSpine(spine: Spine, p: Point): NearestPlace {
  let best: NearestPlace | undefined;
  const count = segmentCount(spine);
  for (let segment = 0; segment < count; segment++) {
    if (best && distanceToHull(spine, segment, p) > best.distance) continue;
    for (const start of valleys(spine, segment, p)) {
      const t = lowest(spine, segment, p, start);
      const at = pointAt(spine, { segment, t });
      const away = distance(at, p);
      if (!best || away < best.distance) best = { ...at, segment, t, distance: away };
    }
  }
  if (!best) throw new RangeError('A spine without segments has no nearest place.');
  return best;
}

function distanceToHull(spine: Spine, segment: number, p: Point): number {
  const q = spine.points;
  const i = segment * SEGMENT;
  const dx = Math.max(
    Math.min(q[i], q[i + 3], q[i + 6], q[i + 9]) - p.x,
    p.x - Math.max(q[i], q[i + 3], q[i + 6], q[i + 9]),
    0,
  );
  const dy = Math.max(
    Math.min(q[i + 1], q[i + 4], q[i + 7], q[i + 10]) - p.y,
    p.y - Math.max(q[i + 1], q[i + 4], q[i + 7], q[i + 10]),
    0,
  );
  return Math.hypot(dx, dy);
}

/** Probes where the distance is no greater than at both neighbours. */
function valleys(spine: Spine, segment: number, p: Point): number[] {
  const away = Array.from({ length: PROBES + 1 }, (_, k) => distance(pointAt(spine, { segment, t: k / PROBES }), p));
  return away.flatMap((d, k) => (d <= (away[k - 1] ?? Infinity) && d <= (away[k + 1] ?? Infinity) ? [k / PROBES] : []));
}

/** The bottom of a probe's valley. */
function lowest(spine: Spine, segment: number, p: Point, start: number): number {
  const away = (t: number) => distance(pointAt(spine, { segment, t }), p);
  const found = nearestOnCubic(spine.points, segment * SEGMENT, p, start, 1 / PROBES);
  return away(found) < away(start) ? found : start;
}

/**
 * Where a cubic, whose first triple is at `offset`, comes nearest to `p` within `window` of `start`: the root of the slope of
 * the squared distance, by Newton's steps that are kept in a bracket (Press et al. 2007, §9.4, `rtsafe`).
 */
export function nearestOnCubic(q: Float64Array, offset: number, p: Point, start: number, window: number): number {
  const [ax, bx, cx, dx] = [q[offset], q[offset + 3], q[offset + 6], q[offset + 9]];
  const [ay, by, cy, dy] = [q[offset + 1], q[offset + 4], q[offset + 7], q[offset + 10]];
  let low = Math.max(0, start - window);
  let high = Math.min(1, start + window);
  let t = start;
  for (let step = 0; step < 60; step++) {
    const ex = cubicAt(ax, bx, cx, dx, t) - p.x;
    const ey = cubicAt(ay, by, cy, dy, t) - p.y;
    const vx = cubicSlope(ax, bx, cx, dx, t);
    const vy = cubicSlope(ay, by, cy, dy, t);
    const slope = ex * vx + ey * vy;
    if (slope === 0) return t;
    if (slope < 0) low = t;
    else high = t;
    const wx = 6 * ((1 - t) * (cx - 2 * bx + ax) + t * (dx - 2 * cx + bx));
    const wy = 6 * ((1 - t) * (cy - 2 * by + ay) + t * (dy - 2 * cy + by));
    const steepness = vx * vx + vy * vy + ex * wx + ey * wy;
    const newton = steepness > 0 ? t - slope / steepness : NaN;
    const next = newton >= low && newton <= high ? newton : (low + high) / 2;
    if (Math.abs(next - t) < 1e-13 || high - low < 1e-13) return next;
    t = next;
  }
  return t;
}
