import { STRIDE } from '../curve';
import type { Dots, DotsEntity } from '../dots';
import { PageError } from '../gate';
import {
  affineOf,
  apply,
  applyProjective,
  boxesMeet,
  boxOfDiscs,
  boxOfPoints,
  growBox,
  hullOf,
  isAffine,
  localScaleOf,
  pointToLeg,
  type Box,
  type Matrix3x3,
  type Point,
} from '../math';
import { FARTHEST_DRAWN } from '../stroke';
import { discRing } from '../tone';
import type { Drawn, MapOptions } from './drawn';
import { sideOf } from './horizon';
import type { Mark } from './mark';

/** Page px of the side of a square whose dots are painted together. */
const PATCH = 256;

/** How many dots are drawn and handled as one thing. */
export const drawnDots: Drawn<DotsEntity> = {
  marks: dotMarks,
  box: dotBox,
  pieces: (entity) => dotMarks(entity).flatMap(({ box }) => box ?? []),
  reach: ({ dots }) => dots.reduce((most, value, i) => (i % STRIDE === 2 ? Math.max(most, value / 2) : most), 0),
  ways: ({ dots }) => [{ points: hullOf(dots, STRIDE), stride: 2 }],
  hold: dotBox,
  gap: gapToDots,
  map: mappedDots,
  colour: ({ fill }) => (fill.as === 'colour' ? fill.color : undefined),
  coloured: (entity, color) => (entity.fill.as === 'colour' ? { ...entity, fill: { ...entity.fill, color } } : entity),
  bare: ({ kind, id, layerId, order, dots, fill }) => ({ kind, id, layerId, order, dots, fill }),
};

const marked = new WeakMap<Dots, readonly Mark[]>();

/** What dots lay on the paper: a mark for all that lie near each other, so that only those are painted that are seen. */
export function dotMarks(thing: Dots): readonly Mark[] {
  let marks = marked.get(thing);
  if (!marks) marked.set(thing, (marks = patches(thing.dots).map((patch) => markOf(patch, thing.fill))));
  return marks;
}

const parted = new WeakMap<Float64Array, readonly Float64Array[]>();

/** Dots square by square; the same for the same dots, so that another colour makes no new path. */
function patches(dots: Float64Array): readonly Float64Array[] {
  let found = parted.get(dots);
  if (found) return found;
  const squares = new Map<string, number[]>();
  for (let i = 0; i < dots.length; i += STRIDE) {
    const key = `${Math.floor(dots[i] / PATCH)} ${Math.floor(dots[i + 1] / PATCH)}`;
    const square = squares.get(key);
    if (square) square.push(dots[i], dots[i + 1], dots[i + 2]);
    else squares.set(key, [dots[i], dots[i + 1], dots[i + 2]]);
  }
  parted.set(dots, (found = [...squares.values()].map((square) => Float64Array.from(square))));
  return found;
}

const markOf = (patch: Float64Array, fill: Dots['fill']): Mark => ({
  of: [patch],
  rule: 'nonzero',
  rings: (tolerance) =>
    Array.from({ length: patch.length / STRIDE }, (_, k) => {
      const i = STRIDE * k;
      return discRing(patch[i], patch[i + 1], patch[i + 2] / 2, tolerance);
    }),
  box: boxOfDiscs(patch, 0, patch.length),
  ...(fill.as === 'nothing'
    ? { color: '#000000', opacity: 1, cuts: true }
    : { color: fill.color, opacity: fill.opacity ?? 1 }),
});

const boxes = new WeakMap<Float64Array, Box>();

function dotBox({ dots }: Pick<Dots, 'dots'>): Box {
  let box = boxes.get(dots);
  if (!box) boxes.set(dots, (box = boxOfDiscs(dots, 0, dots.length)));
  return box;
}

function gapToDots({ dots }: DotsEntity, from: Point, to: Point, reach: number): number {
  if (!boxesMeet(dotBox({ dots }), growBox(boxOfPoints([from, to]), reach))) return Infinity;
  let least = Infinity;
  for (let i = 0; i < dots.length; i += STRIDE) {
    const away = Math.sqrt(pointToLeg(dots[i], dots[i + 1], from.x, from.y, to.x, to.y)) - dots[i + 2] / 2;
    if (away < least) least = away;
  }
  return least <= reach ? least : Infinity;
}

/** Dots under a map of the page: they go along and stay round. Throws a PageError as lines do. */
function mappedDots(entity: DotsEntity, map: Matrix3x3, { scaleWidth }: MapOptions): DotsEntity {
  const affine = isAffine(map) ? affineOf(map) : undefined;
  if (!affine) sideOf({ points: entity.dots, closed: false }, map);
  const dots = entity.dots.slice();
  for (let i = 0; i < dots.length; i += STRIDE) {
    const [x, y] = [dots[i], dots[i + 1]];
    const at = affine ? apply(affine, { x, y }) : applyProjective(map, x, y);
    if (!(Math.hypot(at.x, at.y) < FARTHEST_DRAWN)) throw new PageError('Some dots would lie too far off the page.');
    dots[i] = at.x;
    dots[i + 1] = at.y;
    if (scaleWidth) dots[i + 2] *= localScaleOf(map, x, y);
  }
  return { ...entity, dots };
}
