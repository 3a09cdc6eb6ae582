import { useState, type ReactNode } from 'react';
import { IconAction } from './IconAction';
import { PopUp, type MenuEntry } from './PopUp';

export type { MenuEntry };

export interface MoreMenuProps {
  label: string;
  entries: readonly MenuEntry[];
  /** What opens it; without it three dots. */
  children?: (open: (event: { nativeEvent: { pageX: number; pageY: number } }) => void) => ReactNode;
}

/** A menu at the spot that was pressed. */
export function MoreMenu({ label, entries, children }: MoreMenuProps) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const open = (event: { nativeEvent: { pageX: number; pageY: number } }) =>
    setAt({ x: event.nativeEvent.pageX, y: event.nativeEvent.pageY });
  return (
    <>
      {children ? children(open) : <IconAction icon="dots-vertical" label={label} aria-haspopup="menu" onPress={open} />}
      {at ? <PopUp label={label} at={at} entries={entries} onClose={() => setAt(null)} /> : null}
    </>
  );
}
