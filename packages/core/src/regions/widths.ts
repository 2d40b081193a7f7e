/** The widest gap that can be closed, px of the coverage. */
export const WIDEST_GAP = 32;
/** How far distances are told: half of that and more. */
export const REACH = WIDEST_GAP / 2 + 4;
/**
 * Half-widths from which everything hangs together whatever the gap, and the squared distance from which a px is that far
 * from ink.
 */
export const WIDE = (WIDEST_GAP + 2.5) / 2;
export const WIDE_SQUARE = Math.ceil((WIDE + 0.5) ** 2);
/** Px within which two places where the same basins meet are parts of one opening. */
export const SAME_OPENING = 2;

/** Two basins that meet at half-width `s` are one room unless both are clearly wider than that. */
export const isOneRoom = (lowerPeak: number, s: number): boolean => lowerPeak <= 1.6 * s + 0.8;
