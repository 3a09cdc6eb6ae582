/**
 * How often a word was right to the letter, by what the engine said of it; measured on 6,396 words of 35 finished pages (docs/log/text.md). Words with a
 * digit are right less often, and their errors are seen less easily.
 */
const words: readonly [said: number, right: number][] = [[0, 0.05], [40, 0.16], [60, 0.34], [75, 0.52], [85, 0.72], [92.5, 0.91], [97, 0.992], [100, 0.995]]; // prettier-ignore
const numbers: readonly [said: number, right: number][] = [[0, 0.1], [40, 0.22], [60, 0.48], [75, 0.53], [85, 0.85], [92.5, 0.89], [97, 0.936], [100, 0.95]]; // prettier-ignore

/** Probability that a word is right, 0..1, from the engine's confidence, 0..100. */
export function calibrated(text: string, said: number): number {
  const table = /\d/.test(text) ? numbers : words;
  const at = table.findIndex(([s]) => s >= said);
  if (at <= 0) return table[at < 0 ? table.length - 1 : 0]![1];
  const [[s0, r0], [s1, r1]] = [table[at - 1]!, table[at]!];
  return r0 + ((r1 - r0) * (said - s0)) / (s1 - s0);
}

/** Under it a word is rather a speck, a rule or a part of a picture, as the engine says it. */
export const leastSaid = 30;
