import { PageError } from '../gate';
import { clamp, seededRandom } from '../math';
import type { Nib } from '../nib';
import { inked, type Stroke } from '../stroke';
import { MOST_ROWS, refuseRows } from './row';
import { WayAlong } from './wayAlong';

/** A stretch of the edge of something black. */
export interface FeatherEdge {
  /** x, y pairs along it, page px. */
  readonly course: ArrayLike<number>;
  /** The side that rows grow to: 1 to the right of its way (y down), −1 to the left. */
  readonly side: 1 | -1;
  /** How long rows are at each of its places, as a share of their length; all of it where none are given. */
  readonly reach?: ArrayLike<number>;
}

/** How rows grow out of an edge. Lengths in page px. */
export interface FeatherSettings {
  /** Its size is their weight where they begin; all of them run out to a point. */
  readonly nib: Nib;
  readonly length: number;
  readonly spacing: number;
  /** Radians by which rows lean forward along the edge. */
  readonly slant?: number;
  /** How much of its length a row may lack, and by how much of the spacing it may stray, 0..1. */
  readonly uneven?: number;
}

/** Lines shorter than this, page px, are not drawn. */
const LEAST = 1;
/** The share of a row's weight by which it begins within the black. */
const ROOT = 0.75;
/** Rows on the inside of a bend stay shorter than this share of the way to where they would meet. */
const MEET = 0.85;

/**
 * Short rows that grow out of an edge of black and run out to points; round curves they fan. The same seed grows the same. Throws
 * a PageError for an edge without length, for a spacing or a length that is none, and for more than 10,000 rows.
 */
export function featherRows(edge: FeatherEdge, settings: FeatherSettings, seed: number): Stroke[] {
  const { nib, length, spacing, slant = 0, uneven = 0 } = settings;
  if (!(spacing >= 0.5)) throw new PageError('Rows lie at least 0.5 px apart.');
  if (!(length >= LEAST)) throw new PageError(`Rows are at least ${LEAST} px long.`);
  const way = new WayAlong(edge.course);
  if (!(way.length > 0)) throw new PageError('Draw along an edge of black: rows grow out of it.');
  const count = Math.floor(way.length / spacing) + 1;
  if (count > MOST_ROWS) refuseRows(count);
  const random = seededRandom(seed);
  const rows: Stroke[] = [];
  const laid: Nib = { ...nib, profile: 'out', taperIn: 0, taperOut: 0 };
  const half = Math.max(1.5 * spacing, 0.25 * length);
  for (let k = 0; k < count; k++) {
    const [aside, lack, grain] = [(random() - 0.5) * uneven * spacing, 1 - 0.6 * uneven * random(), random()];
    const at = clamp(k * spacing + aside, 0, way.length);
    const { x, y } = way.place(at);
    const heading = way.heading(at, half);
    // Where the edge turns towards the rows they come together: they end before they meet.
    const closing = edge.side * way.turning(at, half);
    const most = closing > 0 ? MEET / closing : Infinity;
    const long = Math.min(length * (edge.reach ? way.valueAt(edge.reach, at) : 1), most) * lack;
    if (!(long >= LEAST)) continue;
    const angle = heading + edge.side * (Math.PI / 2 - slant);
    const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
    const root = ROOT * nib.size;
    const triples = [-root, (long - 2 * root) / 3, (2 * long - root) / 3, long].flatMap((out) => [
      x + dx * out,
      y + dy * out,
      nib.size,
    ]);
    rows.push(inked({ points: Float64Array.from(triples), closed: false }, laid, Math.floor(grain * 0xffffffff)));
  }
  return rows;
}
