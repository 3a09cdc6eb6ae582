import type { SendDetails } from '@libretto/model';
import { useApp } from '../store/store';
import { useSay } from '../ui/words/words';

/** The names of the places to which something sends by itself, in words; empty where it sends nothing. */
export function useGoesTo(sender: { sendsTo?: Record<string, SendDetails> | undefined } | undefined): string {
  const say = useSay();
  return useApp((s) =>
    Object.keys(sender?.sendsTo ?? {})
      .map((id) => s.library.place[id]?.name ?? id)
      .join(say('common.comma')),
  );
}
