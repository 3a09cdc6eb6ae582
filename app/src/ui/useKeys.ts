import { useEffect, useRef } from 'react';

/** What takes the keys from the page under it: a sheet over it, an open menu. */
const above = '[aria-modal="true"], [role="menuitem"]';
/** What Space and Enter act on themselves. */
const pressed = 'button, a, [role="button"], [role="link"], [role="switch"], [role="checkbox"], [role="radio"], [role="tab"]';

/** Whether the focus was led by Tab last, rather than by a finger or mouse. */
let byTab = false;
if (typeof window !== 'undefined') {
  window.addEventListener('keydown', (event) => void (byTab ||= event.key === 'Tab'), true);
  window.addEventListener('pointerdown', () => void (byTab = false), true);
}

let letters = true;

/** Whether single character keys act: who dictates, or whose hand slips, switches them off (WCAG 2.2, 2.1.4). */
export function useLetterKeys(on: boolean): void {
  useEffect(() => {
    letters = on;
  }, [on]);
}

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
      // The first Escape leaves the field, the next one what lies over the page: nothing that was typed goes by one slip.
      if (typing && over && event.key === 'Escape') return (typing as HTMLElement).blur();
      if (typing && !(mod && event.key === 'Enter')) return;
      // Whoever came to a control by Tab means that control; a pedal after a tap on a button means the shutter.
      if ((event.key === ' ' || event.key === 'Enter') && !mod && byTab && target?.closest?.(pressed)) return;
      if (!letters && !mod && event.key.length === 1 && event.key !== ' ') return;
      if (event.defaultPrevented || event.altKey || (!over && document.querySelector(above))) return;
      const name = `${mod ? 'mod+' : ''}${event.shiftKey && event.key.length > 1 ? 'shift+' : ''}${event.key.toLowerCase()}`;
      // With Shift another key, where it is one: Ctrl Z takes back, Ctrl Shift Z brings again.
      const shifted = mod && event.shiftKey ? current.current[`mod+shift+${event.key.toLowerCase()}`] : undefined;
      const action = shifted ?? current.current[name];
      if (!action) return;
      event.preventDefault();
      action(event);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [enabled, over]);
}
