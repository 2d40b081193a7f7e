import type { Spine } from '../curve';
import type { Point } from '../math';
import type { Said } from '../page';

/**
 * How dark a picture is, px by px, row by row: 0 is paper, 255 full ink. The middle of px (0, 0) lies at (0.5, 0.5); all
 * lengths of this room are px of the picture.
 */
export interface InkRaster {
  readonly width: number;
  readonly height: number;
  readonly ink: Uint8Array;
}

/** A place that the artist can decide about, and how it stands. */
export interface Place extends Point {
  readonly kind: 'junction' | 'black' | 'corner' | 'tip' | 'gap';
  /** The ways in which it can be traced, as what would be said of it, and which of them it is traced in now. */
  readonly choices: readonly Said[];
  readonly choice: number;
  /** Whether the machine is in doubt. */
  readonly isUnsure: boolean;
  /** How large it is, px: for its mark. */
  readonly radius: number;
}

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
