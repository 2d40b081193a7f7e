import { flatRing, type Area } from '../area';
import { evenlyWide, fitSpine, makeSpine, type Spine } from '../curve';
import {
  areaOfRings,
  boxesMeet,
  boxOfRings,
  distance,
  ringArea,
  ringPoints,
  withinRings,
  withoutRings,
  type Point,
} from '../math';
import { polylineSpine } from '../shapes';
import { LEAST_INK } from './blots';

/** Page px that rings are flattened to before they are cut, and that new ones may stray from what was cut. */
const FLAT = 0.004;
const STRAY = 0.03;
/** Page px between places of a straight edge. */
const STEP = 4;

/** Whether new rings are fitted with curves, or left corner by corner: quicker, for whoever cuts while the hand moves. */
export interface CutOptions {
  readonly isEased?: boolean;
}

const polygons = ({ rings }: Area): Float64Array[] => rings.map((ring) => flatRing(ring, FLAT));

/** Polygons as the rings of an area. */
export function ringsFrom(found: readonly Float64Array[], { isEased = true }: CutOptions = {}): Spine[] {
  return found
    .filter((ring) => ring.length >= 6 && Math.abs(ringArea(ring)) > LEAST_INK)
    .map((ring) => {
      const corners = ringPoints(ring);
      return isEased ? fittedRing(corners) : evenlyWide(polylineSpine(corners, true), 0);
    });
}

/** A polygon as a closed spine of few cubics, corners kept. */
function fittedRing(corners: readonly Point[]): Spine {
  const start = sharpest(corners);
  const ring = [...corners.slice(start), ...corners.slice(0, start), corners[start]];
  // Long edges are told to be straight by places along them.
  const places = ring.flatMap((p, k): Point[] => {
    if (k === 0) return [p];
    const from = ring[k - 1];
    const count = Math.max(1, Math.ceil(distance(from, p) / STEP));
    return Array.from({ length: count }, (_, i) => ({
      x: from.x + ((p.x - from.x) * (i + 1)) / count,
      y: from.y + ((p.y - from.y) * (i + 1)) / count,
    }));
  });
  return evenlyWide(makeSpine(fitSpine(places, STRAY).points, true), 0);
}

/** The corner at which a ring turns most. */
function sharpest(corners: readonly Point[]): number {
  const count = corners.length;
  let [best, least] = [0, Infinity];
  for (let k = 0; k < count; k++) {
    const [a, b, c] = [corners[(k + count - 1) % count], corners[k], corners[(k + 1) % count]];
    const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, c.x - b.x, c.y - b.y];
    const along = (ux * vx + uy * vy) / (Math.hypot(ux, uy) * Math.hypot(vx, vy) || 1);
    if (along < least) [best, least] = [k, along];
  }
  return best;
}

/** All that any of some areas covers, as rings. */
export const joinedRings = (areas: readonly Area[]): Spine[] => ringsFrom(withoutRings(areas.flatMap(polygons), []));

/** What all of some areas cover together, as rings; none where they have nothing in common. */
export const commonRings = ([first, ...others]: readonly Area[]): Spine[] =>
  ringsFrom(others.reduce((left, area) => withinRings(left, polygons(area)), polygons(first)));

/** The rings of an area where polygons are taken out of it; nothing where they take nothing, none where they take it all. */
export function ringsWithout(area: Area, gone: readonly Float64Array[], options?: CutOptions): Spine[] | undefined {
  const own = polygons(area);
  if (!boxesMeet(boxOfRings(own), boxOfRings(gone)) || areaOfRings(withinRings(own, gone)) < LEAST_INK)
    return undefined;
  return ringsFrom(withoutRings(own, gone), options);
}

/** The rings of an area of which only what lies in polygons is left, as `ringsWithout`. */
export function ringsWithin(area: Area, kept: readonly Float64Array[], options?: CutOptions): Spine[] | undefined {
  const own = polygons(area);
  const left = withinRings(own, kept);
  return areaOfRings(withoutRings(own, [])) - areaOfRings(left) < LEAST_INK ? undefined : ringsFrom(left, options);
}

/** The rings of an area without those of another; nothing where they have nothing in common. */
export const ringsTakenFrom = (area: Area, taken: Area): Spine[] | undefined => ringsWithout(area, polygons(taken));
