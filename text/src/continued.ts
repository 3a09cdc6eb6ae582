import { decimalOf, isTotal, numberIn, plainRows, type Block, type TableRows } from '@libretto/model/content';

/** Before and after a table that goes on stand a page's head and foot at most: so many short lines. */
const mostBeside = 2;
const shortText = 80;
/** A column is one of numbers when so many of its cells are. */
const mostly = 0.6;
const subtotal = /^\s*sub/i;

const isShort = (block: Block) => 'text' in block && block.text.length <= shortText;
const same = (a: readonly string[], b: readonly string[]) => a.every((text, i) => text.toLowerCase() === b[i]!.toLowerCase());

/** Which columns hold numbers, whatever their heading. */
function numeric(rows: readonly (readonly string[])[]): boolean[] {
  const decimal = decimalOf(rows.flat());
  return rows[0]!.map((_, c) => {
    const cells = rows.map((row) => row[c]!).filter(Boolean);
    return cells.length > 0 && cells.filter((text) => numberIn(text, decimal) !== null).length >= mostly * cells.length;
  });
}

/** The rows that one table goes on with in the other, without a heading that is said again; null where they are two. */
function goesOn(table: TableRows, next: TableRows): TableRows | null {
  const [a, b] = [plainRows(table), plainRows(next)];
  if (a[0]!.length < 2 || a[0]!.length !== b[0]!.length) return null;
  // What it comes to ends a table; what it has come to so far does not.
  if (isTotal(a.at(-1)!) && !a.at(-1)!.some((text) => subtotal.test(text))) return null;
  if (same(a[0]!, b[0]!)) return next.slice(1);
  // With a heading of its own it is another table.
  const kinds = numeric(a.slice(1));
  const first = numeric(b.slice(0, 1));
  if (a.length < 3 || !kinds.includes(true) || !kinds.every((is, c) => !is || first[c] || !b[0]![c])) return null;
  return numeric(b).every((is, c) => is === kinds[c]) ? next : null;
}

/**
 * Tables that a page's end cuts are joined: the last on a page and the first on the next, with as many columns that hold the same kind of thing, where no more than a page's head and foot stands
 * between, or under the same heading said again.
 *
 * @param pages blocks in reading order.
 */
export function withTablesJoined(pages: readonly (readonly Block[])[]): Block[][] {
  const out = pages.map((blocks) => [...blocks]);
  /** The table that may go on, with its page and place. */
  let open: { page: number; at: number } | null = null;
  out.forEach((blocks, page) => {
    const first = blocks.findIndex((block) => block.kind === 'table');
    const before = open && out[open.page]![open.at];
    let moved = false;
    if (open && before?.kind === 'table' && first >= 0 && first <= mostBeside && blocks.slice(0, first).every(isShort)) {
      const next = blocks[first]!;
      const more = next.kind === 'table' ? goesOn(before.rows, next.rows) : null;
      if (more) {
        out[open.page]![open.at] = { kind: 'table', rows: [...before.rows, ...more] };
        blocks.splice(first, 1);
        moved = true;
      }
    }
    const last = blocks.findLastIndex((block) => block.kind === 'table');
    const after = (from: number) => blocks.length - from <= mostBeside && blocks.slice(from).every(isShort);
    if (last >= 0) open = after(last + 1) ? { page, at: last } : null;
    else if (!moved || !after(first)) open = null;
  });
  return out;
}
