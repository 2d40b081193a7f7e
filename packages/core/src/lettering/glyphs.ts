import { flattenCubic, STRIDE } from '../curve';
import { depthAt, localScaleOf, type Matrix3x3 } from '../math';
import type { SetLetters } from './types';

/** Letters whose outlines are made and painted together. */
export const MOST_IN_PART = 80;

const PLACE = 7;

interface Outline {
  readonly tolerance: number;
  readonly rings: readonly Float64Array[];
}

/** Outlines by their path data: letters come again and again. */
const known = new Map<string, Outline>();
const MOST_KNOWN = 4_000;

/** The rings of a letter's outline in font units, straying by no more than `tolerance` of these; the ones last asked for are kept. */
export function glyphRings(data: string, tolerance: number): readonly Float64Array[] {
  const last = known.get(data);
  if (last?.tolerance === tolerance) return last.rings;
  const rings = flattened(data, tolerance);
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(data, { tolerance, rings });
  return rings;
}

function flattened(data: string, tolerance: number): Float64Array[] {
  const rings: Float64Array[] = [];
  let line: number[] = [];
  const close = () => {
    const count = line.length / STRIDE;
    if (count > 2) {
      const ring = new Float64Array(2 * count);
      for (let k = 0; k < count; k++) ring.set([line[STRIDE * k], line[STRIDE * k + 1]], 2 * k);
      rings.push(ring);
    }
    line = [];
  };
  for (const [, command, numbers] of data.matchAll(/([MLCZ])([^MLCZ]*)/g)) {
    const n = numbers.trim().split(/\s+/).map(Number);
    if (command === 'M') {
      close();
      line = [n[0], n[1], 0];
    } else if (command === 'L') line.push(n[0], n[1], 0);
    else if (command === 'C') {
      const [x, y] = line.slice(-STRIDE);
      flattenCubic([x, y, 0, n[0], n[1], 0, n[2], n[3], 0, n[4], n[5], 0], 0, tolerance, line);
    } else close();
  }
  close();
  return rings.filter((ring) => ring.every(Number.isFinite));
}

/** The rings of letters `from` to `to` on the page, straying by no more than `tolerance` page px. */
export function letterRings(
  { glyphs, places }: SetLetters,
  place: Matrix3x3,
  tolerance: number,
  from = 0,
  to = places.length / PLACE,
): Float64Array[] {
  const all: Float64Array[] = [];
  for (let k = from; k < to; k++) {
    const i = PLACE * k;
    const [glyph, a, b, c, d, e, f] = places.subarray(i, i + PLACE);
    const scale = Math.max(Math.hypot(a, b), Math.hypot(c, d)) * Math.max(1e-9, localScaleOf(place, e, f));
    // In steps of two, so that letters of near sizes share their outlines.
    const own = 2 ** Math.floor(Math.log2(tolerance / Math.max(scale, 1e-9)));
    for (const ring of glyphRings(glyphs[glyph], own)) {
      const placed = new Float64Array(ring.length);
      for (let j = 0; j < ring.length; j += 2) {
        const [x, y] = [a * ring[j] + c * ring[j + 1] + e, b * ring[j] + d * ring[j + 1] + f];
        const depth = depthAt(place, x, y) || 1e-9;
        placed[j] = (place[0] * x + place[1] * y + place[2]) / depth;
        placed[j + 1] = (place[3] * x + place[4] * y + place[5]) / depth;
      }
      all.push(placed);
    }
  }
  return all;
}
