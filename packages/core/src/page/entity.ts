import type { Spine } from '../curve';
import type { Matrix, Point } from '../math';

export type EntityId = string;

interface EntityBase {
  readonly id: EntityId;
}

/** What lies on a layer, in the layer's order (a fractional index; equal keys are tied by id). */
interface Laid extends EntityBase {
  readonly layerId: EntityId;
  readonly order: string;
}

/** `ink` holds strokes, `wash` pixels, `rough` pictures to draw over, `group` other layers. */
export type Medium = 'ink' | 'wash' | 'rough' | 'group';

/** How all lines of an ink layer are shown, whatever they were drawn with. Changing it changes no stroke. */
export interface InkStyle {
  /** One colour for all lines, `#rrggbb`. */
  readonly color?: string;
  /** Every width times this, 0.1–10. */
  readonly widthFactor: number;
  /** All lines as this nib would have drawn them; its colour is not taken. */
  readonly nib?: Nib;
  /** `hard` has no half-covered pixels, as 1-bit print has none. */
  readonly edge: 'soft' | 'hard';
}

export interface LayerEntity extends EntityBase {
  readonly kind: 'layer';
  readonly medium: Medium;
  readonly name: string;
  readonly order: string;
  /** The group it lies in; a parent that is not there counts as none. */
  readonly parentId?: EntityId;
  readonly hidden: boolean;
  readonly locked: boolean;
  /** How much of it shows, 0..1. */
  readonly opacity: number;
  /** The colour that marks it in the stack and on the page, `#rrggbb`. */
  readonly mark?: string;
  /** Only what is already there takes new colour. */
  readonly holdsShape: boolean;
  /** A bright colour to work in, `#rrggbb`: never delivered. */
  readonly standIn?: string;
  readonly style?: InkStyle;
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
  /** Takes away what lies under it on its layer, in place of inking. Only of marks that are about to become pixels: never kept. */
  readonly lays?: 'clearing';
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
  /** Where the samples went since, as the strokes did. */
  readonly matrix?: Matrix;
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

/**
 * A square of a wash layer's pixels (see `wash.ts`): there is one id for each layer, column and row, and a square in which
 * nothing lies has no entity.
 */
export interface WashTileEntity extends Laid {
  readonly kind: 'wash';
  readonly column: number;
  readonly row: number;
  /** The SHA-256 of its bytes, in hex: RGBA, not premultiplied, as a zlib stream (RFC 1950). */
  readonly blob: string;
}

/** What the page lies on: a colour `#rrggbb`, or nothing. There is at most one, and white paper where there is none. */
export interface PaperEntity extends EntityBase {
  readonly kind: 'paper';
  readonly color: string | null;
}

export type Entity = LayerEntity | StrokeEntity | SamplesEntity | PictureEntity | WashTileEntity | PaperEntity;
export type EntityKind = Entity['kind'];
export type EntityOf<K extends EntityKind> = Extract<Entity, { kind: K }>;
