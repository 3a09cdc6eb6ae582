import { useEffect, useRef } from 'react';

/** What takes the keys from the page under it: a sheet over it, an open menu. */
const above = '[aria-modal="true"], [role="menuitem"]';

/**
 * Keys of a screen: the key as `event.key` in lower case, "mod+" before it for Ctrl or ⌘, "shift+" where it matters. Those of a page sleep
 * while something lies `over` it, whose keys they are then.
 */
export function useKeys(
  keys: Record<string, (event: KeyboardEvent) => void>,
  { enabled = true, over = false }: { enabled?: boolean; over?: boolean } = {},
): void {
  const current = useRef(keys);
  useEffect(() => {
    current.current = keys;
  });
  useEffect(() => {
    if (!enabled) return;
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      const typing = target?.closest('input, textarea, [contenteditable="true"]');
      const mod = event.ctrlKey || event.metaKey;
      if (typing && !(mod && event.key === 'Enter')) return;
      if (event.defaultPrevented || event.altKey || (!over && document.querySelector(above))) return;
      const name = `${mod ? 'mod+' : ''}${event.shiftKey && event.key.length > 1 ? 'shift+' : ''}${event.key.toLowerCase()}`;
      const action =
        current.current[name] ?? (mod && event.shiftKey ? current.current[`mod+shift+${event.key.toLowerCase()}`] : undefined);
      if (!action) return;
      event.preventDefault();
      action(event);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [enabled, over]);
}
