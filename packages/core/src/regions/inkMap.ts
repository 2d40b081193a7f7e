import { balloonRings } from '../balloon';
import { areaWithin, type Area } from '../area';
import type { Spine } from '../curve';
import { areaMarks, isAreaThing, strokeMarks, type DrawnEntity, type Mark } from '../drawn';
import { OUTLINE_TOLERANCE } from '../ink';
import {
  areaOfRings,
  boxesMeet,
  boxOfFlat,
  boxOfPoints,
  boxOfRings,
  grownRings,
  oddRings,
  ringArea,
  ringPoints,
  windingOf,
  withinRings,
  withoutRings,
  type Point,
} from '../math';
import { cutByLoop, joinedRings, LEAST_INK, ringsFrom, ringsTakenFrom, ringsWithout } from '../mend';
import type { Stroke } from '../stroke';
import type { Neighbours } from './flats';
import { faceArea, planarMap } from './planar';

/** A piece that overlapping ink makes: no outline goes through it. */
export interface Piece {
  /** Its outer ring, then its holes, which wind the other way; page px. */
  readonly rings: readonly Float64Array[];
  /** Page px². */
  readonly area: number;
  /** Whose ink it is, by their places in the list, ascending. */
  readonly of: readonly number[];
}

/** How far from a line, page px, a corner becomes a part of it where pieces are looked for: edges that nearly meet are one. */
const WELD = 0.05;

/** What something lays on the paper. */
/** What makes pieces: lines, and areas whatever fills them. */
type Whole = Stroke | Area;

const marksOfThing = (thing: Whole): readonly Mark[] => (isAreaThing(thing) ? areaMarks(thing) : strokeMarks(thing));

/** The ink of things on one layer, lowest first, as rings for the non-zero rule: what nicks take away is not there. */
export function inkOfEach(things: readonly Whole[]): (readonly Float64Array[])[] {
  const inks: (readonly Float64Array[])[] = [];
  for (const thing of things) {
    const marks = marksOfThing(thing);
    const rings = marks.flatMap((mark) => {
      const own = mark.rings(OUTLINE_TOLERANCE);
      return mark.rule === 'evenodd' ? oddRings(own) : own;
    });
    if (!marks.some(({ cuts }) => cuts)) {
      inks.push(rings);
      continue;
    }
    const reach = boxOfRings(rings);
    for (const [k, beneath] of inks.entries())
      if (boxesMeet(boxOfRings(beneath), reach)) inks[k] = withoutRings(beneath, rings);
    inks.push([]);
  }
  return inks;
}

/**
 * The pieces that overlapping ink makes, in a loop (page px) or as a whole: things as their layer shows them, lowest first.
 * Pieces end at the loop. What was cut flush with a line, and so ends just within it, goes across it all the same.
 */
export function inkMap(things: readonly Whole[], loop?: readonly Point[]): Piece[] {
  const around = loop && [Float64Array.from(loop.flatMap(({ x, y }) => [x, y]))];
  const reach = loop && boxOfPoints(loop);
  const sources = inkOfEach(things).map((rings) => {
    if (!around || !reach) return withoutRings(rings, []);
    return boxesMeet(boxOfRings(rings), reach) ? withinRings(rings, around) : [];
  });
  return planarMap(sources, WELD)
    .faces.map((face): Piece => ({ ...face, area: faceArea(face) }))
    .filter(({ of, area }) => of.length > 0 && area > LEAST_INK);
}

/** Whether a place lies in a piece. */
export const isInPiece = ({ rings }: Pick<Piece, 'rings'>, at: Point): boolean =>
  rings.reduce((winding, ring) => winding + windingOf(ring, at), 0) !== 0;

/** Which pieces lie beside one another, by their places in the list, and along how many page px. */
export function sidesOf(pieces: readonly Piece[]): Neighbours {
  const sides = new Map<number, Map<number, number>>(pieces.map((_, k) => [k, new Map()]));
  const left = new Map<string, number>();
  for (const [k, { rings }] of pieces.entries())
    for (const ring of rings)
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
        const [from, to] = [`${ring[j]} ${ring[j + 1]}`, `${ring[i]} ${ring[i + 1]}`];
        const other = left.get(`${to} ${from}`);
        if (other === undefined) {
          left.set(`${from} ${to}`, k);
          continue;
        }
        const length = Math.hypot(ring[i] - ring[j], ring[i + 1] - ring[j + 1]);
        for (const [one, two] of [
          [k, other],
          [other, k],
        ])
          sides.get(one)?.set(two, (sides.get(one)?.get(two) ?? 0) + length);
      }
  return sides;
}

