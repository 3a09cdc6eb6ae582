import type { ReactNode } from 'react';
import { Pressable, View, type StyleProp, type ViewStyle } from 'react-native';

export interface PressRowProps {
  role: 'switch' | 'checkbox';
  checked: boolean;
  label: string;
  onPress: () => void;
  style?: StyleProp<ViewStyle>;
  children: ReactNode;
}

/** A row that is one control: what is drawn within it is neither reached nor read apart. */
export function PressRow({ role, checked, label, onPress, style, children }: PressRowProps) {
  return (
    <Pressable role={role} aria-checked={checked} aria-label={label} onPress={onPress} style={{ minHeight: 44 }}>
      <div aria-hidden inert style={{ display: 'contents' }}>
        <View pointerEvents="none" style={[{ flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 44 }, style]}>
          {children}
        </View>
      </div>
    </Pressable>
  );
}
