import { gridsIn, gridTable } from './gridTables';
import { looseTable } from './looseTables';
import { middle, parted, type PagePlaces, type Table } from './tableParts';
import type { Word } from './words';

export type { PagePlaces, Table, TableCell } from './tableParts';

/**
 * The tables of a page, from above. Rules that cross make a grid; where there are none, blank gutters that lines have in common do.
 * Own method; what it was measured on: docs/text.md.
 */
export function tablesIn(page: PagePlaces): { tables: Table[]; rest: Word[] } {
  const grids = gridsIn(page.rules);
  let words = page.lines.flatMap((line) => [...line.words]);
  const tables: Table[] = [];
  for (const grid of grids) {
    const [inside, outside] = parted(words, ({ box }) => grid.holds(middle(box)));
    const table = gridTable(grid, inside);
    if (!table) continue;
    tables.push(table);
    words = outside;
  }
  const across = page.rules.filter((rule) => rule.along === 'x');
  for (;;) {
    const table = looseTable(words, across);
    if (!table) break;
    tables.push(table.table);
    words = words.filter((word) => !table.used.has(word));
  }
  return { tables: tables.sort((a, b) => a.box.y - b.box.y), rest: words };
}
