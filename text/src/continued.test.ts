import type { Block } from '@libretto/model/content';
import { withTablesJoined } from './continued';

const table = (...rows: string[]): Block => ({ kind: 'table', rows: rows.map((row) => row.split('|').map((text) => ({ text }))) }); // prettier-ignore
const text = (words: string): Block => ({ kind: 'paragraph', text: words });
const long = text(
  'The frames between the mast step and the chain locker were opened and looked at, plate by plate, on both sides.',
);
const tables = (pages: readonly (readonly Block[])[]) =>
  withTablesJoined(pages).map((blocks) => blocks.flatMap((b) => (b.kind === 'table' ? [b.rows.map((r) => r.map((c) => c!.text).join('|'))] : []))); // prettier-ignore

test('a table over three pages is one, with its heading once, and page numbers between', () => {
  const head = 'Part|Number|Price';
  const pages = [
    [long, table(head, 'Oak frame|2|12.50', 'Bronze bolt|40|3.20'), text('Page 1 of 3')],
    [text('Materials, continued'), table(head, 'Copper rove|80|0.35'), text('Page 2 of 3')],
    [table('Larch plank|6|48.00', 'Tar|1|9.10'), long],
  ];
  expect(tables(pages)).toEqual([
    [[head, 'Oak frame|2|12.50', 'Bronze bolt|40|3.20', 'Copper rove|80|0.35', 'Larch plank|6|48.00', 'Tar|1|9.10']],
    [],
    [],
  ]);
  // All else stays on its page.
  expect(withTablesJoined(pages)[2]).toEqual([long]);
});

test.each<[string, Block[][]]>([
  ['a heading of its own', [[table('Part|Price', 'Oak|12.50', 'Bolt|3.20')], [table('Man|Hours', 'Ash|8', 'Elm|6')]]],
  ['other columns', [[table('Part|Price', 'Oak|12.50', 'Bolt|3.20')], [table('Rove|80|0.35')]]],
  ['text between', [[table('Part|Price', 'Oak|12.50', 'Bolt|3.20'), long], [table('Rove|0.35')]]],
  ['text at the next page’s head', [[table('Part|Price', 'Oak|12.50', 'Bolt|3.20')], [long, table('Rove|0.35')]]],
  ['a page between', [[table('Part|Price', 'Oak|12.50', 'Bolt|3.20')], [long], [table('Rove|0.35')]]],
  [
    'a total, then the next form',
    [[table('Part|Price', 'Oak|12.50', 'Total|12.50')], [table('Part|Price', 'Bolt|3.20', 'Total|3.20')]],
  ],
  ['words where numbers were', [[table('Part|Price', 'Oak|12.50', 'Bolt|3.20')], [table('Rove|copper', 'Plank|larch')]]],
])('%s: they are two', (_, pages) => expect(tables(pages)).toEqual(pages.map((blocks) => tables([blocks])[0])));

test('a subtotal at the foot of a page ends nothing', () =>
  expect(tables([[table('Part|Price', 'Oak|12.50', 'Subtotal|12.50')], [table('Part|Price', 'Bolt|3.20')]])[0]).toEqual([
    ['Part|Price', 'Oak|12.50', 'Subtotal|12.50', 'Bolt|3.20'],
  ]));

test('nothing is changed in what was given', () => {
  const pages = [[table('a|b', 'x|1', 'y|2')], [table('z|3')]];
  const before = JSON.stringify(pages);
  expect(tables(pages)).toEqual([[['a|b', 'x|1', 'y|2', 'z|3']], []]);
  expect(JSON.stringify(pages)).toBe(before);
});
