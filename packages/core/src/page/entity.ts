import type { Spine } from '../curve';
import type { Point } from '../math';

export type EntityId = string;

interface EntityBase {
  readonly id: EntityId;
}

/** What lies on a layer, in the layer's order (a fractional index; equal keys are tied by id). */
interface Laid extends EntityBase {
  readonly layerId: EntityId;
  readonly order: string;
}

export interface LayerEntity extends EntityBase {
  readonly kind: 'layer';
  /** `ink` holds strokes, `rough` holds pictures to draw over. */
  readonly medium: 'ink' | 'rough';
  readonly name: string;
  readonly order: string;
  readonly hidden: boolean;
  readonly locked: boolean;
}

/** What makes a line: the values of the nib it is drawn with. Lengths in page px. */
export interface Nib {
  readonly name: string;
  /** Full width at full pressure, 0.5–200. */
  readonly size: number;
  /** The share of `size` that is left at no pressure, 0..1; 1 is a fixed width. */
  readonly thinnest: number;
  /** Lengths over which the line swells from a point and runs out to one, in sizes; 0 is a full end. */
  readonly taperIn: number;
  readonly taperOut: number;
  /** `#rrggbb`. Ink never changes its opacity. */
  readonly color: string;
}

/**
 * How the hand is calmed: not at all, or by a distance-weighted moving average. `strength` is 0..100, where 100 averages
 * over 60 screen px on either side.
 */
export type Calm = { readonly way: 'raw' } | { readonly way: 'even'; readonly strength: number };

/** How an end of a stroke is finished: by the nib's round tip, or cut across. */
export type StrokeEnd = 'round' | 'flat';

/** Where a stroke comes from: the raw samples, and what was done with them. */
export interface StrokeOrigin {
  readonly samples: EntityId;
  readonly calm: Calm;
  /** Screen px per page px while it was drawn. */
  readonly zoom: number;
}

/** A drawn line as a value: its course with its final widths, and how it is inked. */
export interface Stroke {
  readonly spine: Spine;
  readonly nib: Nib;
  readonly ends: readonly [StrokeEnd, StrokeEnd];
  readonly origin?: StrokeOrigin;
}

export interface StrokeEntity extends Stroke, Laid {
  readonly kind: 'stroke';
}

/** Raw samples of the hand, packed (see `packSamples`). Stored once; strokes refer to them. */
export interface SamplesEntity extends EntityBase {
  readonly kind: 'samples';
  readonly packed: Uint8Array;
}

/** Where a picture lies: its centre in page px, page px per picture px, and its turn in radians. */
export interface Placement extends Point {
  readonly scale: number;
  readonly angle: number;
}

export type Tint = 'none' | 'blue' | 'grey';

/** What black becomes under a tint; white stays white. */
export const TINT_COLOURS: Readonly<Record<Exclude<Tint, 'none'>, string>> = { blue: '#2d83b4', grey: '#7d7d7d' };

export interface PictureEntity extends Laid {
  readonly kind: 'picture';
  /** The SHA-256 of its bytes, in hex. */
  readonly blob: string;
  readonly width: number;
  readonly height: number;
  readonly placement: Placement;
  readonly opacity: number;
  readonly tint: Tint;
}

export type Entity = LayerEntity | StrokeEntity | SamplesEntity | PictureEntity;
export type EntityKind = Entity['kind'];
export type EntityOf<K extends EntityKind> = Extract<Entity, { kind: K }>;
