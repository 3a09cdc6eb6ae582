import { useState } from 'react';

export interface Selection {
  /** Whether pages are being chosen. */
  on: boolean;
  /** Those chosen, in the list's order, and all that could be. */
  ids: readonly string[];
  all: readonly string[];
  has: (id: string) => boolean;
  toggle: (id: string) => void;
  /** All from the one that was chosen last to this one. */
  reach: (id: string) => void;
  set: (ids: readonly string[]) => void;
  end: () => void;
}

/** What is chosen of a list, in the list's order; what is no longer in the list is no longer chosen. */
export function useSelection(all: readonly string[]): Selection {
  const [chosen, setChosen] = useState<ReadonlySet<string> | null>(null);
  const [last, setLast] = useState<string | null>(null);
  const ids = chosen ? all.filter((id) => chosen.has(id)) : [];
  const set = (next: Iterable<string>) => setChosen(new Set(next));
  return {
    on: chosen !== null,
    ids,
    all,
    has: (id) => chosen?.has(id) ?? false,
    toggle: (id) => {
      const next = new Set(chosen);
      if (!next.delete(id)) next.add(id);
      set(next);
      setLast(id);
    },
    reach: (id) => {
      const [from, to] = [all.indexOf(last ?? id), all.indexOf(id)];
      set([...(chosen ?? []), ...all.slice(Math.min(from < 0 ? to : from, to), Math.max(from, to) + 1)]);
      setLast(id);
    },
    set: (next) => {
      set(next);
      setLast(next.at(-1) ?? null);
    },
    end: () => {
      setChosen(null);
      setLast(null);
    },
  };
}
