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

/** The bottom of a probe's valley: by Newton steps, or where those leave it (at cusps) by golden-section search. */
function lowest(spine: Spine, segment: number, p: Point, start: number): number {
  const away = (t: number) => distance(pointAt(spine, { segment, t }), p);
  const t = descend(spine, segment, p, start);
  if (away(t) <= away(start)) return t;
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [Math.max(0, start - 1 / PROBES), Math.min(1, start + 1 / PROBES)];
  while (high - low > 1e-9) {
    const reach = golden * (high - low);
    if (away(high - reach) < away(low + reach)) high = low + reach;
    else low = high - reach;
  }
  const found = (low + high) / 2;
  return away(found) < away(start) ? found : start;
}

/** Gauss–Newton on the squared distance, kept within the probe's neighbourhood. */
function descend(spine: Spine, segment: number, p: Point, start: number): number {
  const q = spine.points;
  const i = segment * SEGMENT;
  const low = Math.max(0, start - 1 / PROBES);
  const high = Math.min(1, start + 1 / PROBES);
  let t = start;
  for (let step = 0; step < 12; step++) {
    const ex = cubicAt(q[i], q[i + 3], q[i + 6], q[i + 9], t) - p.x;
    const ey = cubicAt(q[i + 1], q[i + 4], q[i + 7], q[i + 10], t) - p.y;
    const vx = cubicSlope(q[i], q[i + 3], q[i + 6], q[i + 9], t);
    const vy = cubicSlope(q[i + 1], q[i + 4], q[i + 7], q[i + 10], t);
    const speed = vx * vx + vy * vy;
    if (speed < 1e-18) break;
    const next = Math.min(high, Math.max(low, t - (ex * vx + ey * vy) / speed));
    if (Math.abs(next - t) < 1e-12) break;
    t = next;
  }
  return t;
}
