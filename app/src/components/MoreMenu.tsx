import { useState, type ReactNode } from 'react';
import { IconButton, Menu } from 'react-native-paper';

export interface MenuEntry {
  title: string;
  icon?: string;
  disabled?: boolean;
  onPress: () => void;
}

export interface MoreMenuProps {
  label: string;
  entries: readonly MenuEntry[];
  /** What opens it; without it three dots. */
  children?: (open: (event: { nativeEvent: { pageX: number; pageY: number } }) => void) => ReactNode;
}

/**
 * A menu at the spot that was pressed. It is there only while it is open: a closed menu of the library takes the focus when it appears, and
 * with it the scroll position of whatever list it stands in.
 */
export function MoreMenu({ label, entries, children }: MoreMenuProps) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const open = (event: { nativeEvent: { pageX: number; pageY: number } }) =>
    setAt({ x: event.nativeEvent.pageX, y: event.nativeEvent.pageY });
  return (
    <>
      {children ? (
        children(open)
      ) : (
        <IconButton style={{ margin: 0 }} icon="dots-vertical" accessibilityLabel={label} onPress={open} />
      )}
      {at ? (
        <Menu visible anchor={at} onDismiss={() => setAt(null)}>
          {entries.map(({ title, icon, disabled, onPress }) => (
            <Menu.Item
              key={title}
              dense={entries.length > 6}
              title={title}
              {...(icon && { leadingIcon: icon })}
              {...(disabled && { disabled })}
              onPress={() => {
                setAt(null);
                onPress();
              }}
            />
          ))}
        </Menu>
      ) : null}
    </>
  );
}
