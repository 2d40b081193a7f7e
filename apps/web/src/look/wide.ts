/** From this width on the bench stands beside the page instead of under it. */
export const WIDE = 900;

export const isWide = (width: number): boolean => width >= WIDE;
