import { checkMatrix, checkRing, fingerprint, id, list, number, oneOf, optional, place, record } from '../../gate';
import type { EntityId } from '../../kind';
import type { Matrix, Point } from '../../math';
import { checkScan, type Scan } from './scan';

/** How a picture is taken for lines. Lengths in px of the picture. */
export interface TraceSettings {
  /** The share of full ink from which a px counts as ink, 0..1. */
  readonly darkness: number;
  /** Marks that measure less across are let be. */
  readonly smallMarks: number;
  /** The turn from which a line has a corner rather than a bend, radians. */
  readonly corners: number;
  /** How far a line may stray from what was measured. */
  readonly smoothness: number;
  /** The width from which ink is an area rather than a line; 0 goes by the lines that there are. */
  readonly blackFrom: number;
}

/** The settings that suit a clean scan. Common practice: half of full ink is where the edge of a line lies. */
export const TRACE_SETTINGS: TraceSettings = {
  darkness: 0.5,
  smallMarks: 3,
  corners: (35 * Math.PI) / 180,
  smoothness: 0.35,
  blackFrom: 0,
};

/**
 * What the artist said of a place, px of the picture: it is traced so, whatever was measured. A junction is told by which of
 * its branches go on into each other, each by the direction in which it leaves, radians; `split` parts a line in two.
 */
export type Said = Point &
  (
    | { readonly as: 'junction'; readonly pairs: readonly (readonly [number, number])[] }
    | { readonly as: (typeof WORDS)[number] }
  );

const WORDS = ['black', 'line', 'corner', 'smooth', 'pointed', 'blunt', 'bridged', 'open', 'split'] as const;

/** What is made of ink: strokes with their widths and blacks as areas, or areas alone. */
export const TAKES = ['lines', 'outlines'] as const;

/** The pixels that were traced, as they were then: those of a picture as its scan had it, or of a Wash layer with such tiles. */
export type TracedPixels =
  | {
      readonly as: 'picture';
      readonly blob: string;
      readonly width: number;
      readonly height: number;
      readonly scan?: Scan;
    }
  /** `sum` is the same as long as its tiles are. */
  | { readonly as: 'wash'; readonly sum: number };

/** Where the ink of a layer was traced from, and how: as long as it is there, places can still be put right. */
export interface TraceRecord {
  /** The picture, or the Wash layer. */
  readonly from: EntityId;
  readonly pixels: TracedPixels;
  /** What the names of its lines begin with. */
  readonly name: string;
  /** From px of the picture to the page. */
  readonly map: Matrix;
  /** A loop on the page outside of which nothing is traced: x, y. */
  readonly within?: Float64Array;
  readonly panelId?: EntityId;
  readonly takes: (typeof TAKES)[number];
  readonly settings: TraceSettings;
  readonly said: readonly Said[];
}

/** Places that the artist may say something of. */
const MOST_SAID = 20_000;

/** What a record without a word of its pixels was traced from: no pixels of now are these, so it stands but is not traced anew. */
const UNKNOWN: TracedPixels = { as: 'wash', sum: 0 };

export function checkTraced(value: unknown): TraceRecord {
  const fields = record(value, 'A tracing');
  return {
    from: id(fields.from, 'from'),
    pixels: fields.pixels === undefined ? UNKNOWN : checkPixels(fields.pixels),
    name: id(fields.name, 'name'),
    map: checkMatrix(fields.map),
    ...optional(fields, 'within', checkRing),
    ...optional(fields, 'panelId', id),
    takes: oneOf(fields.takes, 'takes', TAKES),
    settings: checkSettings(fields.settings),
    said: list(fields.said, 'said', MOST_SAID).map(checkSaid),
  };
}

function checkPixels(value: unknown): TracedPixels {
  const fields = record(value, 'Pixels that were traced');
  if (oneOf(fields.as, 'as', ['picture', 'wash']) === 'wash')
    return { as: 'wash', sum: number(fields.sum, 'sum', 0, 2 ** 32) };
  return {
    as: 'picture',
    blob: fingerprint(fields.blob),
    width: number(fields.width, 'width', 1, 40_000),
    height: number(fields.height, 'height', 1, 40_000),
    ...optional(fields, 'scan', checkScan),
  };
}

function checkSettings(value: unknown): TraceSettings {
  const fields = record(value, 'Settings of a tracing');
  return {
    darkness: number(fields.darkness, 'darkness', 0.01, 0.99),
    smallMarks: number(fields.smallMarks, 'smallMarks', 0, 1_000),
    corners: number(fields.corners, 'corners', 0, Math.PI),
    smoothness: number(fields.smoothness, 'smoothness', 0.01, 100),
    blackFrom: number(fields.blackFrom, 'blackFrom', 0, 10_000),
  };
}

function checkSaid(value: unknown): Said {
  const fields = record(value, 'What was said');
  const at = place(fields);
  if (fields.as !== 'junction') return { ...at, as: oneOf(fields.as, 'as', WORDS) };
  const pairs = list(fields.pairs, 'pairs', 16).map((pair): readonly [number, number] => {
    const ends = list(pair, 'pairs', 2).map((angle) => number(angle, 'pairs', -10, 10));
    return [ends[0], ends[1]];
  });
  return { ...at, as: 'junction', pairs };
}
