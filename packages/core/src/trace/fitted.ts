import { joinedSpines, STRIDE, type Spine } from '../curve';
import type { Corner } from './corners';
import { fewCubics } from './fewCubics';
import type { Track } from './resampled';
import { backwards, carriedOn, type Reach } from './reach';

/** The spine of a track with its corners: between two of them as few cubics as stay within `tolerance` px. */
export function fitted(track: Track, corners: readonly Corner[], isRing: boolean, tolerance: number): Spine {
  const count = track.points.length / STRIDE;
  const add = (triples: number[], k: number) => {
    const i = STRIDE * (isRing ? (k + count) % count : k);
    triples.push(track.points[i], track.points[i + 1], track.points[i + 2]);
  };
  const spread = Math.max(3, 0.7 * track.points[2]);
  const stretch = (from: number, to: number, start: Corner | undefined, end: Corner | undefined): Spine => {
    const triples: number[] = [];
    if (start) triples.push(start.x, start.y, start.width);
    const first = from + (start?.gap ?? 0);
    const last = to - (end?.gap ?? 0);
    // Between two corners that lie close together nothing was measured.
    if (first <= last) {
      if (start) triples.push(...backwards(carried(start.after, start)));
      for (let k = first; k <= last; k++) add(triples, k);
      if (end) triples.push(...carried(end.before, end));
    } else if (!start) add(triples, from);
    if (end) triples.push(end.x, end.y, end.width);
    else if (first > last) add(triples, to);
    return fewCubics(triples, tolerance, spread);
  };
  if (isRing) {
    if (corners.length === 0) return ringSpine(track, tolerance, spread);
    const parts = corners.map((corner, k) => {
      const next = corners[(k + 1) % corners.length];
      return stretch(corner.k, next.k + (k + 1 === corners.length ? count : 0), corner, next);
    });
    const { points } = joinedSpines(parts);
    points.set(points.subarray(0, STRIDE), points.length - STRIDE);
    return { points, closed: true };
  }
  const cuts = [undefined, ...corners, undefined];
  const parts: Spine[] = [];
  for (let k = 0; k + 1 < cuts.length; k++)
    parts.push(stretch(cuts[k]?.k ?? 0, cuts[k + 1]?.k ?? count - 1, cuts[k], cuts[k + 1]));
  return parts.length === 1 ? parts[0] : joinedSpines(parts);
}

/** Points of a side between where it was measured and its corner: x, y, width. */
function carried(side: Reach, corner: Corner): number[] {
  const length = Math.hypot(corner.x - side.x, corner.y - side.y);
  const parts = Math.max(1, Math.round(length / 1.5));
  const end = carriedOn(side, length);
  const triples: number[] = [];
  for (let k = 1; k < parts; k++) {
    const share = k / parts;
    const { x, y } = carriedOn(side, length * share);
    // The arc is drawn onto the corner, which lies a hair beside it.
    triples.push(x + share * (corner.x - end.x), y + share * (corner.y - end.y), side.width);
  }
  return triples;
}

/** A ring without a corner: smooth where it begins as well. */
function ringSpine({ points }: Track, tolerance: number, spread: number): Spine {
  const { points: fit } = fewCubics([...points, ...points.subarray(0, STRIDE)], tolerance, spread);
  // Both handles at the seam turn into the direction that lies between theirs.
  const n = fit.length;
  const [ux, uy] = [fit[STRIDE] - fit[0], fit[STRIDE + 1] - fit[1]];
  const [vx, vy] = [fit[n - 3] - fit[n - 6], fit[n - 2] - fit[n - 5]];
  const [out, back] = [Math.hypot(ux, uy) || 1, Math.hypot(vx, vy) || 1];
  const [sx, sy] = [ux / out + vx / back, uy / out + vy / back];
  const length = Math.hypot(sx, sy) || 1;
  fit[STRIDE] = fit[0] + (out * sx) / length;
  fit[STRIDE + 1] = fit[1] + (out * sy) / length;
  fit[n - 6] = fit[n - 3] - (back * sx) / length;
  fit[n - 5] = fit[n - 2] - (back * sy) / length;
  return { points: fit, closed: true };
}
