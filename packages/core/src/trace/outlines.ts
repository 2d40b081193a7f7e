import { nested } from '../area';
import { STRIDE, type Spine } from '../curve';
import { boxHolds, boxOfFlat, isInRing, ringArea, type Box } from '../math';
import { contoursAt } from './contours';
import { cornersOf } from './corners';
import { fitted } from './fitted';
import { evenedTrack } from './measure';
import { resampled } from './resampled';
import type { Skeleton } from './skeleton';
import type { TraceSettings } from '../page';
import type { InkRaster, TracedBlack } from './types';

/** An outline is looked at for corners as if it were a line so many px wide. */
const LOOK = 2.4;
/** Px of ink beside a black that its edge may need to run through. */
const SOFT = 2;

/** A contour as a curve: corners kept, otherwise as few cubics as stay within the smoothness. */
function curveOf(ring: Float64Array, { corners, smoothness }: TraceSettings): Spine {
  const triples = new Float64Array((ring.length / 2) * STRIDE);
  for (let k = 0; k * 2 < ring.length; k++) triples.set([ring[2 * k], ring[2 * k + 1], LOOK], STRIDE * k);
  const { points, step } = resampled(triples, 1, true);
  const track = { points: evenedTrack(points, 1, true), step };
  // Read off before it is evened: that rounds them.
  const turns = cornersOf({ points, step }, true, corners);
  return fitted(track, turns, true, smoothness);
}

interface Contour {
  readonly ring: Float64Array;
  readonly box: Box;
  readonly area: number;
}

/** The ink of a picture as areas: each with its holes, white is let be. Yields how far it has come, 0..1. */
export function* outlinesOf(raster: InkRaster, settings: TraceSettings): Generator<number, TracedBlack[]> {
  const level = Math.max(1, Math.round(settings.darkness * 255));
  const least = (Math.PI / 4) * settings.smallMarks ** 2;
  const contours = contoursAt(raster, level)
    .map((ring): Contour => ({ ring, box: boxOfFlat(ring, 2), area: ringArea(ring) }))
    .filter(({ area }) => Math.abs(area) >= least);
  yield 0.3;
  // Of what lies round a place the smallest is met first.
  const outer = contours.filter(({ area }) => area > 0).sort((one, two) => one.area - two.area);
  const holes = new Map<Contour, Contour[]>();
  for (const hole of contours.filter(({ area }) => area < 0)) {
    const [x, y] = hole.ring;
    const around = outer.find(
      ({ ring, box, area }) => area > -hole.area && boxHolds(box, hole.box) && isInRing(ring, { x, y }),
    );
    if (around) holes.set(around, [...(holes.get(around) ?? []), hole]);
  }
  const areas: TracedBlack[] = [];
  for (const [k, one] of outer.entries()) {
    if (k % 50 === 49) yield 0.3 + (0.7 * k) / outer.length;
    const rings = [one, ...(holes.get(one) ?? [])].map(({ ring }) => curveOf(ring, settings));
    areas.push({ key: `outline${Math.round(one.ring[0])},${Math.round(one.ring[1])}`, rings: nested(rings) });
  }
  return areas;
}

/** The blacks of a skeleton as areas, px of the picture: cut off straight where lines run into them. */
export function blacksOf({ raster, solids, blackAt, scale }: Skeleton, settings: TraceSettings): TracedBlack[] {
  const across = raster.width + 2;
  return solids.flatMap((solid, k) => {
    if (!solid.isBlack) return [];
    const part = partOf(raster, blackAt, across, k + 1, solid.at);
    const level = Math.max(1, Math.round(settings.darkness * 255));
    const own = { ...settings, smoothness: settings.smoothness * scale };
    const rings = contoursAt(part, level)
      .filter((ring) => Math.abs(ringArea(ring)) >= (Math.PI / 4) * (settings.smallMarks * scale) ** 2)
      .map((ring) => {
        const { points } = curveOf(ring, own);
        const offset = [part.x, part.y, 0];
        return { points: points.map((value, i) => (value + offset[i % STRIDE]) / scale), closed: true };
      });
    return rings.length > 0 ? [{ key: `black${solid.at}`, rings: nested(rings) }] : [];
  });
}

/** The ink of one black alone, as far as it reaches. */
function partOf(
  { width, height, ink }: InkRaster,
  blackAt: Uint16Array,
  across: number,
  number: number,
  start: number,
) {
  const list = [start];
  const seen = new Set(list);
  let [minX, minY, maxX, maxY] = [width, height, 0, 0];
  for (let head = 0; head < list.length; head++) {
    const at = list[head];
    const [x, y] = [(at % across) - 1, Math.floor(at / across) - 1];
    [minX, minY, maxX, maxY] = [Math.min(minX, x), Math.min(minY, y), Math.max(maxX, x), Math.max(maxY, y)];
    for (const next of [at - 1, at + 1, at - across, at + across])
      if (blackAt[next] === number && !seen.has(next)) {
        seen.add(next);
        list.push(next);
      }
  }
  [minX, minY] = [Math.max(0, minX - SOFT), Math.max(0, minY - SOFT)];
  [maxX, maxY] = [Math.min(width - 1, maxX + SOFT), Math.min(height - 1, maxY + SOFT)];
  const part = { x: minX, y: minY, width: maxX - minX + 1, height: maxY - minY + 1 };
  const own = new Uint8Array(part.width * part.height);
  for (let y = 0, to = 0; y < part.height; y++)
    for (let x = 0; x < part.width; x++, to++) {
      const from = (minY + y) * width + minX + x;
      const framed = (minY + y + 1) * across + minX + x + 1;
      const isOwn =
        blackAt[framed] === number ||
        blackAt[framed - 1] === number ||
        blackAt[framed + 1] === number ||
        blackAt[framed - across] === number ||
        blackAt[framed + across] === number;
      // Beside it its edge grows light; ink there that is dark belongs to a line.
      if (isOwn) own[to] = blackAt[framed] === number ? ink[from] : Math.min(ink[from], 120);
    }
  return { ...part, ink: own };
}
