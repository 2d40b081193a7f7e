import type { Spine } from '../curve';
import type { Point } from '../math';

/**
 * How dark a picture is, px by px, row by row: 0 is paper, 255 full ink. The middle of px (0, 0) lies at (0.5, 0.5); all
 * lengths of this room are px of the picture.
 */
export interface InkRaster {
  readonly width: number;
  readonly height: number;
  readonly ink: Uint8Array;
}

/** How a picture is taken for lines. */
export interface TraceSettings {
  /** The share of full ink from which a px counts as ink, 0..1. */
  readonly darkness: number;
  /** Marks that measure less across are let be, px. */
  readonly smallMarks: number;
  /** The turn from which a line has a corner rather than a bend, radians. */
  readonly corners: number;
  /** How far a line may stray from what was measured, px. */
  readonly smoothness: number;
  /** The width from which ink is an area rather than a line, px; 0 goes by the lines that there are. */
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

/** A place that the artist can decide about, and how it stands. */
export interface Place extends Point {
  readonly kind: 'junction' | 'black' | 'corner' | 'tip' | 'gap';
  /** How it is traced now: a number of `choices`. */
  readonly choice: number;
  /** In how many ways it can be traced. */
  readonly choices: number;
  /** Whether the machine is in doubt. */
  readonly isUnsure: boolean;
  /** How large it is, px: for its mark. */
  readonly radius: number;
}

/**
 * What the artist said of a place: it is traced so, whatever was measured. A junction is told by which of its branches go on
 * into each other, each by the direction in which it leaves, radians; `split` parts a line in two.
 */
export type Said = Point &
  (
    | { readonly as: 'junction'; readonly pairs: readonly (readonly [number, number])[] }
    | { readonly as: 'black' | 'line' }
    | { readonly as: 'corner' | 'smooth' }
    | { readonly as: 'pointed' | 'blunt' }
    | { readonly as: 'bridged' | 'open' }
    | { readonly as: 'split' }
  );

/** A line as it was traced: its course with its widths, and a name that stays as long as its first stretch does. */
export interface TracedLine {
  readonly key: string;
  readonly spine: Spine;
}

/** A black as it was traced: its rings wind so that the non-zero rule fills it. */
export interface TracedBlack {
  readonly key: string;
  readonly rings: readonly Spine[];
}

/** All that was taken off a picture. */
export interface Traced {
  readonly lines: readonly TracedLine[];
  readonly blacks: readonly TracedBlack[];
  readonly places: readonly Place[];
}
