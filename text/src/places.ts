import type { Rule } from './layout';
import type { PagePlaces } from './tables';
import type { Line, Rect } from './words';

/** What was read in any unit, as it lies on paper. @param across and @param down mm of one unit. */
export function onPaper(
  { lines, rules }: { lines: readonly Pick<Line, 'words'>[]; rules: readonly Rule[] },
  across: number,
  down: number,
): PagePlaces {
  const box = ({ x, y, width, height }: Rect): Rect => ({
    x: x * across,
    y: y * down,
    width: width * across,
    height: height * down,
  });
  const point = ([x, y]: Rule['from']) => [x * across, y * down] as const;
  return {
    lines: lines.map(({ words }) => ({ words: words.map((w) => ({ ...w, box: box(w.box) })) })),
    rules: rules.map(({ along, from, to }) => ({ along, from: point(from), to: point(to) })),
  };
}
