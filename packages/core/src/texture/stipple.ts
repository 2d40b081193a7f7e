import { rampAt, type Ramp } from '../area';
import { PageError } from '../gate';
import { boxOfPoints, pointToLeg, seededRandom, type Box, type Point } from '../math';
import { DotGrid } from './dotGrid';
import { isWithin, ringsOf, type Bounds } from './spans';

/** How much of the paper dots cover, 0..1: everywhere alike, along a way, or from an edge inwards. */
export interface DotTone {
  readonly share: number;
  /** Along it the share goes over into another one. */
  readonly ramp?: Ramp & { readonly share: number };
  /** From the edge, where it is `share`, it goes over into another one so many page px inwards. */
  readonly inward?: { readonly share: number; readonly over: number };
}

/** What dots are like. Lengths in page px. */
export interface DotSettings {
  /** Their width. */
  readonly size: number;
  /** How much wider or narrower than that a dot may be, 0..1. */
  readonly uneven?: number;
}

/** Dots that one loop may have. */
export const MOST_STREWN = 100_000;
/** The least room of a dot, in widths of it: the paper between two is still seen. */
const APART = 1.12;
/**
 * Dots to the square of the distance that they keep, as strewn here: measured, at any share alike. Discs thrown for ever come to
 * 4/π of 0.547 (Feder 1980), 0.697.
 */
const PACKED = 0.604;
/** Places tried over the distance that dots keep, to either side. */
const TRIED = 3;

/** What a dot covers on average, px²: narrower and wider ones do not cancel out. */
const areaOf = ({ size, uneven = 0 }: DotSettings): number =>
  (Math.PI / 4) * size * size * (1 + (uneven * uneven) / 12);

/** How far dots must lie apart to cover a share, page px: never so near that they would touch. */
export const roomFor = (share: number, settings: DotSettings): number =>
  Math.max(APART * settings.size * (1 + (settings.uneven ?? 0) / 2), Math.sqrt((PACKED * areaOf(settings)) / share));

/** The share beyond which dots would touch. */
export const mostShare = (settings: DotSettings): number =>
  (PACKED * areaOf(settings)) / (APART * settings.size * (1 + (settings.uneven ?? 0) / 2)) ** 2;

/**
 * Dots strewn in a loop, or in an outline with holes, so that they cover what a tone asks for: triples x, y, width, page px. No
 * two lie nearer than the mean of what both keep off, and no room is left for another (darts thrown until none sticks: Cook 1986).
 * The same seed strews the same. Throws a PageError for a loop that holds nothing and for more than 100,000 dots.
 */
export function stipple(bounds: Bounds, tone: DotTone, settings: DotSettings, seed: number): Float64Array {
  const rings = ringsOf(bounds).filter((ring) => ring.length > 2);
  if (rings.length === 0) throw new PageError('Draw a loop for the dots to fill.');
  const { size, uneven = 0 } = settings;
  if (!(size > 0)) throw new PageError('Dots need a width.');
  const random = seededRandom(seed);
  const box = boxOfPoints(rings.flat());
  const shareAt = shares(tone, rings, box);
  const darkest = Math.max(tone.share, tone.ramp?.share ?? 0, tone.inward?.share ?? 0);
  if (!(darkest > 0)) return new Float64Array(0);
  const least = roomFor(darkest, settings);
  const area = (box.maxX - box.minX) * (box.maxY - box.minY);
  const expected = (PACKED * area) / (least * least);
  if (expected > 4 * MOST_STREWN) refuse(expected);
  const darts = dartsIn({ rings, box, least, shareAt }, settings, random);
  const grid = new DotGrid(2 * least);
  const dots: number[] = [];
  let most = 0;
  for (const k of shuffled(darts.length / 3, random)) {
    const [x, y, room] = [darts[3 * k], darts[3 * k + 1], darts[3 * k + 2]];
    if (!grid.hasRoom(x, y, room, most)) continue;
    grid.add(x, y, room);
    most = Math.max(most, room);
    dots.push(x, y, size * (1 + uneven * (random() - 0.5)));
    if (dots.length > 3 * MOST_STREWN) refuse(expected);
  }
  return Float64Array.from(dots);
}

function refuse(count: number): never {
  throw new PageError(
    `This would be some ${Math.round(count).toLocaleString('en-GB')} dots, and at most ${MOST_STREWN.toLocaleString('en-GB')} are strewn at once. Take larger ones, a lighter tone or a smaller loop.`,
  );
}

/** What dots are strewn in: `least` is how far they lie apart where it is darkest, page px. */
interface Strewn {
  readonly rings: readonly (readonly Point[])[];
  readonly box: Box;
  readonly least: number;
  readonly shareAt: (x: number, y: number) => number;
}

