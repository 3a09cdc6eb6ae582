import type { Rule } from './layout';
import { blocksOf } from './blocks';
import { tablesIn, type PagePlaces } from './tables';
import type { Word } from './words';

/** Words of a line, 2.5 mm high, 2 mm a letter; a piece at each position, mm. */
const line = (y: number, ...pieces: [x: number, text: string][]): { words: Word[] } => ({
  words: pieces.flatMap(([x, text]) => {
    let at = x;
    return text.split(' ').map((word): Word => {
      const box = { x: at, y, width: 1.8 * word.length, height: 2.5 };
      at += box.width + 1;
      return { text: word, box, confidence: 0.99 };
    });
  }),
});
const across = (y: number, from: number, to: number): Rule => ({ along: 'x', from: [from, y], to: [to, y] });
const down = (x: number, from: number, to: number): Rule => ({ along: 'y', from: [x, from], to: [x, to] });
const cells = ({ lines, rules }: PagePlaces) => tablesIn({ lines, rules }).tables.map((t) => t.rows.map((r) => r.map((c) => c && c.text + (c.across > 1 ? `>${c.across}` : '') + (c.down > 1 ? `v${c.down}` : '')))); // prettier-ignore

describe('tables', () => {
  test('of crossing rules, with cells joined across and down, and lines that go on', () => {
    const page: PagePlaces = {
      rules: [across(10, 20, 140), across(20, 20, 140), across(30, 60, 140), across(40, 20, 140), down(20, 10, 40), down(60, 10, 40), down(100, 20, 40), down(140, 10, 40)], // prettier-ignore
      lines: [line(12, [22, 'Part'], [62, 'Measured twice']), line(22, [22, 'Keel'], [62, '5.9'], [102, 'worn']), line(26, [102, 'thin']), line(32, [62, '6.1'], [102, 'good'])], // prettier-ignore
    };
    expect(cells(page)).toEqual([
      [
        ['Part', 'Measured twice>2', null],
        ['Keelv2', '5.9', 'worn thin'],
        [null, '6.1', 'good'],
      ],
    ]);
  });
  test('of rules between columns only: each level line is a record', () => {
    const page: PagePlaces = {
      rules: [across(10, 20, 140), across(40, 20, 140), down(20, 10, 40), down(60, 10, 40), down(140, 10, 40)],
      lines: [12, 18, 24, 30].map((y, i) => line(y, [22, `Part ${i}`], [62, `${i}.50`])),
    };
    expect(cells(page)[0]).toEqual([0, 1, 2, 3].map((i) => [`Part ${i}`, `${i}.50`]));
  });
  test('without rules, by gutters: a heading over two columns, a line that goes on, figures to the right', () => {
    const page: PagePlaces = {
      rules: [],
      lines: [
        line(10, [62, 'Measured at low water']),
        line(15, [20, 'Part'], [62, 'Depth'], [95, 'Price']),
        line(20, [20, 'Anchor'], [66, '3.2'], [93, '1 204.50']),
        line(25, [20, 'Keel bolt'], [64, '11.0'], [100, '7.00']),
        line(30, [20, 'Rudder'], [66, '8.1'], [98, '12.00']),
        line(35, [20, 'Tar'], [66, '0.4'], [100, '3.50']),
      ],
    };
    expect(cells(page)[0]).toEqual([
      ['', 'Measured at low water>2', null],
      ['Part', 'Depth', 'Price'],
      ['Anchor', '3.2', '1 204.50'],
      ['Keel bolt', '11.0', '7.00'],
      ['Rudder', '8.1', '12.00'],
      ['Tar', '0.4', '3.50'],
    ]);
  });
  test('a line between two is no part of either; text and columns of text are none', () => {
    const table = (y: number) => [0, 1, 2, 3].map((i) => line(y + 5 * i, [20, `Part ${i}`], [80, `${i}.50`]));
    const prose = 'what is still to come stands below as it was told';
    expect(cells({ rules: [], lines: [...table(10), line(33, [20, prose]), ...table(40)] }).map((t) => t.length)).toEqual([4, 4]);
    const column = [0, 1, 2, 3, 4, 5].map((i) =>
      line(10 + 5 * i, [20, 'the slip was cleared before noon'], [110, 'and a gale came up from the west']),
    );
    expect(cells({ rules: [], lines: column })).toEqual([]);
    expect(cells({ rules: [across(10, 20, 140)], lines: [0, 1, 2, 3].map((i) => line(12 + 5 * i, [20, prose])) })).toEqual([]);
  });
});

describe('blocks', () => {
  test('headings, paragraphs with their broken lines joined, lists, tables in their places', () => {
    const heading = line(10, [20, 'Survey']);
    for (const word of heading.words) word.box.height = 5;
    const { blocks } = blocksOf({
      rules: [],
      lines: [
        heading,
        line(20, [20, 'The plating was cleaned to bright me-']),
        line(24, [20, 'tal at each point and then measured a']),
        line(28, [20, 'second time.']),
        line(40, [20, '1. Close the cock']),
        line(50, [20, '2. Open the tap']),
        ...[0, 1, 2, 3].map((i) => line(60 + 5 * i, [20, `Part ${i}`], [80, `${i}.50`])),
        line(90, [20, 'K. Elmwood']),
        line(94, [20, 'Staithe Road']),
      ],
    });
    expect(blocks).toEqual([
      { kind: 'heading', level: 1, text: 'Survey' },
      { kind: 'paragraph', text: 'The plating was cleaned to bright metal at each point and then measured a second time.' },
      { kind: 'list', ordered: true, items: ['Close the cock', 'Open the tap'] },
      { kind: 'table', rows: [0, 1, 2, 3].map((i) => [{ text: `Part ${i}` }, { text: `${i}.50` }]) },
      { kind: 'paragraph', text: 'K. Elmwood\nStaithe Road' },
    ]);
  });
});
