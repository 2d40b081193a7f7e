import { reweighed, type GuidePath } from '../curve';
import { PageError } from '../gate';
import { spineAlong, trackOf } from '../guides';
import type { EntityId } from '../kind';
import { boxMiddle, boxOfPoints, distance, seededRandom, type Point } from '../math';
import type { Nib } from '../nib';
import { inked, type Stroke } from '../stroke';
import { APART, MOST_ROWS, refuseRows, type CombField, type Row } from './row';
import { rowsAcross } from './rows';
import { ringsOf, spansInside, type Bounds } from './spans';
import { tonedParts, toneAt, type CombTone } from './toned';

/** Another set of rows across the first. */
export interface Across {
  /** Radians from the first set. */
  readonly turn: number;
  /** It is there only where the tone asks for more than this share, 0..1. */
  readonly from: number;
}

/** How a comb fills a loop. Lengths in page px. */
export interface CombSettings {
  /** Its size is the weight of the rows, its tapers are theirs. */
  readonly nib: Nib;
  /** Between two rows; of rays, where they cross the loop on average; on a plane in the plane's own px. */
  readonly spacing: number;
  /** How far a row may stray from its place, 0..1 of the spacing. */
  readonly stray?: number;
  /** The share of rows that are left out, 0..1. */
  readonly missing?: number;
  /** How much of its length a row may lack at its far end, 0..1. */
  readonly short?: number;
  readonly tone?: CombTone;
  readonly across?: readonly Across[];
  /** A loop that stays free. */
  readonly middle?: readonly Point[];
  /** Rows may crowd where their field has its point; else they stop where they would touch. */
  readonly crowds?: true;
  /** The guide that the field belongs to: the lines remember it, so that they can be tethered. */
  readonly guideId?: EntityId;
}

/** Lines shorter than this, page px, are not drawn. */
const LEAST = 2;
/** The least spacing, page px. */
const LEAST_SPACING = 0.5;
/** Rows thinner than this, page px, are none. */
const THINNEST = 0.15;

/**
 * Rows along a field within a loop, or within an outline with holes, inked with a nib: hatching, and with further sets across
 * it crosshatching. The same seed combs the same. Throws a PageError for a loop that holds nothing, a spacing that is none, and
 * for more than 10,000 rows.
 */
export function combRows(bounds: Bounds, field: CombField, settings: CombSettings, seed: number): Stroke[] {
  const rings = ringsOf(bounds);
  if (!rings.some((ring) => ring.length > 2)) throw new PageError('Draw a loop for the rows to fill.');
  if (!(settings.spacing >= LEAST_SPACING)) throw new PageError(`Rows lie at least ${LEAST_SPACING} px apart.`);
  const random = seededRandom(seed);
  const strokes: Stroke[] = [];
  const sets: readonly Across[] = [{ turn: 0, from: 0 }, ...(settings.across ?? [])];
  for (const set of sets) {
    const own = set.turn === 0 ? field : turnedField(field, set.turn, rings.flat());
    for (const stroke of setOfRows({ rings, field: own, set, settings }, random)) {
      strokes.push(stroke);
      if (strokes.length > MOST_ROWS) refuseRows(strokes.length);
    }
  }
  return strokes;
}

/**
 * The share of the paper that evenly spaced sets of rows cover, 0..1: each lets through what lies between its rows, and what
 * crosses covers once (Murray 1936, after Davies).
 */
export const combShare = (weight: number, spacing: number, sets: number): number =>
  1 - (1 - Math.min(1, weight / spacing)) ** sets;

interface Combed {
  readonly rings: readonly (readonly Point[])[];
  readonly field: CombField;
  readonly set: Across;
  readonly settings: CombSettings;
}

