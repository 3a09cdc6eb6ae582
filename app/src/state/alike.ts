import { isSameSheet, type Signature } from '@libretto/core';

/** What each page of this session looks like. Not stored: the check that follows from it is. */
const signatures = new Map<string, Signature>();

export function noteSignature(pageId: string, signature: Signature): void {
  signatures.set(pageId, signature);
}

/** The first of the other pages that shows the same sheet; blank ones are all alike and count as none. */
export function sameAs(pageId: string, others: readonly string[]): string | null {
  const own = signatures.get(pageId);
  if (!own || own.blank) return null;
  return (
    others.find((id) => {
      const other = signatures.get(id);
      return other && !other.blank && isSameSheet(own, other);
    }) ?? null
  );
}
