import { around, type Word } from './words';

/** The words of a line in parts that stand apart: further than so many letters of theirs are wide. */
export function apart<W extends Word>(words: readonly W[], gap: number): W[][] {
  const letters = words.reduce((sum, w) => sum + w.text.length, 0);
  const letter = words.reduce((sum, w) => sum + w.box.width, 0) / Math.max(1, letters);
  const parts: W[][] = [];
  words.forEach((word, i) => {
    const before = words[i - 1];
    if (!before || word.box.x - (before.box.x + before.box.width) > gap * letter) parts.push([word]);
    else parts.at(-1)!.push(word);
  });
  return parts;
}

/** Lines column by column: each goes on the column whose last line lies over it, from the left column to the right one. */
export function byColumns<W extends Word>(lines: readonly (readonly W[])[]): (readonly W[])[] {
  const columns: { lines: (readonly W[])[]; x: number; right: number }[] = [];
  for (const words of [...lines].filter((l) => l.length).sort((a, b) => around(a.map((w) => w.box)).y - around(b.map((w) => w.box)).y)) {
    const { x, width } = around(words.map((w) => w.box));
    const shared = (c: { x: number; right: number }) => (Math.min(c.right, x + width) - Math.max(c.x, x)) / Math.max(1e-9, Math.min(width, c.right - c.x));
    const own = columns.filter((c) => shared(c) > 0.3).sort((a, b) => shared(b) - shared(a))[0];
    if (own) Object.assign(own, { x, right: x + width }).lines.push(words);
    else columns.push({ lines: [words], x, right: x + width });
  }
  return columns.sort((a, b) => around(a.lines[0]!.map((w) => w.box)).x - around(b.lines[0]!.map((w) => w.box)).x).flatMap((c) => c.lines);
} // prettier-ignore
