import { STRIDE } from '../curve';
import { inkAt } from './measure';
import { straightTo, type Track } from './resampled';
import { carriedOn, reachOf, type Reach } from './reach';
import type { InkRaster } from './types';

/** A tip is pointed when the line has shrunk to this share of the width that it has this many widths before. */
const POINTED = 0.62;

/** Its own widths that ink goes on beyond the last place that was measured: farther than a round end does. */
const LONG = 1.3;

/** Widths over which a line thins out, or fills out, to a tip as it was said to be. */
const THINNING = 2;

/** A line that runs out to its very tip, and whether that is a point. */
export interface Tipped {
  readonly triples: number[];
  readonly isPointed: boolean;
  /** It has thinned out in part alone. */
  readonly isUnsure: boolean;
}

/**
 * Carries the end of a line out to where its ink ends. A full end stops half of its width before that, where the round of a
 * nib has its middle; a pointed one thins out to nothing. `said` overrules what was measured. The end is that of the last triple.
 */
export function tipped(
  raster: InkRaster,
  triples: number[],
  width: number,
  said: 'pointed' | 'blunt' | undefined,
): Tipped {
  const count = triples.length / STRIDE;
  const track: Track = { points: Float64Array.from(triples), step: meanStep(triples) };
  const end = reachOf(track, count - 1, 1, Math.max(4, 1.3 * width));
  const ink = walkedOut(raster, end, 2.5 * width + 6);
  const own = triples[triples.length - 1];
  const left = own / Math.max(width, 0.5);
  const isUnsure = left > 0.54 && left < 0.7;
  const isPointed = said ? said === 'pointed' : left < POINTED || ink > LONG * own;
  const out = [...triples];
  const last = triples.slice(-STRIDE);
  if (isPointed) {
    const { x, y } = carriedOn(end, Math.max(0.5, ink));
    const isFull = left >= POINTED;
    out.push(...straightTo(last, [x, y, isFull ? own : Math.min(0.3, own)]));
    // What is as wide as ever thins out over a stretch, its tip included.
    const thinning = Math.max(THINNING * width, 1.5 * ink, 6);
    if (isFull) eachNearEnd(out, thinning, (i, away) => (out[i + 2] *= Math.max(0.02, away / thinning)));
    return { triples: out, isPointed, isUnsure };
  }
  const blunt = said === 'blunt' ? Math.max(own, width) : own;
  const short = ink - blunt / 2;
  if (short >= 0.3) {
    const { x, y } = carriedOn(end, short);
    out.push(...straightTo(last, [x, y, blunt]));
  } else if (short < -0.3) cutBack(out, -short);
  if (blunt > own) eachNearEnd(out, THINNING * width, (i) => (out[i + 2] = Math.max(out[i + 2], blunt)));
  return { triples: out, isPointed, isUnsure };
}

function meanStep(triples: readonly number[]): number {
  const count = triples.length / STRIDE;
  if (count < 2) return 1;
  let length = 0;
  for (let i = Math.max(STRIDE, triples.length - 8 * STRIDE), n = 0; i < triples.length; i += STRIDE, n++)
    length += Math.hypot(triples[i] - triples[i - 3], triples[i + 1] - triples[i - 2]);
  return length / Math.min(count - 1, 8) || 1;
}

/** How far ink goes on along a reach, px: up to where it falls to half of what it is there. */
function walkedOut(raster: InkRaster, reach: Reach, most: number): number {
  const full = Math.max(64, inkAt(raster, reach.x, reach.y));
  let before = inkAt(raster, reach.x, reach.y);
  for (let s = 0.5; s <= most; s += 0.5) {
    const { x, y } = carriedOn(reach, s);
    const here = inkAt(raster, x, y);
    if (here < full / 2)
      return s - 0.5 + (before > here ? (0.5 * Math.max(0, before - full / 2)) / (before - here) : 0);
    before = here;
  }
  return most;
}

/** Takes some length off the end; two points stay. */
function cutBack(triples: number[], length: number): void {
  let left = length;
  while (triples.length > 2 * STRIDE) {
    const n = triples.length;
    const long = Math.hypot(triples[n - 3] - triples[n - 6], triples[n - 2] - triples[n - 5]);
    if (long > left) {
      const share = left / long;
      for (let axis = 0; axis < STRIDE; axis++)
        triples[n - STRIDE + axis] += share * (triples[n - 2 * STRIDE + axis] - triples[n - STRIDE + axis]);
      return;
    }
    triples.length = n - STRIDE;
    left -= long;
  }
}

/** Goes over the last stretch of a line: the place of each triple, and how far it is from the end. */
function eachNearEnd(triples: readonly number[], length: number, tell: (i: number, away: number) => void): void {
  let away = 0;
  for (let i = triples.length - STRIDE; i >= 0 && away < length; i -= STRIDE) {
    tell(i, away);
    if (i >= STRIDE) away += Math.hypot(triples[i] - triples[i - 3], triples[i + 1] - triples[i - 2]);
  }
}
