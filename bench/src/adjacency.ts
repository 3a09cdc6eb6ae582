type Cell = { text: string; across?: number; down?: number } | null;
type Rows = readonly (readonly Cell[])[];

/** Cells are compared by their letters and digits: what the reader makes of points and dashes is another matter. */
const bare = (text: string) => text.replace(/[^\p{L}\p{N}]/gu, '').toLowerCase();

/**
 * Pairs of neighbouring cells, right and below, blank ones passed over (Göbel, Hassan, Oro, Orsi: *A Methodology for Evaluating Algorithms for Table
 * Understanding in PDF Documents*, 2012, as used by the ICDAR 2013 table competition; from memory of the paper).
 */
export function relations(rows: Rows): string[] {
  const owner = rows.map((row) => row.map(() => null as { text: string } | null));
  rows.forEach((row, r) =>
    row.forEach((cell, c) => {
      if (!cell) return;
      const own = { text: bare(cell.text) };
      for (let y = r; y < Math.min(rows.length, r + (cell.down ?? 1)); y++)
        for (let x = c; x < Math.min(row.length, c + (cell.across ?? 1)); x++) owner[y]![x] = own;
    }),
  );
  const out = new Set<string>();
  const count = new Map<object, number>();
  const name = (cell: object) => count.get(cell) ?? (count.set(cell, count.size), count.size - 1);
  const add = (a: { text: string }, b: { text: string }, way: string) =>
    out.add(`${way} ${a.text} ${b.text}#${name(a)},${name(b)}`);
  owner.forEach((row, r) =>
    row.forEach((cell, c) => {
      if (!cell?.text) return;
      for (let x = c + 1; x < row.length; x++) {
        const other = row[x];
        if (other === cell) break;
        if (other?.text) {
          add(cell, other, '→');
          break;
        }
      }
      for (let y = r + 1; y < owner.length; y++) {
        const other = owner[y]![c];
        if (other === cell) break;
        if (other?.text) {
          add(cell, other, '↓');
          break;
        }
      }
    }),
  );
  // The same pair may stand in a table twice: a multiset.
  return [...out].map((pair) => pair.slice(0, pair.lastIndexOf('#')));
}

/** How many relations and cells of a page's tables were found. */
export function score(truth: readonly Rows[], found: readonly Rows[]) {
  const want = truth.flatMap(relations);
  const have = found.flatMap(relations);
  const hit = common(want, have);
  const cells = (tables: readonly Rows[]) => tables.flatMap((t) => t.flat().flatMap((c) => (c?.text ? [c.text.replace(/\s+/g, ' ').replace(/−/g, '-')] : []))); // prettier-ignore
  const size = (rows: Rows) => `${rows.length}×${rows[0]?.length ?? 0}`;
  return {
    hit,
    said: have.length,
    true: want.length,
    right: common(cells(truth), cells(found)),
    cells: cells(truth).length,
    shapes: common(truth.map(size), found.map(size)),
    tables: truth.length,
  };
}

function common(a: readonly string[], b: readonly string[]): number {
  const left = new Map<string, number>();
  for (const item of b) left.set(item, (left.get(item) ?? 0) + 1);
  let hits = 0;
  for (const item of a) {
    const n = left.get(item) ?? 0;
    if (n) hits++;
    left.set(item, n - 1);
  }
  return hits;
}
