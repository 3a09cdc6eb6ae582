import { kinship, type Signature } from '@libretto/core/inspect/kinship';

/** What a page looks like, and how wide its print's edges are on paper, mm. */
export interface Looks {
  signature: Signature;
  /** The same from the corner that lies uppermost on the left, as a camera sees it. */
  seen: Signature;
  edgeMm: number | null;
}

/** What each page of this session looks like. Not stored: the check that follows from it is. */
const looks = new Map<string, Looks>();

const listeners = new Set<(pageId: string, signature: Signature) => void>();

export function noteLooks(pageId: string, { signature, seen, edgeMm }: Looks): void {
  looks.set(pageId, { signature, seen, edgeMm });
  listeners.forEach((listener) => listener(pageId, seen));
}

/** Hears what each page that is looked at looks like to a camera. */
export function onLooks(listener: (pageId: string, signature: Signature) => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** How much wider another page's edges are than this one's: above 1 this one is the sharper one. */
export function sharperBy(pageId: string, other: string): number | undefined {
  const [own, its] = [looks.get(pageId)?.edgeMm, looks.get(other)?.edgeMm];
  return own && its ? its / own : undefined;
}

/** The first of the other pages that shows the same sheet; blank ones are all alike and count as none. */
export function sameAs(pageId: string, others: readonly string[]): string | null {
  const own = looks.get(pageId)?.signature;
  if (!own || own.blank) return null;
  return (
    others.find((id) => {
      const other = looks.get(id)?.signature;
      return other && !other.blank && kinship(own, other) === 'same';
    }) ?? null
  );
}
