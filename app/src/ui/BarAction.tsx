import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import { Sign } from './Sign';
import { useTokens } from './theme';

/** A row of actions at the foot of a screen, for what is chosen on it. */
export function Bar({ label, children }: { label: string; children: ReactNode }) {
  const t = useTokens();
  return (
    <View
      role="toolbar"
      aria-label={label}
      style={{
        flexDirection: 'row',
        justifyContent: 'space-around',
        paddingVertical: 4,
        borderTopWidth: 1,
        borderColor: t.hairline,
        backgroundColor: t.leaf,
      }}
    >
      {children}
    </View>
  );
}

export interface BarActionProps {
  icon: string;
  label: string;
  disabled: boolean;
  /** It opens a menu. */
  menu?: boolean;
  onPress: (event: { nativeEvent: { pageX: number; pageY: number } }) => void;
}

/** An icon over its word, as wide as a thumb needs. */
export function BarAction({ icon, label, disabled, menu = false, onPress }: BarActionProps) {
  const t = useTokens();
  return (
    <TouchableRipple
      role="button"
      aria-label={label}
      {...(menu && { 'aria-haspopup': 'menu' as const })}
      disabled={disabled}
      onPress={onPress as never}
      style={{ minWidth: 64, minHeight: 56, alignItems: 'center', justifyContent: 'center', opacity: disabled ? 0.45 : 1 }}
    >
      <View style={{ alignItems: 'center', gap: 2 }}>
        <Sign source={icon} size={24} color={t.ink} />
        <Text variant="bodyMedium">{label}</Text>
      </View>
    </TouchableRipple>
  );
}