/** Page px that a cut reaches out over bare paper, so that it surely goes across the whole line. */
const REACH = 0.5;
/** Page px by which what goes is grown: cuts lie just within the line that they end on, and no hair is left behind. */
const HAIR = 0.02;
/** The share of what goes by which a cut line may differ from what is meant before it becomes an area, and px² that never tell. */
const UNLIKE = 0.02;
const LEAST_UNLIKE = 1;

/**
 * A thing without some pieces of its ink (rings for the non-zero rule, page px); nothing where they take nothing. A line
 * stays lines where cuts across it leave the very same ink, and becomes an area where they do not; one that is filled
 * always does. `shown` is how its layer shows a line.
 */
export function withoutPieces<S extends Stroke, A extends Area>(
  thing: S | A,
  gone: readonly Float64Array[],
  shown: (line: S) => S = (line) => line,
): (S | A | Area)[] | undefined {
  const [ink] = inkOfEach([isAreaThing(thing) ? thing : shown(thing)]);
  const reach = boxOfRings(ink);
  const near = gone.filter((ring) => boxesMeet(boxOfFlat(ring, 2), reach));
  if (near.length === 0) return undefined;
  const own = withoutRings(ink, []);
  // What merely lies beside a piece loses nothing: edges that nearly meet were made one.
  if (areaOfRings(withinRings(own, grownRings(near, -WELD))) < LEAST_INK) return undefined;
  const grown = grownRings(near, HAIR);
  if (isAreaThing(thing)) {
    const rings = ringsWithout(thing, grown) ?? thing.rings;
    return rings.length > 0 ? [{ ...thing, rings }] : [];
  }
  const going = withinRings(own, near);
  const left = withoutRings(own, grown);
  if (areaOfRings(left) < LEAST_INK) return [];
  const lines = thing.fills ? undefined : cutLines(thing, withoutRings(grownRings(going, REACH), left));
  const most = Math.max(LEAST_UNLIKE, UNLIKE * areaOfRings(going));
  // A bite out of a side leaves one part, not two lines that meet there.
  const parts = left.filter((ring) => ringArea(ring) > LEAST_INK).length;
  if (lines?.length === parts && unlike(inkOfEach(lines.map(shown)).flat(), left) <= most) return lines;
  return [{ ...inkAsArea(thing), rings: ringsFrom(left) }];
}

/** A line cut by each of some rings in turn; holes in them say nothing. */
function cutLines<S extends Stroke>(line: S, loops: readonly Float64Array[]): S[] {
  return loops
    .filter((ring) => ringArea(ring) > 0)
    .reduce<S[]>(
      (lines, ring) => {
        const loop = ringPoints(ring);
        return lines.flatMap((one) => cutByLoop(one, loop) ?? [one]);
      },
      [line],
    );
}

/** px² that lie in the one and not in the other. */
const unlike = (a: readonly Float64Array[], b: readonly Float64Array[]): number =>
  areaOfRings(withoutRings(a, b)) + areaOfRings(withoutRings(b, a));

/** The ink of a line as an area in its colour. */
export function inkAsArea(line: Stroke): Area {
  const { color, opacity } = line.nib;
  const rings = ringsFrom(withoutRings(inkOfEach([line])[0], []));
  return { rings, fill: { as: 'colour', color, ...(opacity !== undefined && { opacity }) } };
}

/** What something on the paper goes round: panels and balloons their inside, dots and letters nothing. */
export function shapeOf(entity: DrawnEntity): Whole | undefined {
  switch (entity.kind) {
    case 'stroke':
    case 'area':
      return entity;
    case 'panel':
      return { rings: [entity.ring], fill: { as: 'nothing' } };
    case 'balloon':
      return { rings: ringsFrom(balloonRings(entity, OUTLINE_TOLERANCE)), fill: { as: 'nothing' } };
    case 'dots':
    case 'lettering':
      return undefined;
  }
}

/** All that some things go round, with their ink, as the rings of an area. */
export const ringsRound = (things: readonly Whole[]): Spine[] =>
  joinedRings(
    things.map((thing): Area => {
      if (isAreaThing(thing)) return thing;
      const within = areaWithin([thing.spine], { as: 'nothing' });
      return { ...within, rings: [...within.rings, ...ringsFrom(inkOfEach([thing])[0], { isEased: false })] };
    }),
  );

/** The first of some areas as one with the others. */
export const joinAreas = <A extends Area>(areas: readonly [A, ...Area[]]): A => ({
  ...areas[0],
  rings: joinedRings(areas),
});

/** An area without another; nothing where they have nothing in common, none where nothing is left. */
export function cutAreas<A extends Area>(area: A, taken: Area): A[] | undefined {
  const rings = ringsTakenFrom(area, taken);
  if (!rings) return undefined;
  return rings.length > 0 ? [{ ...area, rings }] : [];
}
