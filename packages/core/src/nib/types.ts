import type { CurvePoint } from '../math';

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

/** Widths that a line may have, page px. */
export const NIB_LIMITS = { least: 0.05, most: 2_000 } as const;

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
