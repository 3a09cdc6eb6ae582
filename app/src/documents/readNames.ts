import { nameByPattern, type NamePattern } from '@libretto/model';
import type { Suggestion } from '@libretto/text/suggest';

/** Surer than this a suggestion is shown without a mark. */
export const sure = 0.9;

/** The name that a pattern makes of what was read; whether some of that is not beyond doubt, and whether there was any. */
export function nameFrom(
  found: readonly Suggestion[],
  pattern: NamePattern,
  scannedAt: string,
): { name: string; unsure: boolean; read: boolean; sender: Suggestion | undefined } {
  // What somebody drew a box round is what they mean, however it was read.
  const rank = ({ framed, right }: Suggestion) => (framed ? 1 : 0) + right;
  const best = (kind: Suggestion['kind']) => found.filter((s) => s.kind === kind).sort((a, b) => rank(b) - rank(a))[0];
  const asked = (kind: Suggestion['kind']) => (pattern.parts.some((p) => p.kind === kind) ? best(kind) : undefined);
  const sender = asked('sender');
  const parts = [best('date'), best('title'), best('number'), sender];
  const [date, title, number] = parts.map((part) => part?.text);
  return {
    name: nameByPattern(pattern, { date, sender: sender?.text, title, number, at: new Date(scannedAt) }),
    unsure: parts.some((part) => part && part.right < sure),
    read: parts.some(Boolean),
    sender,
  };
}
