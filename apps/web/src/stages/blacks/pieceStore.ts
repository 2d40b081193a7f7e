import { create } from 'zustand';
import type { Point } from '@true-nib/core/math';
import type { ShownPiece } from '../../render';

/** A speck as it is listed: where, and how much ink. */
export interface ListedSpeck extends Point {
  readonly area: number;
  /** Its outline, page px; pixels have none. */
  readonly rings?: readonly Float64Array[];
}

/** What is known of the ink of the layer in hand. */
export interface KnownPieces {
  /** The pieces in the loop that was drawn. */
  readonly pieces: readonly ShownPiece[];
  /** Specks of the layer, smallest first; nothing before they are looked for. */
  readonly specks: readonly ListedSpeck[] | undefined;
  /** The speck that was gone to. */
  readonly inHand: number | undefined;
  readonly isLooking: boolean;
}

export const NO_PIECES: KnownPieces = { pieces: [], specks: undefined, inHand: undefined, isLooking: false };

export const usePieces = create<KnownPieces>()(() => NO_PIECES);
