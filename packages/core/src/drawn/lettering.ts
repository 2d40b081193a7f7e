import { PageError } from '../gate';
import {
  applyProjective,
  boxesMeet,
  boxOfPoints,
  boxOfRings,
  depthAt,
  growBox,
  grownRings,
  isInRing,
  afterwards,
  type Box,
  type Matrix3x3,
  type Point,
} from '../math';
import { letterRings, MOST_IN_PART, type Lettering, type LetteringEntity, type SetLetters } from '../lettering';
import { FARTHEST_DRAWN } from '../stroke';
import type { Drawn, MapOptions } from './drawn';
import type { Mark } from './mark';

/** Page px by which letters may stray where they are only measured. */
const MEASURED = 0.25;

/** How lettering is drawn and handled: letters as rings, and beneath them a band round them where they have an outline. */
export const drawnLettering: Drawn<LetteringEntity> = {
  marks: letterMarks,
  box: letterBox,
  ways: (lettering) => [{ points: frameRing(lettering), stride: 2 }],
  hold: (lettering) => boxOfRings([frameRing(lettering)]),
  gap: gapToLetters,
  map: mappedLettering,
  colour: ({ style }) => style.color,
  coloured: (lettering, color) => ({ ...lettering, style: { ...lettering.style, color } }),
  bare: ({ kind, id, layerId, order, runs, style, fit, place, set }) => ({
    ...{ kind, id, layerId, order, runs, style, place, set },
    fit: fit.as === 'balloon' ? { as: 'free', width: Math.max(1, set.width) } : fit,
  }),
};

const marked = new WeakMap<Lettering, readonly Mark[]>();

function letterMarks(lettering: Lettering): readonly Mark[] {
  let marks = marked.get(lettering);
  if (!marks) marked.set(lettering, (marks = marksFor(lettering)));
  return marks;
}

function marksFor({ set, place, style }: Lettering): readonly Mark[] {
  const { outline, color } = style;
  const parts = partsOf(set, place);
  const letters = parts.map(([from, to]): Mark => {
    const rings = (tolerance: number) => letterRings(set, place, tolerance, from, to);
    return { of: [set, place, from], rule: 'nonzero', rings, color, opacity: 1, box: boxOfRings(rings(MEASURED)) };
  });
  if (!outline || outline.width <= 0) return letters;
  const round = letters.map((mark): Mark => ({
    ...mark,
    of: [set, place, mark.of[2], outline.width],
    rings: (tolerance) => grownRings(mark.rings(tolerance), outline.width),
    color: outline.color,
    ...(mark.box && { box: growBox(mark.box, outline.width) }),
  }));
  return [...round, ...letters];
}

/** Letters in parts that are painted together; those behind a horizon are left out with their part. */
function partsOf({ places }: SetLetters, place: Matrix3x3): (readonly [number, number])[] {
  const count = places.length / 7;
  const parts: (readonly [number, number])[] = [];
  for (let from = 0; from < count; from += MOST_IN_PART) parts.push([from, Math.min(count, from + MOST_IN_PART)]);
  return parts.filter(([from, to]) => {
    for (let k = from; k < to; k++) if (depthAt(place, places[7 * k + 5], places[7 * k + 6]) <= 0) return false;
    return true;
  });
}

/** The four corners of a text's own frame, on the page. */
function frameRing({ set: { width, height }, place }: Lettering): Float64Array {
  const [x, y] = [Math.max(1, width) / 2, Math.max(1, height) / 2];
  return Float64Array.from(
    [
      [-x, -y],
      [x, -y],
      [x, y],
      [-x, y],
    ].flatMap(([u, v]) => {
      const at = applyProjective(place, u, v);
      return [at.x, at.y];
    }),
  );
}

function letterBox(lettering: Lettering): Box {
  const boxes = letterMarks(lettering).flatMap(({ box }) => box ?? []);
  return boxOfRings([
    frameRing(lettering),
    ...boxes.map(({ minX, minY, maxX, maxY }) => Float64Array.of(minX, minY, maxX, maxY)),
  ]);
}

/** A text is taken hold of anywhere within its frame. */
function gapToLetters(lettering: LetteringEntity, from: Point, to: Point, reach: number): number {
  const ring = frameRing(lettering);
  if (!boxesMeet(boxOfRings([ring]), growBox(boxOfPoints([from, to]), reach))) return Infinity;
  return isInRing(ring, from) || isInRing(ring, to) ? 0 : Infinity;
}

/** Lettering under a map of the page, affine or projective: its letters go along. */
function mappedLettering(lettering: LetteringEntity, map: Matrix3x3, _options: MapOptions): LetteringEntity {
  const place = afterwards(lettering.place, map);
  const { width, height } = lettering.set;
  for (const [x, y] of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]) {
    if (depthAt(place, (x * width) / 2, (y * height) / 2) <= 1e-9)
      throw new PageError('Some letters would run over the horizon. Pull the corners less far.');
    const at = applyProjective(place, (x * width) / 2, (y * height) / 2);
    if (!(Math.hypot(at.x, at.y) < FARTHEST_DRAWN)) throw new PageError('Some letters would lie too far off the page.');
  }
  return { ...lettering, place };
}
