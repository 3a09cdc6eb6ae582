import { useRef, useState } from 'react';
import type { Outline } from '@libretto/model';

interface Draft {
  /** The outline that it changes, and the last one that went to the store by then: that one comes back while the hand has gone on. */
  from: Outline;
  sent: Outline | null;
  next: Outline;
}

const alike = (a: Outline, b: Outline) => JSON.stringify([a.quad, a.polygon]) === JSON.stringify([b.quad, b.polygon]);

/**
 * An outline as the hand has it, ahead of the store. What comes from the store ends a draft unless it is what the hand itself has just sent there.
 *
 * @returns the outline to show, how a draft of it is drawn, and what to call with one that goes to the store
 */
export function useOutlineDraft(
  outline: Outline,
): [shown: Outline, draw: (next: Outline) => void, send: (next: Outline) => void] {
  const [draft, setDraft] = useState<Draft | null>(null);
  const sent = useRef<Outline | null>(null);
  const holds = draft && (draft.from === outline || (draft.sent && alike(draft.sent, outline)));
  if (draft && !holds) setDraft(null);
  return [
    holds ? draft.next : outline,
    (next) => setDraft({ from: outline, sent: sent.current, next }),
    (next) => void (sent.current = next),
  ];
}
