import type { KeyboardEvent } from 'react';

const forward = ['ArrowRight', 'ArrowDown'];
const back = ['ArrowLeft', 'ArrowUp'];

/**
 * Arrow keys within a tab list or radio group (ARIA Authoring Practices, "Tabs" and "Radio Group"): they go round, Home and End to the ends, and what
 * they come to is chosen. Only the chosen one is reached by Tab.
 */
export function useArrows<Id extends string>(ids: readonly Id[], chosen: Id, choose: (id: Id) => void) {
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const at = Math.max(0, ids.indexOf(chosen));
    const to = forward.includes(event.key)
      ? at + 1
      : back.includes(event.key)
        ? at - 1
        : event.key === 'Home'
          ? 0
          : event.key === 'End'
            ? ids.length - 1
            : null;
    if (to === null || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const next = (to + ids.length) % ids.length;
    choose(ids[next]!);
    event.currentTarget.querySelectorAll<HTMLElement>('[role="tab"], [role="radio"]')[next]?.focus();
  };
  return {
    onKeyDown,
    tabIndexOf: (id: Id) => ((ids.includes(chosen) ? id === chosen : id === ids[0]) ? (0 as const) : (-1 as const)),
  };
}
