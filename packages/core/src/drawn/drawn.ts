import type { Box, Matrix3x3, Point } from '../math';
import type { Mark } from './mark';

export interface MapOptions {
  /** Whether line weights grow and shrink with the map; they are kept otherwise. */
  readonly scaleWidth: boolean;
}

/** A course as a hand sees it: places in page px, `stride` numbers each, of which x and y come first. */
export interface Way {
  readonly points: Float64Array;
  readonly stride: number;
}

/**
 * How a kind is drawn on the paper and handled there. Painter, tiles, thumbnails, selecting, transforming, the clipboard and
 * every file format go by these rows and name no kind themselves. Lengths in page px.
 */
export interface Drawn<E> {
  /** What it lays on the paper, lowest first; the same marks for the same entity. */
  marks(entity: E): readonly Mark[];
  /** It frames what names it (`LaidBase.panelId`): with it changes what is seen of others, within its box. */
  readonly frames?: true;
  /** In a panel it ends where the border begins, and not under it: it would hide half of that. */
  readonly endsAtBorder?: true;
  /** Whether regions end at it: at lines, blacks and borders, not at flats, tones and dots. Those that do not say never do. */
  bounds?(entity: E): boolean;
  /** Where its marks lie. */
  box(entity: E): Box;
  /** Small boxes that together hold its marks, so that something long does not dirty the page; its box where there are none. */
  pieces?(entity: E): readonly Box[];
  /** Small boxes that hold all in which it differs from what it was. The pieces of both where it does not say. */
  changed?(before: E, after: E): readonly Box[];
  /** By how much its marks reach beside its course, for kinds that a layer's style can make wider. */
  reach?(entity: E): number;
  /** The courses that decide whether it lies in an area. */
  ways(entity: E, tolerance: number): readonly Way[];
  /** What a frame goes round that takes hold of it. */
  hold(entity: E): Box;
  /**
   * How far a hand's way from one place to another passes from its marks: 0 or less where it touches them, Infinity beyond
   * `reach`.
   */
  gap(entity: E, from: Point, to: Point, reach: number): number;
  /**
   * Where a map takes it, affine or projective. Throws a PageError for a map that takes it over its horizon.
   */
  map(entity: E, map: Matrix3x3, options: MapOptions): E;
  /** Its colour, `#rrggbb`, and the same in another one; nothing for what takes ink away. */
  colour(entity: E): string | undefined;
  coloured(entity: E, color: string): E;
  /** What it looks like, without what it refers to: another page has none of that. */
  bare(entity: E): E;
}
