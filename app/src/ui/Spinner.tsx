import { View } from 'react-native';
import { ActivityIndicator, type ActivityIndicatorProps } from 'react-native-paper';

/** Something is under way; named where no words stand beside it. */
export function Spinner({ label, ...props }: Omit<ActivityIndicatorProps, 'accessibilityLabel'> & { label?: string }) {
  return (
    <View {...(label ? { role: 'status', 'aria-label': label } : { 'aria-hidden': true })} style={props.style}>
      <View aria-hidden>
        <ActivityIndicator {...props} style={undefined} />
      </View>
    </View>
  );
}
