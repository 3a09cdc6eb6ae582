import type { Folder } from '@libretto/model';
import { useApp } from '../store/store';
import { useSay } from '../ui/words/words';

/** The names of the places to which a folder sends by itself, in words; empty where it sends nothing. */
export function useGoesTo(folder: Folder | undefined): string {
  const say = useSay();
  return useApp((s) =>
    Object.keys(folder?.sendsTo ?? {})
      .map((id) => s.library.place[id]?.name ?? id)
      .join(say('common.comma')),
  );
}
