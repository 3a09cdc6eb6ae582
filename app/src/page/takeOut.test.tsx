import { fireEvent, screen } from '@testing-library/react';
import type { ReadText } from '../store/files';
import { aPage } from '../testing/records';
import { show } from '../testing/show';
import type { Taken } from '../work/words.worker';
import { TableSheet } from './TableSheet';
import { joinedColumns, joinedRows, without } from './tableChanges';
import { TakeOut } from './TakeOut';

const rows = [
  [{ text: 'Over both', across: 2 }, null, { text: 'Price' }],
  [{ text: 'Anchor' }, { text: 'chain' }, { text: '3.20' }],
  [{ text: '' }, { text: 'new' }, { text: '' }],
];
const texts = (of: typeof rows | ReturnType<typeof joinedRows>) => of.map((row) => row.map((cell) => cell?.text ?? null));

test('rows and columns of a table are joined and left out; what went over several becomes single', () => {
  expect(texts(joinedColumns(rows, 0))).toEqual([
    ['Over both', 'Price'],
    ['Anchor chain', '3.20'],
    ['new', ''],
  ]);
  expect(texts(joinedRows(rows, 1))).toEqual([
    ['Over both', '', 'Price'],
    ['Anchor', 'chain new', '3.20'],
  ]);
  expect(texts(without(rows, 'row', 0))).toEqual([
    ['Anchor', 'chain', '3.20'],
    ['', 'new', ''],
  ]);
  expect(texts(without(rows, 'column', 2))).toEqual([
    ['Over both', ''],
    ['Anchor', 'chain'],
    ['', 'new'],
  ]);
  expect(joinedRows(rows, 2)).toBe(rows);
  expect(joinedColumns(rows, 2)).toBe(rows);
  expect(without([[{ text: 'alone' }]], 'row', 0)).toEqual([[{ text: 'alone' }]]);
});

const text: ReadText = {
  look: '', documentId: 'd', language: 'en', text: 'x', unread: 0, photo: [], lines: [[['x', 0, 0, 10, 10, 1]]],
  codes: [{ kind: 'QR Code', text: 'https://saltmarsh.example.org/slip/2?berth=12', box: [0, 0, 10, 10] }],
}; // prettier-ignore
const box = { x: 1, y: 1, width: 9, height: 3 };
const cell = (words: string, right = 1) => ({ text: words, words: [], box, place: box, right, across: 1, down: 1 });
const taken = (part: Partial<Taken> = {}): Taken => ({ tables: [], contact: [], card: false, ...part });

test('a code is shown whole before anything can be opened, and is opened by hand only', async () => {
  const open = jest.spyOn(window, 'open').mockReturnValue(null);
  await show(<TakeOut page={aPage('page-a')} text={text} taken={taken()} />);
  expect(screen.getByText('QR Code: leads to')).toBeTruthy();
  expect(screen.getByText('https://saltmarsh.example.org/slip/2?berth=12')).toBeTruthy();
  expect(open).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole('button', { name: 'Open it in a new tab' }));
  expect(open).toHaveBeenCalledWith('https://saltmarsh.example.org/slip/2?berth=12', '_blank', 'noopener,noreferrer');
});

test('a table is put right and its total is checked', async () => {
  const table = {
    box,
    ruled: true,
    rows: [
      [cell('Part'), cell('Price')],
      [cell('Tar'), cell('3.50')],
      [cell('Rope'), cell('41.25', 0.4)],
      [cell('Total'), cell('44.75')],
    ],
  };
  const listed = await show(<TakeOut page={aPage('page-a')} text={{ ...text, codes: [] }} taken={taken({ tables: [table] })} />);
  expect(screen.getByText('Table: 4 rows, 2 columns')).toBeTruthy();
  listed.unmount();
  await show(<TableSheet page={aPage('page-a')} text={text} table={table} onClose={() => {}} />);
  expect(screen.getByText('Column 2 adds up to its total, 44.75.')).toBeTruthy();
  expect(screen.getByText('Underlined cells were read unsurely.')).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Row 3, column 2'), { target: { value: '41.20' } });
  expect(screen.getByText('Column 2 adds up to 44.7; its total says 44.75.')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Row 2' }));
  fireEvent.click(screen.getByRole('button', { name: 'Leave this row out' }));
  expect(screen.getByText('Table: 3 rows, 2 columns')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Undo' }));
  expect(screen.getByLabelText('Row 2, column 1')).toHaveProperty('value', 'Tar');
});

test('a page with nothing of that kind says nothing', async () => {
  const { container } = await show(<TakeOut page={aPage('page-a')} text={{ ...text, codes: [] }} taken={taken()} />);
  expect(container.textContent).toBe('');
});
