import type { Spine } from '../curve';
import type { CurvePoint, Matrix, Point } from '../math';
import type { GuideEntity, GuidePath } from './guide';

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

/**
 * What touches the paper. `flat` is an ellipse whose edge lies at `angle` (radians from x towards y) and which is `thickness`
 * (a share of its edge, 0.02–1) deep; it turns with nothing. The edge of a `chisel` lies as the pen leans, at `angle` while
 * the pen does not tell.
 */
export interface NibTip {
  readonly shape: 'flat' | 'chisel';
  readonly angle: number;
  readonly thickness: number;
}

/** The weight along a whole line: out of a point, into a point, both, or bent by hand (share of the line → of the width). */
export type NibProfile = 'in' | 'out' | 'lens' | readonly CurvePoint[];

/**
 * How the edge breaks: `rough` wanders by up to `amount` (0..1) of half the width, `dry` leaves paper between bristles over
 * `amount` of the line. `grain` is how far apart the breaks lie, page px.
 */
export interface NibEdge {
  readonly kind: 'dry' | 'rough';
  readonly amount: number;
  readonly grain: number;
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
  /** Round where none is given. */
  readonly tip?: NibTip;
  /** Pressure → share of the width between thinnest and size; a gentle curve where none is given. */
  readonly press?: readonly CurvePoint[];
  /** By which share a fast hand thickens the line, −1..1; below 0 it thins it. */
  readonly speed?: number;
  /** By which share a leaning pen thickens the line, −0.9..4. */
  readonly tilt?: number;
  /** Even where none is given. */
  readonly profile?: NibProfile;
  /** Clean where none is given. */
  readonly edge?: NibEdge;
  /** The same all along the line whatever the pressure, 0.05..1; where lines cross it darkens. */
  readonly opacity?: number;
  /** Takes away what lies under it on its layer, in place of inking. Only of marks that are about to become pixels: never kept. */
  readonly lays?: 'clearing';
}

/** What all ways of calming share. */
interface CalmBase {
  /** The weight is smoothed apart, 0..100; as the way does it where none is given. */
  readonly weight?: number;
  /** The line ends where it has got to when the pen lifts; it is drawn on to the pen otherwise. */
  readonly stops?: true;
  /** Lengths are page px at any zoom; screen px otherwise. */
  readonly byPage?: true;
}

/**
 * How the hand is calmed; `strength` is 0..100. *Raw* not at all. *Even* by a distance-weighted moving average over up to
 * 40 px on either side. *Tow* pulls the line behind the pen on a slack of up to 60 px; `lag` (0..100) makes it slow to
 * follow. *Sprung* hangs the line on a spring with a mass; `drag` 100 just keeps it from swinging.
 */
export type Calm = CalmBase &
  (
    | { readonly way: 'raw' }
    | { readonly way: 'even'; readonly strength: number }
    | { readonly way: 'tow'; readonly strength: number; readonly lag: number }
    | { readonly way: 'sprung'; readonly strength: number; readonly drag: number }
  );

/**
 * An end that was cut along a line: the ink near it that lies in `gone`, a closed ring of x, y pairs in page px, is not
 * there. The spine goes on a little beyond the cut, so that the cut is filled up to its line whatever its slant.
 */
export interface CutEnd {
  readonly gone: Float64Array;
}

/** How an end of a stroke is finished: by the nib's round tip, straight across, or along a line. */
export type StrokeEnd = 'round' | 'flat' | CutEnd;

/** Where a stroke comes from: the raw samples, and what was done with them. */
export interface StrokeOrigin {
  readonly samples: EntityId;
  readonly calm: Calm;
  /** Screen px per page px while it was drawn. */
  readonly zoom: number;
  /** Where the samples went since, as the strokes did. */
  readonly matrix?: Matrix;
  /** The course was changed by hand since, so it is no longer what the samples give; `cut` where a part is gone. */
  readonly left?: 'cut' | 'edited';
}

/** The grain of a broken edge: the same seed breaks the same, and a piece goes on `offset` page px along its old line. */
export interface StrokeGrain {
  readonly seed: number;
  readonly offset: number;
}

/** The guide that a line was drawn on, and its path there and then: the line's course is a part of it. */
export interface StrokeGuide {
  readonly id: EntityId;
  readonly path: GuidePath;
}

/** A line of a symmetric set: `matrix` takes the one that was drawn here. */
export interface StrokeCopy {
  readonly set: EntityId;
  readonly matrix: Matrix;
}

/** A drawn line as a value: its course with its final widths, and how it is inked. */
export interface Stroke {
  readonly spine: Spine;
  readonly nib: Nib;
  readonly ends: readonly [StrokeEnd, StrokeEnd];
  readonly grain?: StrokeGrain;
  readonly origin?: StrokeOrigin;
  readonly guide?: StrokeGuide;
  readonly copy?: StrokeCopy;
  /** A blot: all that the course goes round is filled, by the non-zero rule; it may have a width besides. */
  readonly fills?: true;
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

export type Entity =
  LayerEntity | StrokeEntity | SamplesEntity | PictureEntity | WashTileEntity | PaperEntity | GuideEntity;
export type EntityKind = Entity['kind'];
export type EntityOf<K extends EntityKind> = Extract<Entity, { kind: K }>;

export const isKind = <K extends EntityKind>(entity: Entity, kind: K): entity is EntityOf<K> => entity.kind === kind;
