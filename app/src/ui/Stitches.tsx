import { View } from 'react-native';
import { useTokens } from './theme';

/** The recurring ornament: a row of binding stitches. */
export function Stitches({ color }: { color?: string }) {
  const tokens = useTokens();
  return (
    <View aria-hidden style={{ height: 0, borderTopWidth: 1.5, borderStyle: 'dashed', borderColor: color ?? tokens.hairline }} />
  );
}
