import { useIsWide } from './useIsWide';

/** How many choices of two words stand in a row. */
export const usePerRow = (): number => (useIsWide() ? 2 : 3);
