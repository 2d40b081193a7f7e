import { useWindowDimensions } from 'react-native';
import { isWide } from '../../look/wide';

/** How many choices of two words stand in a row. */
export const usePerRow = (): number => (isWide(useWindowDimensions().width) ? 2 : 3);
