import { nested } from '../area';
import { mapSpine, STRIDE, type Spine } from '../curve';
import {
  boxHolds,
  boxOfFlat,
  chain,
  growBox,
  intersectBoxes,
  isInRing,
  ringArea,
  scaling,
  translation,
  uniteBoxes,
  type Box,
} from '../math';
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
export function blacksOf(skeleton: Skeleton, settings: TraceSettings): TracedBlack[] {
  const { solids, scale } = skeleton;
  const boxes = boxesOfBlacks(skeleton);
  const level = Math.max(1, Math.round(settings.darkness * 255));
  const least = (Math.PI / 4) * (settings.smallMarks * scale) ** 2;
  const own = { ...settings, smoothness: settings.smoothness * scale };
  return solids.flatMap((solid, k) => {
    const box = boxes.get(k + 1);
    if (!box) return [];
    const part = partOf(skeleton, k + 1, box);
    const map = chain(translation(part.x, part.y), scaling(1 / scale));
    const rings = contoursAt(part, level)
      .filter((ring) => Math.abs(ringArea(ring)) >= least)
      .map((ring) => mapSpine(curveOf(ring, own), map));
    return rings.length > 0 ? [{ key: `black${solid.at}`, rings: nested(rings) }] : [];
  });
}

/** Where each black lies, by its number: whole px of the raster, with what lies softly beside it. */
function boxesOfBlacks({ raster: { width, height }, solids, blackAt }: Skeleton): Map<number, Box> {
  const boxes = new Map<number, Box>();
  if (!solids.some(({ isBlack }) => isBlack)) return boxes;
  const across = width + 2;
  for (let y = 0; y < height; y++)
    for (let x = 0, i = (y + 1) * across + 1; x < width; x++, i++) {
      const number = blackAt[i];
      if (number === 0) continue;
      // From one end of a run to the other.
      const minX = x;
      while (x + 1 < width && blackAt[i + 1] === number) [x, i] = [x + 1, i + 1];
      const run = { minX, minY: y, maxX: x, maxY: y };
      boxes.set(number, uniteBoxes(boxes.get(number) ?? run, run));
    }
  const whole = { minX: 0, minY: 0, maxX: width - 1, maxY: height - 1 };
  for (const [number, box] of boxes) boxes.set(number, intersectBoxes(growBox(box, SOFT), whole));
  return boxes;
}

/** The ink of one black alone, as far as it reaches. */
function partOf({ raster, blackAt }: Skeleton, number: number, { minX, minY, maxX, maxY }: Box) {
  const across = raster.width + 2;
  const part = { x: minX, y: minY, width: maxX - minX + 1, height: maxY - minY + 1 };
  const own = new Uint8Array(part.width * part.height);
  for (let y = 0, to = 0; y < part.height; y++)
    for (let x = 0; x < part.width; x++, to++) {
      const ink = raster.ink[(minY + y) * raster.width + minX + x];
      const at = (minY + y + 1) * across + minX + x + 1;
      if (blackAt[at] === number) own[to] = ink;
      // Beside it its edge grows light; ink there that is dark belongs to a line.
      else if (
        blackAt[at - 1] === number ||
        blackAt[at + 1] === number ||
        blackAt[at - across] === number ||
        blackAt[at + across] === number
      )
        own[to] = Math.min(ink, 120);
    }
  return { ...part, ink: own };
}
