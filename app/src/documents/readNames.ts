import { nameByPattern, type NamePattern } from '@libretto/model';
import type { Suggestion } from '@libretto/text/suggest';
import type { ReadText } from '../store/files';

/** What was read on a page as words in lines, for what looks for names in it. */
export const readWords = (text: ReadText | null | undefined) =>
  (text?.lines ?? []).map((line) => ({
    words: line.map(([word, x, y, width, height, confidence]) => ({ text: word, box: { x, y, width, height }, confidence })),
  }));

/** Surer than this a suggestion is shown without a mark. */
export const sure = 0.9;

/** The name that a pattern makes of what was read; whether some of that is not beyond doubt, and whether there was any. */
export function nameFrom(
  found: readonly Suggestion[],
  pattern: NamePattern,
  scannedAt: string,
): { name: string; unsure: boolean; read: boolean } {
  const best = (kind: Suggestion['kind']) => found.filter((s) => s.kind === kind).sort((a, b) => b.right - a.right)[0];
  const parts = [best('date'), best('title'), best('number')];
  const [date, title, number] = parts.map((part) => part?.text);
  return {
    name: nameByPattern(pattern, { date, title, number, at: new Date(scannedAt) }),
    unsure: parts.some((part) => part && part.right < sure),
    read: parts.some(Boolean),
  };
}
