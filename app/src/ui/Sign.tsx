import { View } from 'react-native';
import { Icon } from 'react-native-paper';

/** An icon that only goes with words: nothing to read out. */
export function Sign({ source, size, color }: { source: string; size: number; color?: string }) {
  return (
    <View aria-hidden>
      <Icon source={source} size={size} {...(color && { color })} />
    </View>
  );
}
