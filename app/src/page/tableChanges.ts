import type { Cell, TableRows } from '@libretto/model/content';

/** Cells that go over several places become single ones, the text in the first: rows and columns can then be changed freely. */
const single = (rows: TableRows): Cell[][] => rows.map((row) => row.map((cell) => ({ text: cell?.text ?? '' })));
const both = (a: string, b: string) => [a, b].filter(Boolean).join(' ');

/** A table with a row and the next one as one. */
export function joinedRows(rows: TableRows, at: number): TableRows {
  const cells = single(rows);
  const [first, second] = [cells[at], cells[at + 1]];
  if (!first || !second) return rows;
  return [...cells.slice(0, at), first.map((cell, c) => ({ text: both(cell.text, second[c]!.text) })), ...cells.slice(at + 2)];
}

/** A table with a column and the next one as one. */
export function joinedColumns(rows: TableRows, at: number): TableRows {
  if (at + 1 >= (rows[0]?.length ?? 0)) return rows;
  return single(rows).map((row) => [...row.slice(0, at), { text: both(row[at]!.text, row[at + 1]!.text) }, ...row.slice(at + 2)]);
}

/** A table without a row or a column; the last one stays. */
export function without(rows: TableRows, kind: 'row' | 'column', at: number): TableRows {
  const count = kind === 'row' ? rows.length : (rows[0]?.length ?? 0);
  if (count < 2) return rows;
  return kind === 'row' ? single(rows).filter((_, r) => r !== at) : single(rows).map((row) => row.filter((_, c) => c !== at));
}
