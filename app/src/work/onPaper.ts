import type { ReadText } from '../store/files';
import type { WordsPage } from './words.worker';

const whole = 10_000;

/** What was read, as it lies on paper: mm. */
export function wordsOnPaper({ lines, rules = [] }: ReadText, widthMm: number, heightMm: number): WordsPage {
  const [across, down] = [widthMm / whole, heightMm / whole];
  return {
    widthMm,
    heightMm,
    lines: lines.map((line) => ({
      words: line.map(([text, x, y, width, height, confidence]) => ({
        text,
        confidence,
        box: { x: x * across, y: y * down, width: width * across, height: height * down },
      })),
    })),
    rules: rules.map(([along, x0, y0, x1, y1]) => ({
      along: along ? 'x' : 'y',
      from: [x0 * across, y0 * down],
      to: [x1 * across, y1 * down],
    })),
  };
}

/** Where telephone numbers without a country's code belong: as the browser is set, else as the language is spoken most. */
export function homeCountry(language = navigator.language): string {
  try {
    return new Intl.Locale(language).maximize().region ?? 'GB';
  } catch {
    // What some systems say is no language (en-US@posix).
    return 'GB';
  }
}
