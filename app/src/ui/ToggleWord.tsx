import { Text, TouchableRipple } from 'react-native-paper';
import { useTokens } from './theme';
import { corner } from './tokens';

/** A word that is on or off. */
export function ToggleWord({ on, words, onPress }: { on: boolean; words: string; onPress: () => void }) {
  const t = useTokens();
  return (
    <TouchableRipple
      role="button"
      aria-pressed={on}
      onPress={onPress}
      style={{
        minHeight: 44,
        justifyContent: 'center',
        paddingHorizontal: 12,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: on ? t.wine : t.hairline,
        backgroundColor: on ? t.wine : t.leaf,
      }}
    >
      <Text variant="bodySmall" style={{ color: on ? t.onWine : t.pencil }}>
        {words}
      </Text>
    </TouchableRipple>
  );
}
