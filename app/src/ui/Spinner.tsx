import { ActivityIndicator, View, type StyleProp, type ViewStyle } from 'react-native';
import { useTheme } from 'react-native-paper';

interface SpinnerProps {
  /** What is under way, where no words stand beside it. */
  label?: string;
  /** Diameter, px. */
  size?: number;
  style?: StyleProp<ViewStyle>;
}

/**
 * Something is under way. It turns by a style's own animation: one that React draws frame by frame would, on a slow device, for ever put off the very part that it stands for.
 */
export function Spinner({ label, size = 24, style }: SpinnerProps) {
  const { colors } = useTheme();
  return (
    <View {...(label ? { role: 'status', 'aria-label': label } : { 'aria-hidden': true })} style={style}>
      <View aria-hidden>
        <ActivityIndicator color={colors.primary} size={size} />
      </View>
    </View>
  );
}
