import bidiFactory from 'bidi-js';

const bidi = bidiFactory();
/** Letters of scripts that run to the left (Unicode's blocks of Hebrew to Arabic Extended-A, its presentation forms, and the right-to-left part of plane 1). */
const leftward = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc\u{10800}-\u{10fff}\u{1e800}-\u{1efff}]/u;

/** Whether a line runs to the left, by its first letter with a direction (Unicode Standard Annex 9, P2). */
export function runsLeft(text: string): boolean {
  if (!leftward.test(text)) return false;
  for (const character of text) {
    const type = bidi.getBidiCharTypeName(character);
    if (type === 'L') return false;
    if (type === 'R' || type === 'AL') return true;
  }
  return false;
}

/** A word's characters from left to right, as they stand on paper (Annex 9, L2 and L4); `text` has them in the order in which they are read. */
export const asItStands = (text: string, left: boolean): string =>
  leftward.test(text) ? bidi.getReorderedString(text, bidi.getEmbeddingLevels(text, left ? 'rtl' : 'ltr')) : text;
