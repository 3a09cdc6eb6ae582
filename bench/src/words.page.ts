import { putText, type ReadText } from '../../app/src/store/files';
import { WordIndex } from '../../app/src/work/wordIndex';

/** A linear congruential generator, 0 to 1. */
let state = 7;
const roll = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
const letters = ['b', 'd', 'f', 'g', 'k', 'l', 'm', 'n', 'p', 'r', 's', 't', 'v', 'st', 'tr', 'sch', 'th'];
const vowels = ['a', 'e', 'i', 'o', 'u', 'ea', 'ou', 'ä'];
const of = (list: readonly string[]) => list[Math.floor(roll() * list.length)]!;
const vocabulary = Array.from({ length: 30_000 }, (_, i) => (i % 9 === 8 ? String(1000 + i) : Array.from({ length: 1 + Math.floor(roll() * 3) }, () => of(letters) + of(vowels)).join('') + of(letters))); // prettier-ignore
/** Common words are common: ranks by Zipf's law, nearly. */
const word = () => vocabulary[Math.floor(vocabulary.length ** roll()) - 1]!;

const textOf = (i: number, words: number): ReadText => ({ look: '', documentId: `document-${i}`, language: 'en', lines: [], text: Array.from({ length: words }, word).join(' '), unread: 0, photo: [] }); // prettier-ignore

async function fill(documents: number, words: number): Promise<void> {
  for (let i = 0; i < documents; i += 200)
    await Promise.all(
      Array.from({ length: Math.min(200, documents - i) }, (_, k) => putText(`page-${i + k}`, textOf(i + k, words))),
    );
}

/** How long it takes to have every word at hand, and to keep what is new, ms. */
async function open(): Promise<{ index: WordIndex; filledMs: number; savedMs: number }> {
  const index = new WordIndex();
  const from = performance.now();
  await index.filled();
  const filled = performance.now();
  await index.save();
  return { index, filledMs: filled - from, savedMs: performance.now() - filled };
}

let opened: WordIndex;
const api = {
  fill,
  async open() {
    const { index, ...times } = await open();
    opened = index;
    return times;
  },
  /** One page read anew, and kept. */
  async change(i: number, words: number): Promise<number> {
    await putText(`page-${i}`, textOf(i, words));
    const from = performance.now();
    await opened.changed(`page-${i}`);
    await opened.save();
    return performance.now() - from;
  },
  /** As somebody types: beginnings, several words, a letter wrong. */
  search(count: number): number[] {
    return Array.from({ length: count }, (_, i) => {
      const [a, b] = [word(), word()];
      const query = i % 4 === 0 ? a.slice(0, 3) : i % 4 === 1 ? `${a} ${b.slice(0, 4)}` : i % 4 === 2 && a.length > 4 ? `${a.slice(0, 2)}x${a.slice(3)}` : `${a} ${b}`; // prettier-ignore
      const from = performance.now();
      opened.search(query, 200);
      return performance.now() - from;
    });
  },
};

export type Words = typeof api;
Object.assign(globalThis, { words: api });
