import { languages } from './languages';
import type { PageText } from './read';

/** A page's words as they lie over it in a file: lines in reading order, mm from the page's top left. */
export function wordsOf(
  { lines, language }: Pick<PageText, 'lines' | 'language'>,
  { image, widthMm, heightMm }: { image: { width: number; height: number }; widthMm: number; heightMm: number },
) {
  const [across, down] = [widthMm / image.width, heightMm / image.height];
  return {
    language: languages[language],
    lines: lines.map(({ words }) =>
      words.map(({ text, box }) => ({
        text,
        x: box.x * across,
        y: box.y * down,
        width: box.width * across,
        height: box.height * down,
      })),
    ),
  };
}
