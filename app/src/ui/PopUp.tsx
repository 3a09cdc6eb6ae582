import { useCallback, useEffect, useRef } from 'react';
import { View } from 'react-native';
import { Menu } from 'react-native-paper';

export interface MenuEntry {
  title: string;
  icon?: string;
  disabled?: boolean;
  onPress: () => void;
}

/** A menu at a spot of the window. It is there only while it is open: a closed one of the library takes the focus when it appears. */
export function PopUp({
  label,
  at,
  entries,
  onClose,
}: {
  label: string;
  at: { x: number; y: number };
  entries: readonly MenuEntry[];
  onClose: () => void;
}) {
  // The library listens for Escape with what it was given first, and no more once it is given another.
  const latest = useRef(onClose);
  useEffect(() => {
    latest.current = onClose;
  });
  const dismiss = useCallback(() => latest.current(), []);
  return (
    <Menu visible anchor={at} onDismiss={dismiss}>
      <View role="region" aria-label={label}>
        <View role="menu" aria-label={label}>
          {entries.map(({ title, icon, disabled, onPress }) => (
            <Menu.Item
              key={title}
              dense={entries.length > 6}
              title={title}
              {...(icon && { leadingIcon: icon })}
              {...(disabled && { disabled })}
              onPress={() => {
                onClose();
                onPress();
              }}
            />
          ))}
        </View>
      </View>
    </Menu>
  );
}
