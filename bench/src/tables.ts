import { onPaper, tablesIn } from '@libretto/text';
import { score } from './adjacency';
import { readSheets } from './printed';
import { isRuled, tableKinds, tablePage, type TableKind } from './tablePages';

/**
 * Tables on printed pages, photographed by our renderer and read by our own reader: F-measure of adjacency relations (Göbel et al., *ICDAR 2013 Table
 * Competition*: neighbouring cells right and below, blank ones passed over), the cells' text compared by letters and digits; and cells equal to the letter.
 *
 * @param each pages of each kind; @param keep folder for what was read, so that a second run only looks for tables.
 */
export async function benchTables(each: number, keep?: string): Promise<void> {
  const pages = tableKinds.flatMap((kind) => Array.from({ length: each }, (_, i) => tablePage(kind, i + 1)));
  const sums = new Map<TableKind | 'ruled, all' | 'unruled, all', { hit: number; said: number; true: number; right: number; cells: number; shapes: number; tables: number }>(); // prettier-ignore
  await readSheets(pages, 'tables', keep, (page, its) => {
    const found = its ? tablesIn(onPaper(its, its.widthMm / its.width, its.heightMm / its.height)).tables : [];
    const got = score(page.tables, found.map((t) => t.rows)); // prettier-ignore
    if (got.hit < 0.8 * got.true || got.hit < 0.8 * got.said) console.log(`${page.id}: ${got.hit} of ${got.true}, ${got.said} said; ${found.map((t) => `${t.rows.length}×${t.rows[0]!.length}`).join(' ')} for ${page.tables.map((t) => `${t.length}×${t[0]!.length}`).join(' ')}`); // prettier-ignore
    for (const row of [page.kind, isRuled(page.kind) ? 'ruled, all' : 'unruled, all'] as const) {
      const sum = sums.get(row) ?? { hit: 0, said: 0, true: 0, right: 0, cells: 0, shapes: 0, tables: 0 };
      for (const key of Object.keys(sum) as (keyof typeof sum)[]) sum[key] += got[key];
      sums.set(row, sum);
    }
  });
  console.log('tables                pages  F      precision recall rows×columns  cells equal to the letter');
  const figures: Record<string, number> = {};
  for (const [row, s] of sums) {
    const [p, r] = [s.hit / Math.max(1, s.said), s.hit / Math.max(1, s.true)];
    const f = (2 * p * r) / Math.max(1e-9, p + r);
    figures[row] = Math.round(f * 1000) / 1000;
    console.log(`${row.padEnd(22)}${String(pages.filter((q) => q.kind === row || (row.endsWith('all') && isRuled(q.kind) === (row === 'ruled, all'))).length).padEnd(7)}${f.toFixed(3)}  ${p.toFixed(3)}     ${r.toFixed(3)}  ${`${s.shapes} of ${s.tables}`.padEnd(13)} ${(s.right / s.cells).toFixed(3)}`); // prettier-ignore
  }
  console.log(JSON.stringify(figures));
}