function* setOfRows({ rings, field, set, settings }: Combed, random: () => number): Generator<Stroke> {
  const { nib, spacing, stray = 0, missing = 0, short = 0, tone, middle, guideId } = settings;
  const touch = settings.crowds ? 0 : APART * nib.size;
  const rowing = { spacing, touch, stray: () => (random() - 0.5) * stray };
  for (const row of rowsAcross(field, rings.flat(), rowing)) {
    // Every row takes the same numbers from the stream, so that a setting changes only what it says.
    const [isMissing, phase] = [random() < missing, random()];
    if (isMissing) continue;
    const full = nib.size / spacing;
    for (const span of spansInside(row.path, rings, middle)) {
      const parts = tone
        ? tonedParts(tone, { place: trackOf(row.path).place, spacing, full, from: set.from, k: row.k, phase }, span)
        : [span];
      for (const [from, to] of parts) {
        const [begin, end] = field.kind === 'rays' ? farFirst(row.path, field, from, to) : [from, to];
        const tip = begin + (end - begin) * (1 - short * random());
        const grain = Math.floor(random() * 0xffffffff);
        if (Math.abs(tip - begin) < LEAST) continue;
        const stroke = weighed(inked(spineAlong(row.path, begin, tip), nib, grain), row, [begin, tip], settings);
        if (stroke) yield guideId === undefined ? stroke : { ...stroke, guide: { id: guideId, path: row.path } };
      }
    }
  }
}

/** A row as thick as its tone asks for, and thinner where rows come together; nothing where it would be too thin to be seen. */
function weighed(
  stroke: Stroke,
  { path, narrowing }: Row,
  [begin, tip]: readonly [number, number],
  { tone, nib, spacing }: CombSettings,
): Stroke | undefined {
  const toned = tone?.by === 'weight' ? tone : undefined;
  if (!toned && !narrowing) return stroke;
  const { place } = trackOf(path);
  const full = nib.size / spacing;
  const factor = (at: Point) => (narrowing?.(at) ?? 1) * (toned ? toneAt(toned, at) / full : 1);
  const ends = [place(begin), place((begin + tip) / 2), place(tip)].map(factor);
  if (Math.max(...ends) * nib.size < THINNEST) return undefined;
  const marks = marksFor(path, [begin, tip], toned);
  const length = distance(place(begin), place(tip));
  const spine = reweighed(
    stroke.spine,
    marks.map((share) => share * length),
    (along, whole) => factor(place(begin + (tip - begin) * (along / whole))),
  );
  return { ...stroke, spine };
}

/** Shares of a row at which its weight bends. */
function marksFor(path: GuidePath, [begin, tip]: readonly [number, number], tone: CombTone | undefined): number[] {
  const even = [0.25, 0.5, 0.75];
  if (path.kind !== 'line' || !tone) return even;
  const bends = [tone.ramp.from, tone.ramp.to].map((p) => (trackOf(path).nearest(p) - begin) / (tip - begin));
  return [...even, ...bends.filter((share) => share > 0.02 && share < 0.98)].sort((a, b) => a - b);
}

function farFirst(path: GuidePath, point: Point, from: number, to: number): readonly [number, number] {
  const { place } = trackOf(path);
  return distance(place(from), point) >= distance(place(to), point) ? [from, to] : [to, from];
}

/** Radians from a right angle within which rows across rays are rings, and across rings rays. */
const UPRIGHT = 0.01;

/** A field whose rows cross those of another at an angle; straight ones where it has no such field of its kind. */
function turnedField(field: CombField, turn: number, loop: readonly Point[]): CombField {
  if (field.kind === 'rails' || field.kind === 'plane') return { ...field, angle: field.angle + turn };
  const isUpright = Math.abs(Math.abs(turn) - Math.PI / 2) < UPRIGHT;
  if (isUpright && field.kind === 'rays') return { kind: 'ripples', x: field.x, y: field.y, ratio: 1, angle: 0 };
  if (isUpright && field.kind === 'ripples' && field.ratio === 1) return { kind: 'rays', x: field.x, y: field.y };
  const middle = boxMiddle(boxOfPoints(loop));
  return { kind: 'rails', ...middle, angle: headingAt(field, middle) + turn };
}

/** The direction of a field's rows about a place, radians. */
function headingAt(field: CombField, { x, y }: Point): number {
  switch (field.kind) {
    case 'rays':
      return Math.atan2(y - field.y, x - field.x);
    case 'ripples':
      return Math.atan2(y - field.y, x - field.x) + Math.PI / 2;
    case 'echo': {
      const track = trackOf({ kind: 'curve', course: field.course });
      const way = track.direction(track.nearest({ x, y }));
      return Math.atan2(way.y, way.x);
    }
    case 'rails':
    case 'plane':
      return field.angle;
  }
}