/** Triples x, y, room of places that are tried, thicker where dots will be. */
function dartsIn({ rings, box, least, shareAt }: Strewn, settings: DotSettings, random: () => number): number[] {
  const darts: number[] = [];
  const side = 4 * least;
  const edge = edgeSquares(rings, box, side);
  for (let j = 0; box.minY + j * side < box.maxY; j++)
    for (let i = 0; box.minX + i * side < box.maxX; i++) {
      const [left, top] = [box.minX + i * side, box.minY + j * side];
      const isEdge = edge.has(squareNumber(i, j));
      if (!isEdge && !isWithin(rings, { x: left, y: top })) continue;
      const darkest = Math.max(
        shareAt(left, top),
        shareAt(left + side, top),
        shareAt(left, top + side),
        shareAt(left + side, top + side),
      );
      if (!(darkest > 0)) continue;
      const count = Math.ceil((side * TRIED) / roomFor(darkest, settings));
      const step = side / count;
      for (let n = 0; n < count * count; n++) {
        const x = left + ((n % count) + random()) * step;
        const y = top + (Math.floor(n / count) + random()) * step;
        const share = shareAt(x, y);
        if (share > 0 && (!isEdge || isWithin(rings, { x, y }))) darts.push(x, y, roomFor(share, settings));
      }
    }
  return darts;
}

/** The squares of a box, by number, that an edge may go through. */
function edgeSquares(rings: readonly (readonly Point[])[], { minX, minY }: Box, side: number): Set<number> {
  const found = new Set<number>();
  for (const ring of rings)
    for (let k = 0, last = ring.length - 1; k < ring.length; last = k++) {
      const leg = boxOfPoints([ring[last], ring[k]]);
      for (let j = Math.floor((leg.minY - minY) / side); j <= (leg.maxY - minY) / side; j++)
        for (let i = Math.floor((leg.minX - minX) / side); i <= (leg.maxX - minX) / side; i++)
          found.add(squareNumber(i, j));
    }
  return found;
}

const squareNumber = (i: number, j: number): number => j * 1_000_003 + i;

/** The numbers from 0 on in an order of chance (Fisher and Yates 1938). */
function shuffled(count: number, random: () => number): Uint32Array {
  const order = Uint32Array.from({ length: count }, (_, k) => k);
  for (let k = count - 1; k > 0; k--) {
    const other = Math.floor(random() * (k + 1));
    const kept = order[k];
    order[k] = order[other];
    order[other] = kept;
  }
  return order;
}

/** The share that is asked for about each place of a box. */
function shares(
  { share, ramp, inward }: DotTone,
  rings: readonly (readonly Point[])[],
  box: Box,
): (x: number, y: number) => number {
  if (ramp) return (x, y) => share + (ramp.share - share) * rampAt(ramp, x, y);
  if (!inward) return () => share;
  const awayAt = edgeDistance(rings, box);
  return (x, y) => share + (inward.share - share) * Math.min(1, awayAt(x, y) / Math.max(1e-9, inward.over));
}

/** Squares to either side of a box at whose corners the distance from an edge is known. */
const SQUARES = 96;

/** How far places of a box lie from an edge, page px: exact at the corners of a grid, and even between them. */
function edgeDistance(rings: readonly (readonly Point[])[], box: Box): (x: number, y: number) => number {
  const [wide, high] = [(box.maxX - box.minX) / SQUARES || 1, (box.maxY - box.minY) / SQUARES || 1];
  const known = new Float64Array((SQUARES + 1) ** 2);
  for (let j = 0, k = 0; j <= SQUARES; j++)
    for (let i = 0; i <= SQUARES; i++, k++) {
      const [x, y] = [box.minX + i * wide, box.minY + j * high];
      let square = Infinity;
      for (const ring of rings)
        for (let n = 0, last = ring.length - 1; n < ring.length; last = n++)
          square = Math.min(square, pointToLeg(x, y, ring[last].x, ring[last].y, ring[n].x, ring[n].y));
      known[k] = Math.sqrt(square);
    }
  return (x, y) => {
    const [u, v] = [(x - box.minX) / wide, (y - box.minY) / high];
    const [i, j] = [
      Math.min(SQUARES - 1, Math.max(0, Math.floor(u))),
      Math.min(SQUARES - 1, Math.max(0, Math.floor(v))),
    ];
    const [s, t, k] = [u - i, v - j, j * (SQUARES + 1) + i];
    return (
      (known[k] * (1 - s) + known[k + 1] * s) * (1 - t) +
      (known[k + SQUARES + 1] * (1 - s) + known[k + SQUARES + 2] * s) * t
    );
  };
}
