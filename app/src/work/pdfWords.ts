import type { BroughtWord } from '../store/files';

/** What pdf.js says of a run of text: its matrix (PDF 32000-1, 9.4.4) puts the origin of its baseline in the page's units. */
export interface TextRun {
  str: string;
  transform: readonly number[];
  width: number;
  fontName: string;
}
type Styles = Readonly<Record<string, { ascent?: number; descent?: number; vertical?: boolean } | undefined>>;
type Matrix = readonly number[];

/** `second` after `first`, as PDF writes matrices. */
const after = ([a, b, c, d, e, f]: Matrix, [g, h, i, j, k, l]: Matrix): Matrix => [
  a! * g! + c! * h!,
  b! * g! + d! * h!,
  a! * i! + c! * j!,
  b! * i! + d! * j!,
  a! * k! + c! * l! + e!,
  b! * k! + d! * l! + f!,
];

/**
 * The words of a page of a PDF. A run's width is shared out by its letters: where each stands within it is not told.
 *
 * @param viewport matrix from the page's units to px.
 */
export function wordsOfRuns(runs: readonly TextRun[], styles: Styles, viewport: Matrix): BroughtWord[] {
  const words: BroughtWord[] = [];
  for (const { str, transform, width, fontName } of runs) {
    if (!str.trim() || styles[fontName]?.vertical) continue;
    const [a, b, c, d, e, f] = after(viewport, transform);
    // The run's width is in the page's units already, the matrix in those of its letters.
    const perUnit = Math.hypot(transform[0]!, transform[1]!) || 1;
    const letters = [...str];
    const along = width / perUnit / letters.length;
    const { ascent, descent } = styles[fontName] ?? {};
    const [top, bottom] = [ascent || 0.8, descent || -0.2];
    let at = 0;
    for (const part of str.split(/(\s+)/)) {
      const count = [...part].length;
      if (part.trim()) {
        const corners = [at, at + count].flatMap((k) =>
          [top, bottom].map((y) => [a! * k * along + c! * y + e!, b! * k * along + d! * y + f!] as const),
        );
        const [x, y] = [Math.min(...corners.map((p) => p[0])), Math.min(...corners.map((p) => p[1]))];
        const [right, low] = [Math.max(...corners.map((p) => p[0])), Math.max(...corners.map((p) => p[1]))];
        words.push([part, Math.round(x), Math.round(y), Math.round(right - x), Math.round(low - y)]);
      }
      at += count;
    }
  }
  return words;
}
