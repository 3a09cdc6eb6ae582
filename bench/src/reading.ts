import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { nodeEngine } from '@libretto/cli/engine';
import { analysePage, finish } from '@libretto/core';
import { readPage } from '@libretto/text';
import { characterError, plain } from './characters';
import { flatPages, type FlatPagesOptions } from './flatPages';
import { median } from './median';
import { mostEdgePx, picture, readByDebians, unread } from './text';

/** Between these a confidence is told with others. */
const steps = [0, 0.5, 0.7, 0.8, 0.9, 0.95, 1.001];

const wordsOf = (text: string) => plain(text).split(' ').filter(Boolean);

/** How many there are of each. */
function counted(words: readonly string[]): Map<string, number> {
  const count = new Map<string, number>();
  for (const word of words) count.set(word, (count.get(word) ?? 0) + 1);
  return count;
}

/** Share of the true words that are not found again to the letter, whatever their order. */
function wordError(truth: string, read: string): number {
  const [wanted, left] = [wordsOf(truth), counted(wordsOf(read))];
  let missing = 0;
  for (const word of wanted) {
    const n = left.get(word) ?? 0;
    if (n) left.set(word, n - 1);
    else missing++;
  }
  return wanted.length ? missing / wanted.length : 0;
}

/** Share of neighbours on the page, both of them read and each there once only, that are no neighbours in what was read. */
function orderError(truth: string, read: string): number {
  const [wanted, got] = [wordsOf(truth), wordsOf(read)];
  const once = (words: readonly string[]) => new Set([...counted(words)].filter(([, n]) => n === 1).map(([word]) => word));
  const [onceWanted, onceGot] = [once(wanted), once(got)];
  const at = new Map(got.map((word, i) => [word, i]));
  let [pairs, broken] = [0, 0];
  for (let i = 1; i < wanted.length; i++) {
    const pair = [wanted[i - 1]!, wanted[i]!] as const;
    if (!pair.every((word) => onceWanted.has(word) && onceGot.has(word))) continue;
    pairs++;
    if (at.get(pair[1])! - at.get(pair[0])! !== 1) broken++;
  }
  return pairs ? broken / pairs : 0;
}

/**
 * How well our reader reads finished pages, by category, beside Debian's Tesseract on the same ones: characters and words wrong, order of reading, time; and how often a word was right, by how
 * sure it was said to be, words and numbers apart.
 */
export async function benchReading(dir: string, options: FlatPagesOptions): Promise<void> {
  if (!existsSync('/usr/bin/tesseract')) return console.log('needs Debian’s tesseract-ocr');
  const work = mkdtempSync(path.join(tmpdir(), 'libretto-reading-'));
  const engine = nodeEngine();
  interface Score { ours: number; debians: number; words: number; debiansWords: number; order: number; debiansOrder: number; ms: number } // prettier-ignore
  const scores = new Map<string, Score[]>();
  const bins = { words: steps.slice(1).map(() => ({ said: 0, right: 0, n: 0 })), numbers: steps.slice(1).map(() => ({ said: 0, right: 0, n: 0 })) }; // prettier-ignore
  for await (const { category, name, truth, flat } of flatPages(dir, options)) {
    const { text = '' } = truth;
    if (unread.has(category) || text.length < 40) continue;
    const { image } = finish(flat, { filter: 'grey' }, analysePage(flat));
    const began = performance.now();
    const read = await readPage(image, engine, { widthMm: flat.widthMm });
    const ms = performance.now() - began;
    const dpi = (image.width / flat.widthMm) * 25.4 * Math.min(1, mostEdgePx / Math.max(image.width, image.height));
    const other = await readByDebians(picture(image), path.join(work, 'page.png'), dpi);
    const score = { ours: characterError(text, read.text), debians: characterError(text, other), words: wordError(text, read.text), debiansWords: wordError(text, other), order: orderError(text, read.text), debiansOrder: orderError(text, other), ms }; // prettier-ignore
    scores.set(category, [...(scores.get(category) ?? []), score]);
    const left = counted(wordsOf(text));
    for (const { text: word, confidence } of read.lines.flatMap((line) => line.words)) {
      const said = plain(word);
      if (!said) continue;
      const bin = bins[/\d/.test(said) ? 'numbers' : 'words'][steps.findIndex((s) => s > confidence) - 1]!;
      const n = left.get(said) ?? 0;
      if (n) left.set(said, n - 1);
      bin.n++;
      bin.said += confidence;
      bin.right += Number(n > 0);
    }
    console.log(`${name}: characters ${score.ours.toFixed(3)} (Debian’s ${score.debians.toFixed(3)}), order ${score.order.toFixed(3)}, ${Math.round(ms)} ms`); // prettier-ignore
  }
  await engine.end();
  rmSync(work, { recursive: true, force: true });
  const mean = (list: readonly Score[], of: keyof Score) => list.reduce((sum, s) => sum + s[of], 0) / list.length;
  const row = (what: string, list: readonly Score[]) =>
    console.log(`${what.padEnd(14)} ${String(list.length).padStart(3)}  ${(['ours', 'debians', 'words', 'debiansWords', 'order', 'debiansOrder'] as const).map((of) => mean(list, of).toFixed(3)).join('  ')}  ${Math.round(median(list.map((s) => s.ms)))}`); // prettier-ignore
  console.log('category       pages  characters (Debian’s)  words (Debian’s)  order (Debian’s)  ms');
  for (const [category, list] of scores) row(category, list);
  const all = [...scores.values()].flat();
  row('all', all);
  let [off, told] = [0, 0];
  for (const kind of ['words', 'numbers'] as const)
    for (const [i, { said, right, n }] of bins[kind].entries()) {
      if (!n) continue;
      off += Math.abs(said - right);
      told += n;
      console.log(`${kind} said to be right to ${steps[i]} … ${Math.min(1, steps[i + 1]!)}: ${n}, said ${(said / n).toFixed(3)}, right ${(right / n).toFixed(3)}`); // prettier-ignore
    }
  const figures = Object.fromEntries((['ours', 'debians', 'words', 'debiansWords', 'order', 'debiansOrder'] as const).map((of) => [of, +mean(all, of).toFixed(4)])); // prettier-ignore
  console.log(JSON.stringify({ pages: all.length, ...figures, ms: Math.round(median(all.map((s) => s.ms))), calibrationError: +(off / told).toFixed(4) })); // prettier-ignore
}
