import { datesIn, suggestionsOf, sureParts, type SuggestLine } from './suggest';

// Dates as they are written in the languages that ship (common practice); ISO 8601 for what they become.
test.each([
  ['Saltmarsh, 19 November 2026', ['2026-11-19']],
  ['20.11.2026 09:12', ['2026-11-20']],
  ['den 3. März 2026', ['2026-03-03']],
  ['le 1er août 2026', ['2026-08-01']],
  ['el 5 de mayo de 2026', ['2026-05-05']],
  ['November 9th, 2026', ['2026-11-09']],
  ['2026-02-28', ['2026-02-28']],
  ['03/04/2026', ['2026-04-03', '2026-03-04']],
  ['25/12/2026', ['2026-12-25']],
  ['31.02.2026', []],
  ['after 16 hours, 12 frames 2026', []],
  ['Tel 01632 960117', []],
  // Slashed noughts read as other figures.
  ['Datum: 28.12.2826', ['2026-12-28']],
  ['2026-82-26', ['2026-02-26']],
  ['16/96/2026', ['2026-06-16']],
  ['99.13.2026', []],
])('“%s” speaks of %j', (text, dates) => expect(datesIn(text).map((d) => d.date)).toEqual(dates));

const line = (text: string, y: number, height = 10, confidence = 0.97): SuggestLine => ({
  words: text.split(' ').map((word, i) => ({ text: word, box: { x: i * 50, y, width: 45, height }, confidence })),
});

test('a docket gives its date, its heading and its number, each with where it stands', () => {
  const found = suggestionsOf(
    [line('Delivery docket No 4471', 20, 24), line('19 November 2026', 60), line('Marram & Pole, timber merchants', 90), line('valid until 30 November 2026, then to be sent back to us', 800)], // prettier-ignore
    1000,
  );
  expect(found.map((s) => [s.kind, s.text])).toEqual([
    ['date', '2026-11-19'],
    ['date', '2026-11-30'],
    ['sender', 'Marram & Pole'],
    ['title', 'Delivery docket No 4471'],
    ['number', '4471'],
  ]);
  expect(found[4]!.box).toEqual({ x: 150, y: 20, width: 45, height: 24 });
});

test('what stands far to the right of a heading is not part of it', () => {
  const words = [
    ...line('Delivery docket', 20, 24).words,
    ...line('No 4471', 20, 12).words.map((w) => ({ ...w, box: { ...w.box, x: w.box.x + 600 } })),
  ];
  const found = suggestionsOf([{ words }, line('body of the page', 80), line('more of it', 100), line('and more', 120)], 1000);
  expect(found.map((s) => s.text)).toEqual(['Delivery docket', '4471']);
});

test('what is uncertain is no title; without a heading the first line is offered', () => {
  expect(suggestionsOf([line('Hu1l surveg', 20, 30, 0.4), line('body of the page', 80), line('more of it', 100)], 1000)).toEqual(
    [],
  );
  const plain = suggestionsOf([line('Mast step, to be renewed', 20), line('body of the page', 80)], 1000);
  expect(plain.map((s) => s.text)).toEqual(['Mast step, to be renewed']);
});

test('what was read as no day at all is a guess, and until when it is to be paid is not its date: neither is sure', () => {
  const found = suggestionsOf([line('Datum: 28.12.2826', 60), line('Zahlbar bis 28.01.2026', 90)], 1000);
  expect(found.map((s) => [s.text, s.right])).toEqual([
    ['2026-12-28', 0.5],
    ['2026-01-28', 0.7],
  ]);
});

test('the least sure word says how sure it is', () => {
  const words = [
    ...line('19 November', 60).words,
    ...line('2026', 60, 10, 0.5).words.map((w) => ({ ...w, box: { ...w.box, x: 100 } })),
  ];
  expect(suggestionsOf([{ words }], 1000)[0]).toMatchObject({ kind: 'date', right: 0.5 });
});

test('the head of a table is no heading, however high its letters', () => {
  const cells = ['Timber', 'Section,', 'Length,', 'Pieces'].map((text, i) => ({ text, box: { x: i * 250, y: 60, width: 60, height: 18 }, confidence: 0.99 })); // prettier-ignore
  const found = suggestionsOf(
    [line('Delivery docket', 20, 24), { words: cells }, line('Larch and oak', 90), line('body', 120)],
    1000,
  );
  expect(found.filter((s) => s.kind === 'title').map((s) => s.text)).toEqual(['Delivery docket']);
});

test('a large heading is one though small lines stand beside it', () => {
  const word = (text: string, x: number, y: number, height: number, width: number) => ({ text, box: { x, y, width, height }, confidence: 0.95 }); // prettier-ignore
  const found = suggestionsOf(
    [
      {
        words: [
          word('Delivery', 60, 74, 52, 170),
          word('docket', 240, 74, 41, 138),
          word('No', 830, 75, 23, 30),
          word('4471', 880, 75, 23, 60),
        ],
      },
      { words: [word('19', 816, 115, 15, 14), word('November', 836, 115, 15, 67), word('2026', 908, 115, 15, 34)] },
      ...['Marram & Pole', 'Staithe Road', 'Deliver to the yard'].map((text, i) => ({
        words: text.split(' ').map((w, k) => word(w, 60 + 90 * k, 148 + 30 * i, 17, 80)),
      })),
    ],
    1000,
  );
  expect(found.filter((s) => s.alone).map((s) => s.text)).toEqual(['2026-11-19', 'Marram & Pole', 'Delivery docket', '4471']);
  expect(sureParts(found, ['date', 'title', 'number'])).toEqual({ date: '2026-11-19', title: 'Delivery docket', number: '4471' });
  // Less surely read, a number is left out; a title may not be.
  const doubtful = (kind: string) => found.map((s) => (s.kind === kind ? { ...s, right: 0.7 } : s));
  expect(sureParts(doubtful('number'), ['title', 'number'])).toEqual({ title: 'Delivery docket' });
  expect([sureParts(doubtful('title'), ['date', 'title']), sureParts(doubtful('date'), ['date', 'title'])]).toEqual([null, null]);
});

test('what stands in a box that was drawn round it is offered as the title first, and never taken unasked', () => {
  const read = [
    line('Delivery docket No 4471', 20, 24),
    line('| Plates for Wren _', 210, 10, 0.96),
    line('of the nineteenth of November', 300),
    line('and so on', 400),
  ];
  const frame = { x: 0, y: 200, width: 400, height: 40 };
  const found = suggestionsOf(read, 1000, [], [frame]);
  const titles = found.filter((s) => s.kind === 'title');
  expect(titles.map((s) => [s.text, s.framed ?? false])).toEqual([['Plates for Wren', true], ['Delivery docket No 4471', false]]); // prettier-ignore
  expect(titles[0]!.box).toEqual(frame);
  expect(sureParts(found, ['title'])).toBeNull();
  expect(sureParts(suggestionsOf(read, 1000), ['title'])).not.toBeNull();
  // An empty one says nothing.
  expect(suggestionsOf(read, 1000, [], [{ ...frame, y: 500 }]).every((s) => !s.framed)).toBe(true);
});
