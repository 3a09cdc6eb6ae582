import type { ComponentProps } from 'react';
import { View } from 'react-native';
import { ActivityIndicator } from 'react-native-paper';

type ActivityIndicatorProps = ComponentProps<typeof ActivityIndicator>;

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
