import { de } from './de';
import { en } from './en';
import { enMore } from './enMore';

/** Every word of a catalogue by its key. */
function leaves(part: object, at = ''): [string, string][] {
  return Object.entries(part).flatMap(([key, value]): [string, string][] =>
    typeof value === 'string' ? [[`${at}${key}`, value]] : leaves(value as object, `${at}${key}.`),
  );
}
const english = new Map([...leaves(en), ...leaves(enMore)]);
const german = new Map(leaves(de));
const places = (words: string) => [...words.matchAll(/\{\{(\w+)\}\}/g)].map((m) => m[1]).sort();

test('no word is missing in German, and none is there for nothing', () => {
  expect([...german.keys()].sort()).toEqual([...english.keys()].sort());
});

test('what is put into words has its place in both languages', () => {
  for (const [key, words] of english) {
    const [there, here] = [new Set(places(words)), new Set(places(german.get(key)!))];
    // A singular may say its number in letters.
    if (key.endsWith('_one')) for (const each of [here, there]) each.delete('count');
    expect([key, ...here]).toEqual([key, ...there]);
  }
});

test('words of both halves of the English catalogue do not stand in each other’s way', () => {
  const first = new Set(leaves(en).map(([key]) => key));
  expect(leaves(enMore).filter(([key]) => first.has(key))).toEqual([]);
});
