import { nearestOnSpine, partOf, placeNumber, SEGMENT, segmentCount, startedAt, STRIDE, type Spine } from '../curve';
import { median } from '../math';
import type { Said, TraceSettings } from '../page';
import { cornersOf, type Corner } from './corners';
import { fitted } from './fitted';
import type { RawLine } from './joined';
import { backwards, reachOf } from './reach';
import { resampled, widthsOf } from './resampled';
import { lastNear } from './said';
import type { Skeleton } from './skeleton';
import { tipped } from './tips';
import type { Place, TracedLine } from './types';

/** A line as it is laid down, in parts where it was split, and the places on it that can be decided about. */
export interface FinishedLine {
  readonly lines: readonly TracedLine[];
  readonly places: readonly Place[];
}

/** A corner is marked as doubtful from this share of the turn that makes one, up to that. */
const [LEAST_DOUBT, MOST_DOUBT] = [0.82, 1.18];

/** Carries a line out to its tips, finds its corners, and fits it. Px of the skeleton's raster. */
export function finishedLine(
  { raster, scale }: Skeleton,
  raw: RawLine,
  settings: TraceSettings,
  about: readonly Said[],
): FinishedLine {
  const places: Place[] = [];
  const width = median(widthsOf(raw.triples));
  let { triples } = raw;
  for (const k of [1, 0] as const) {
    if (raw.isRing || raw.ends[k] === 'joint') continue;
    if (k === 0) triples = backwards(triples);
    if (raw.ends[k] === 'black') triples = intoBlack(triples, width);
    else {
      const end = { x: triples[triples.length - 3], y: triples[triples.length - 2] };
      const word = lastNear(about, end, ['pointed', 'blunt'], 2 * width + 4);
      const as = word?.as === 'pointed' || word?.as === 'blunt' ? word.as : undefined;
      const tip = tipped(raster, triples, width, as);
      ({ triples } = tip);
      const [x, y] = triples.slice(-STRIDE);
      const choices: Said[] = [
        { x, y, as: 'pointed' },
        { x, y, as: 'blunt' },
      ];
      const isUnsure = !word && tip.isUnsure;
      places.push({ kind: 'tip', x, y, choice: tip.isPointed ? 0 : 1, choices, isUnsure, radius: width });
    }
    if (k === 0) triples = backwards(triples);
  }
  const track = resampled(triples, Math.max(1, Math.min(2.5, width / 5)), raw.isRing);
  const corners: Corner[] = [];
  for (const corner of cornersOf(track, raw.isRing, LEAST_DOUBT * settings.corners)) {
    const { x, y } = corner;
    const word = lastNear(about, corner, ['corner', 'smooth'], width + 3);
    const isCorner = word ? word.as === 'corner' : corner.turn >= settings.corners;
    if (isCorner) corners.push(corner);
    const choices: Said[] = [
      { x, y, as: 'corner' },
      { x, y, as: 'smooth' },
    ];
    const isUnsure = !word && corner.turn < MOST_DOUBT * settings.corners;
    places.push({ kind: 'corner', x, y, choice: isCorner ? 0 : 1, choices, isUnsure, radius: width });
  }
  const fit = fitted(track, corners, raw.isRing, settings.smoothness * scale ** 0.6);
  const spine = closedWhereBack(fit, raw, width / 2);
  return { lines: splitAt({ key: raw.key, spine }, about, width), places };
}

/** A line that comes back to the very place where it began is a ring with a corner there. */
function closedWhereBack(spine: Spine, { ends }: RawLine, within: number): Spine {
  const { points, closed } = spine;
  const n = points.length;
  if (closed || ends[0] !== 'joint' || ends[1] !== 'joint' || n <= SEGMENT + STRIDE) return spine;
  if (Math.hypot(points[0] - points[n - 3], points[1] - points[n - 2]) >= within) return spine;
  const ring = points.slice();
  ring.set(points.subarray(0, STRIDE), n - STRIDE);
  return { points: ring, closed: true };
}

/** The parts of a line where it was said that it be split; a ring opens at the first of them. */
function splitAt({ key, spine }: TracedLine, about: readonly Said[], width: number): TracedLine[] {
  const cuts = about.flatMap((one) => {
    if (one.as !== 'split') return [];
    const near = nearestOnSpine(spine, one);
    return Math.hypot(near.x - one.x, near.y - one.y) <= width / 2 + 3 ? [placeNumber(near)] : [];
  });
  const [first] = cuts;
  if (first === undefined) return [{ key, spine }];
  // Opened, the ring ends at that cut, which cuts nothing off any more.
  if (spine.closed) return splitAt({ key, spine: { ...startedAt(spine, first), closed: false } }, about, width);
  const whole = segmentCount(spine);
  const places = [0, ...cuts.filter((place) => place > 0.01 && place < whole - 0.01).sort((a, b) => a - b), whole];
  return places.slice(1).map((to, k) => ({ key: k === 0 ? key : `${key}/${k}`, spine: partOf(spine, places[k], to) }));
}

/** Lets a line go on into the black that it ends at, by as much as it is wide. */
function intoBlack(triples: readonly number[], width: number): number[] {
  const track = resampled(triples, 1, false);
  const end = reachOf(track, track.points.length / STRIDE - 1, 1, Math.max(4, 1.5 * width));
  const far = width + 1.5;
  return [...triples, end.x + far * Math.cos(end.angle), end.y + far * Math.sin(end.angle), end.width];
}
