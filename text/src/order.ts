import type { Line, Rect, Word } from './words';
import { around } from './words';

/** Words of one line overlap by more than this share of the lower one's height. */
const sameLine = 0.5;
/** A wider gap than this between neighbours, in heights of the line, parts a line into two columns' lines. */
const columnGap = 2.5;
/** Further below than this, in heights of the line above, a paragraph begins. */
const paragraphGap = 1.2;

/**
 * Words by lines in the order in which they are read. The recogniser's own order of blocks is only used to tell columns apart: within a block, words whose
 * heights overlap are one line, from the left.
 *
 * @param blocks words by the blocks in which they were found, in reading order.
 * @param columns whether blocks beside each other are columns of text, to be read one after the other; else what stands at one height is one line.
 */
export function linesOf(blocks: readonly (readonly Word[])[], columns: boolean): Line[] {
  const groups = columns ? blocks : [blocks.flat()];
  return groups.flatMap((words) => linesIn(words));
}

function linesIn(words: readonly Word[]): Line[] {
  const lines: { words: Word[]; top: number; bottom: number }[] = [];
  for (const word of [...words].sort((a, b) => middle(a.box) - middle(b.box))) {
    const { y, height } = word.box;
    const line = lines.findLast(
      (l) => Math.min(l.bottom, y + height) - Math.max(l.top, y) > sameLine * Math.min(height, l.bottom - l.top),
    );
    if (!line) {
      lines.push({ words: [word], top: y, bottom: y + height });
      continue;
    }
    line.words.push(word);
    // The mean of what stands in it: tall brackets do not pull in the next line.
    line.top = mean(line.words.map((w) => w.box.y));
    line.bottom = mean(line.words.map((w) => w.box.y + w.box.height));
  }
  return lines
    .sort((a, b) => a.top - b.top)
    .map(({ words: own }) => {
      own.sort((a, b) => a.box.x - b.box.x);
      return { words: own, box: around(own.map((w) => w.box)) };
    });
}

const middle = ({ y, height }: Rect) => y + height / 2;
const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;

/** A page's text: one line a line, a wide gap within one as a tab, an empty line where the distance grows. */
export function textOf(lines: readonly Line[]): string {
  let out = '';
  lines.forEach((line, i) => {
    const before = lines[i - 1];
    if (before) out += line.box.y - (before.box.y + before.box.height) > paragraphGap * before.box.height || line.box.y < before.box.y ? '\n\n' : '\n'; // prettier-ignore
    line.words.forEach((word, k) => {
      const left = line.words[k - 1];
      if (left) out += word.box.x - (left.box.x + left.box.width) > columnGap * line.box.height ? '\t' : ' ';
      out += word.text;
    });
  });
  return out;
}
