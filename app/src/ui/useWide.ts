import { useWindowDimensions } from 'react-native';
import { widePx } from './tokens';

/** Whether screens stand side by side. */
export const useWide = (): boolean => useWindowDimensions().width >= widePx;
