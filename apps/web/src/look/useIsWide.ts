import { useWindowDimensions } from 'react-native';
import { isLying, isWide } from './wide';

export const useIsWide = (): boolean => isWide(useWindowDimensions());

export const useIsLying = (): boolean => isLying(useWindowDimensions());
