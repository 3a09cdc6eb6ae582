import { knownIn, partAfter, senderIn } from './sender';
import { suggestionsOf, sureParts, type SuggestLine } from './suggest';

test.each([
  ['Marram & Pole, timber merchants', 'Marram & Pole'],
  ['Halyard Sails GmbH', 'Halyard Sails GmbH'],
  ['From: the harbour office', 'the harbour office'],
  ['Lantern Print Studio', 'Lantern Print Studio'],
  ['14 Staithe Road', null],
  ['Saltmarsh', null],
  ['Dear owner,', null],
  ['The timber lies in the dry loft and was found sound.', null],
])('of “%s” may send: %s', (line, sender) => expect(senderIn(line)?.text ?? null).toBe(sender));

const known = [
  { sign: 'Marram & Pole, timber merchants', name: 'Marram' },
  { sign: 'Kelp Rope Works', name: 'Kelp' },
];

test('a line that was said to be a sender’s is known again, letter by letter or nearly', () => {
  expect(knownIn('Marram & Pole, timber merchants', known)?.name).toBe('Marram');
  expect(knownIn('Marrarn & Pole, timber merchants', known)?.name).toBe('Marram');
  expect(knownIn('to Kelp Rope Works, in the yard', known)?.name).toBe('Kelp');
  expect(knownIn('Kelp', known)).toBeUndefined();
  expect(knownIn('Whelp Pope Marks', known)).toBeUndefined();
});

test.each([
  ['letters at its end taken away', '2026-11-19 Marram & Pole Docket', '2026-11-19 Marram Docket', 'Marram'],
  ['a letter put right', '2026-11-19 Marrarn & Pole Docket', '2026-11-19 Marram & Pole Docket', 'Marram & Pole'],
  ['something before it', '2026-11-19 Marram & Pole Docket', '19 November Marram & Pole Docket', 'Marram & Pole'],
  ['something behind it', '2026-11-19 Marram & Pole Docket', '2026-11-19 Marram & Pole Docket 4471', 'Marram & Pole'],
  ['nothing', '2026-11-19 Marram & Pole Docket', '2026-11-19 Marram & Pole Docket', 'Marram & Pole'],
  ['all of it', '2026-11-19 Marram & Pole Docket', 'Wren', null],
])('a part of a name in which somebody has typed, %s', (_what, before, after, part) => {
  const text = /Marra\w+ & Pole/.exec(before)!;
  expect(partAfter(before, text.index, text.index + text[0].length, after)).toBe(part);
});

const line = (text: string, y: number, height = 10, confidence = 0.95): SuggestLine => ({
  words: text.split(' ').map((word, i) => ({ text: word, box: { x: i * 50, y, width: 45, height }, confidence })),
});
const page = (sender: SuggestLine) => [sender, line('Delivery docket', 60, 24), line('19 November 2026', 100), ...Array.from({ length: 9 }, (_, i) => line('oak planks for the yard to be laid in the loft', 300 + 20 * i))]; // prettier-ignore

test('the sender is read off the head of a page, in the name only where it is sure; once corrected it is called so the next time', () => {
  const senderOf = (lines: SuggestLine[], senders = known) => suggestionsOf(lines, 1000, senders).find((s) => s.kind === 'sender'); // prettier-ignore
  expect(senderOf(page(line('Tiller & Sons', 20, 13)))).toMatchObject({ text: 'Tiller & Sons', alone: true });
  expect(senderOf(page(line('Lantern Print Studio', 20)))).toMatchObject({ text: 'Lantern Print Studio', alone: false });
  expect(senderOf(page(line('Kelp Rope Works', 20, 10, 0.5)))).toMatchObject({ text: 'Kelp', sign: 'Kelp Rope Works', right: 0.97 }); // prettier-ignore
  const wanted = ['date', 'sender', 'title'] as const;
  expect(sureParts(suggestionsOf(page(line('Kelp Rope Works', 20)), 1000, known), wanted)).toMatchObject({ sender: 'Kelp', title: 'Delivery docket' }); // prettier-ignore
  expect(sureParts(suggestionsOf(page(line('Tiller & Sons', 20, 13, 0.6)), 1000), wanted)).not.toHaveProperty('sender');
});
