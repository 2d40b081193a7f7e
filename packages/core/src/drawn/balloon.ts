import { balloonRings, type Balloon, type BalloonEntity, type Body, type Tail } from '../balloon';
import { PageError } from '../gate';
import {
  apply,
  boxesMeet,
  boxOfPoints,
  boxOfRings,
  growBox,
  grownRings,
  legsApart,
  reversedRing,
  ringPoints,
  scaleOf,
  then,
  windingOf,
  type Box,
  type Matrix,
  type Matrix3x3,
  type Point,
} from '../math';
import { outlineOf } from '../ink';
import { FARTHEST_DRAWN, mapNib } from '../stroke';
import { evenlyWide } from '../curve';
import { polylineSpine } from '../shapes';
import type { Drawn, MapOptions } from './drawn';
import { affineAbout } from './mapFill';
import type { Mark } from './mark';

/** Page px by which an outline may stray where it is only measured. */
const MEASURED = 0.1;

/** How a balloon is drawn and handled: its ground, and on it one border round all of it. */
export const drawnBalloon: Drawn<BalloonEntity> = {
  endsAtBorder: true,
  marks: balloonMarks,
  box: balloonBox,
  reach: ({ border }) => (border ? border.size / 2 : 0),
  ways: (balloon, tolerance) => balloonRings(balloon, tolerance).map((points) => ({ points, stride: 2 })),
  hold: (balloon) => boxOfRings(measured(balloon)),
  gap: gapToBalloon,
  map: mappedBalloon,
  colour: ({ border, ground }) => border?.color ?? ground,
  coloured: (balloon, color) =>
    balloon.border
      ? { ...balloon, border: { ...balloon.border, color } }
      : { ...balloon, ...(balloon.ground !== undefined && { ground: color }) },
  bare: ({ kind, id, layerId, order, bodies, tails, bridges, border, ground }) => ({
    ...{ kind, id, layerId, order, bodies, tails },
    ...(bridges && { bridges }),
    ...(border && { border }),
    ...(ground !== undefined && { ground }),
  }),
};

const rings = new WeakMap<Balloon, readonly Float64Array[]>();

function measured(balloon: Balloon): readonly Float64Array[] {
  let known = rings.get(balloon);
  if (!known) rings.set(balloon, (known = balloonRings(balloon, MEASURED)));
  return known;
}

const marked = new WeakMap<Balloon, readonly Mark[]>();

function balloonMarks(balloon: Balloon): readonly Mark[] {
  let marks = marked.get(balloon);
  if (!marks) marked.set(balloon, (marks = marksFor(balloon)));
  return marks;
}

function marksFor(balloon: Balloon): readonly Mark[] {
  const { bodies, tails, bridges, border, ground } = balloon;
  const of = [bodies, tails, bridges] as const;
  const shape = { rule: 'nonzero', rings: (tolerance: number) => balloonRings(balloon, tolerance) } as const;
  const marks: Mark[] = [];
  if (ground !== undefined) marks.push({ ...shape, of: [...of, 'ground'], color: ground, opacity: 1 });
  if (!border) return marks;
  const { color, opacity = 1 } = border;
  marks.push({
    of: [...of, JSON.stringify(border)],
    rule: 'nonzero',
    rings: (tolerance) => borderRings(balloon, border, tolerance),
    ...{ color, opacity },
  });
  return marks;
}

/** The border as a band on both sides of the outline; with a nib that has an edge or a tip of its own as that inks it. */
function borderRings(
  balloon: Balloon,
  border: NonNullable<Balloon['border']>,
  tolerance: number,
): readonly Float64Array[] {
  const outline = balloonRings(balloon, tolerance);
  if (!border.tip && !border.edge) {
    const within = grownRings(outline, -border.size / 2).map(reversedRing);
    return [...grownRings(outline, border.size / 2), ...within];
  }
  return outline.flatMap((ring) => {
    const corners = ringPoints(ring);
    const spine = evenlyWide(polylineSpine(corners, true), border.size);
    return outlineOf({ spine, nib: border, ends: ['round', 'round'] }, tolerance).rings;
  });
}

const boxes = new WeakMap<Balloon, Box>();

function balloonBox(balloon: Balloon): Box {
  let box = boxes.get(balloon);
  if (!box) boxes.set(balloon, (box = growBox(boxOfRings(measured(balloon)), balloon.border?.size ?? 0)));
  return box;
}

function gapToBalloon(balloon: BalloonEntity, from: Point, to: Point, reach: number): number {
  if (!boxesMeet(balloonBox(balloon), growBox(boxOfPoints([from, to]), reach))) return Infinity;
  const outline = measured(balloon);
  const isIn = outline.reduce((winding, ring) => winding + windingOf(ring, from), 0) !== 0;
  if (isIn && balloon.ground !== undefined) return 0;
  let least = Infinity;
  for (const ring of outline)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      least = Math.min(least, legsApart(ring[j], ring[j + 1], ring[i], ring[i + 1], from.x, from.y, to.x, to.y));
  const away = Math.sqrt(least) - (balloon.border?.size ?? 0) / 2;
  return away <= reach ? away : Infinity;
}

/** A balloon under a map of the page: bodies go along, those that cannot be bent as the map is about their middle. */
function mappedBalloon(balloon: BalloonEntity, map: Matrix3x3, { scaleWidth }: MapOptions): BalloonEntity {
  const affine = affineAbout(map, balloonBox(balloon));
  const factor = scaleOf(affine);
  const { bodies, tails, bridges, border } = balloon;
  const moved: BalloonEntity = {
    ...balloon,
    bodies: bodies.map((body): Body => ({ ...body, place: then(body.place, affine) })),
    tails: tails.map((tail): Tail => mappedTail(tail, affine, factor)),
    ...(bridges && { bridges: bridges.map((bridge) => ({ ...bridge, width: bridge.width * factor })) }),
    ...(border && { border: scaleWidth ? mapNib(border, factor, affine) : border }),
  };
  const { minX, minY, maxX, maxY } = balloonBox(moved);
  if (!(Math.max(-minX, -minY, maxX, maxY) < FARTHEST_DRAWN))
    throw new PageError('Some balloons would lie too far off the page.');
  return moved;
}

function mappedTail(tail: Tail, map: Matrix, factor: number): Tail {
  const isMirrored = map[0] * map[3] - map[1] * map[2] < 0;
  return {
    ...tail,
    width: tail.width * factor,
    tip: apply(map, tail.tip),
    bend: isMirrored ? -tail.bend : tail.bend,
  };
}
