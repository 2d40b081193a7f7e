/**
 * How much of each px is inked, 0..255, row by row: px (0, 0) covers page px (x, y) to (x + 1 / scale, y + 1 / scale). What
 * lies beyond its edges counts as ink.
 */
export interface Coverage {
  readonly width: number;
  readonly height: number;
  readonly ink: Uint8Array;
  /** Px of it per page px. */
  readonly scale: number;
  /** Its corner, page px. */
  readonly x: number;
  readonly y: number;
}

/** Coverage from which a px counts as ink: a closed line of one px never leaks below half of its coverage. */
export const INKED = 64;
