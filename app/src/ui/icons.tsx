import MaterialCommunityIcons from '@expo/vector-icons/MaterialCommunityIcons';
import type { ComponentProps } from 'react';
import { View, type ColorValue } from 'react-native';

interface IconProps {
  name: string;
  color?: ColorValue;
  size: number;
}

/** Every icon stands beside words or within a named control: there is nothing about it to read out. */
function SilentIcon({ name, color, size }: IconProps) {
  return (
    <View aria-hidden style={{ width: size, height: size }}>
      <MaterialCommunityIcons
        name={name as ComponentProps<typeof MaterialCommunityIcons>['name']}
        size={size}
        {...(color && { color })}
        selectable={false}
        style={{ lineHeight: size }}
      />
    </View>
  );
}

/** For PaperProvider. */
export const paperSettings = { icon: (props: IconProps) => <SilentIcon {...props} /> } as never;
