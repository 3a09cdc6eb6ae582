import { useWindowDimensions } from 'react-native';
import { leastWideHeightPx, widePx } from './tokens';

/** Whether screens stand side by side: on tablets and desks, not on a phone that lies on its side. */
export function useWide(): boolean {
  const { width, height } = useWindowDimensions();
  return width >= widePx && height >= leastWideHeightPx;
}
