import type { ReadText } from '../store/files';

/** What was read on a page as words in lines, for what looks for names in it. */
export const readWords = (text: ReadText | null | undefined) =>
  (text?.lines ?? []).map((line) => ({
    words: line.map(([word, x, y, width, height, confidence]) => ({ text: word, box: { x, y, width, height }, confidence })),
  }));
