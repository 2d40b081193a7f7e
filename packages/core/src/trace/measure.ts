import { STRIDE } from '../curve';
import { median, type Point } from '../math';
import { resampled, type Track } from './resampled';
import type { InkRaster } from './types';

/** Lines thinner than this are measured by how much ink lies across them, px: their edges run into each other. */
const HAIR = 4;

/** How dark a picture is at a place, 0..255, mixed of the four px around it; paper beyond its edges. */
export function inkAt({ width, height, ink }: InkRaster, x: number, y: number): number {
  const [u, v] = [x - 0.5, y - 0.5];
  const [left, top] = [Math.floor(u), Math.floor(v)];
  if (left < 0 || top < 0 || left >= width - 1 || top >= height - 1)
    return atEdge({ width, height, ink }, left, top, u - left, v - top);
  const [s, t] = [u - left, v - top];
  const i = top * width + left;
  const above = ink[i] + s * (ink[i + 1] - ink[i]);
  const below = ink[i + width] + s * (ink[i + width + 1] - ink[i + width]);
  return above + t * (below - above);
}

function atEdge({ width, height, ink }: InkRaster, left: number, top: number, s: number, t: number): number {
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= width || y >= height ? 0 : ink[y * width + x]);
  const above = at(left, top) * (1 - s) + at(left + 1, top) * s;
  const below = at(left, top + 1) * (1 - s) + at(left + 1, top + 1) * s;
  return above * (1 - t) + below * t;
}

/**
 * Measures a line on the picture itself: from a way along its middle, x, y, it looks to both sides for where the ink falls to
 * half of its strength, twice, the second time from the middle that the first one found. `radii` is half of its width at
 * each place, roughly; where there is no such edge near, the way itself stands with that.
 */
export function measured(raster: InkRaster, way: Float64Array, radii: Float64Array, isRing: boolean): Track {
  const count = radii.length;
  const triples = new Float64Array(STRIDE * count);
  for (let k = 0; k < count; k++) triples.set([way[2 * k], way[2 * k + 1], 2 * radii[k]], STRIDE * k);
  const radius = median(radii);
  const rough = resampled(evenedTrack(triples, isRing ? 8 : 6, isRing), Math.max(1, radius / 3), isRing);
  const once = across(raster, { points: evenedTrack(rough.points, 1, isRing), step: rough.step }, radius, isRing);
  return across(raster, { points: evenedTrack(once.points, 2, isRing), step: once.step }, radius, isRing);
}

/** Points of which each is the mean of itself and its neighbours, 1 2 1, some times; ends stay. */
export function evenedTrack(points: Float64Array, passes: number, isRing: boolean): Float64Array {
  const count = points.length / STRIDE;
  let [from, to] = [Float64Array.from(points), new Float64Array(points.length)];
  for (let pass = 0; pass < passes && count > 2; pass++) {
    for (let k = 0; k < count; k++) {
      const a = isRing ? (k + count - 1) % count : Math.max(0, k - 1);
      const c = isRing ? (k + 1) % count : Math.min(count - 1, k + 1);
      const isEnd = !isRing && (k === 0 || k === count - 1);
      for (let axis = 0; axis < STRIDE; axis++) {
        const own = from[STRIDE * k + axis];
        to[STRIDE * k + axis] = isEnd ? own : (from[STRIDE * a + axis] + 2 * own + from[STRIDE * c + axis]) / 4;
      }
    }
    [from, to] = [to, from];
  }
  return from;
}

function across(raster: InkRaster, { points, step }: Track, radius: number, isRing: boolean): Track {
  const count = points.length / STRIDE;
  const found = new Float64Array(points.length);
  const reach = Math.max(1, Math.round(Math.max(2, radius) / step));
  for (let k = 0; k < count; k++) {
    const a = STRIDE * (isRing ? (k + count - (reach % count)) % count : Math.max(0, k - reach));
    const c = STRIDE * (isRing ? (k + reach) % count : Math.min(count - 1, k + reach));
    const [dx, dy] = [points[c] - points[a], points[c + 1] - points[a + 1]];
    const length = Math.hypot(dx, dy) || 1;
    const i = STRIDE * k;
    const at = { x: points[i], y: points[i + 1], nx: -dy / length, ny: dx / length };
    const profile = profileAt(raster, at, Math.max(0.5, points[i + 2] / 2));
    const shift = profile?.shift ?? 0;
    found[i] = points[i] - (shift * dy) / length;
    found[i + 1] = points[i + 1] + (shift * dx) / length;
    found[i + 2] = profile?.width ?? points[i + 2];
  }
  return { points: found, step };
}

/** A place on a line, and the direction across it. */
interface Across extends Point {
  readonly nx: number;
  readonly ny: number;
}

/** Where ink lies across a line: how far its middle is along the normal, and how wide it is. Nothing where no edge is near. */
function profileAt(raster: InkRaster, { x, y, nx, ny }: Across, radius: number) {
  const reach = 1.9 * radius + 2.5;
  const step = 0.5;
  let peak = 0;
  for (let s = -radius / 2; s <= radius / 2; s += step) peak = Math.max(peak, inkAt(raster, x + s * nx, y + s * ny));
  if (peak < 24) return undefined;
  const half = peak / 2;
  const edge = (way: 1 | -1): number | undefined => {
    let before = inkAt(raster, x, y);
    for (let s = step; s <= reach; s += step) {
      const here = inkAt(raster, x + way * s * nx, y + way * s * ny);
      if (before >= half && here < half) return s - step + (step * (before - half)) / (before - here);
      before = here;
    }
    return undefined;
  };
  const [out, back] = [edge(1), edge(-1)];
  if (out === undefined || back === undefined) return undefined;
  const width = out + back;
  const shift = (out - back) / 2;
  if (Math.abs(shift) > 0.8 * radius + 1 || width > 3.6 * radius + 3) return undefined;
  if (width > HAIR) return { shift, width };
  // Of a hair all the ink is counted, down to where it is paper or another line begins.
  let [sum, moment] = [0, 0];
  for (const way of [1, -1] as const) {
    let lowest = Infinity;
    for (let s = way > 0 ? 0 : step; s <= width / 2 + 2; s += step) {
      const at = shift + way * s;
      const here = inkAt(raster, x + at * nx, y + at * ny);
      if (here > lowest + 12 && s > width / 2) break;
      lowest = Math.min(lowest, here);
      sum += here;
      moment += here * at;
    }
  }
  return { shift: moment / sum, width: (sum * step) / Math.max(peak, 255 * 0.6) };
}
