import type { Rule } from './layout';
import { around, type Rect, type Word } from './words';

/** A page as it was read, everything in mm from its top left. */
export interface PagePlaces {
  lines: readonly { words: readonly Word[] }[];
  rules: readonly Rule[];
}

export interface TableCell {
  text: string;
  words: readonly Word[];
  /** Where its words stand, and the whole of its place. */
  box: Rect;
  place: Rect;
  /** Probability that every word of it is right. */
  right: number;
  /** Columns and rows that it takes. */
  across: number;
  down: number;
}

/** A table that stands on a page; null is a place that a cell covers which begins to the left of it or above. */
export interface Table {
  box: Rect;
  rows: (TableCell | null)[][];
  /** Whether rules part its cells. */
  ruled: boolean;
}

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

const middle = ({ x, y, width, height }: Rect): readonly [number, number] => [x + width / 2, y + height / 2];
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

function parted<T>(list: readonly T[], is: (item: T) => boolean): [T[], T[]] {
  const [yes, no]: [T[], T[]] = [[], []];
  for (const item of list) (is(item) ? yes : no).push(item);
  return [yes, no];
}

// --- Grids of rules -------------------------------------------------------------------------------------------------

/** Rules whose ends are nearer than this meet, mm. */
const meets = 1.6;
/** Rules nearer than this to each other are one edge. */
const sameEdge = 2;
/** Share of a cell's side that a rule covers, where it is one. */
const covers = 0.5;

/** An edge of the grid: a line that may slope a little, and the rules that lie on it. */
interface Edge {
  at: (along: number) => number;
  level: number;
  rules: Rule[];
}

interface Grid {
  columns: Edge[];
  rows: Edge[];
  holds: (at: readonly [number, number]) => boolean;
}

const span = ({ along, from, to }: Rule) => (along === 'x' ? [from[0], to[0]] : [from[1], to[1]]) as [number, number];
const level = ({ along, from, to }: Rule, at?: number) => {
  const [k, o] = along === 'x' ? [0, 1] : [1, 0];
  const length = to[k]! - from[k]!;
  return at === undefined || !length ? (from[o]! + to[o]!) / 2 : from[o]! + ((to[o]! - from[o]!) * (at - from[k]!)) / length;
};

function touch(a: Rule, b: Rule): boolean {
  if (a.along === b.along) return false;
  const [[a0, a1], [b0, b1]] = [span(a), span(b)];
  const [la, lb] = [level(a, level(b)), level(b, level(a))];
  return lb > a0 - meets && lb < a1 + meets && la > b0 - meets && la < b1 + meets;
}

function edgesOf(rules: readonly Rule[]): Edge[] {
  const edges: Rule[][] = [];
  for (const rule of [...rules].sort((a, b) => level(a) - level(b))) {
    const last = edges.at(-1);
    const near = last?.some((r) => {
      const [[a0, a1], [b0, b1]] = [span(r), span(rule)];
      const at = (Math.max(a0, b0) + Math.min(a1, b1)) / 2;
      return Math.abs(level(r, at) - level(rule, at)) < sameEdge || Math.abs(level(r) - level(rule)) < sameEdge;
    });
    if (last && near) last.push(rule);
    else edges.push([rule]);
  }
  return edges.map((own) => {
    // Of its rules the longest says how it runs.
    const long = own.reduce((a, b) => (span(b)[1] - span(b)[0] > span(a)[1] - span(a)[0] ? b : a));
    return { rules: own, at: (along: number) => level(long, along), level: level(long) };
  });
}

/** Rules that hang together and enclose at least two cells. */
function gridsIn(rules: readonly Rule[]): Grid[] {
  const left = new Set(rules);
  const grids: Grid[] = [];
  for (const first of rules) {
    if (!left.delete(first)) continue;
    const own = [first];
    for (let i = 0; i < own.length; i++)
      for (const other of left)
        if (touch(own[i]!, other)) {
          own.push(other);
          left.delete(other);
        }
    const columns = edgesOf(own.filter((r) => r.along === 'y'));
    const rows = edgesOf(own.filter((r) => r.along === 'x'));
    // Lines above and below each other with one down between them are no grid; an open side is.
    const [[x0, x1], [y0, y1]] = [extent(own, 'x'), extent(own, 'y')];
    closed(columns, x0, x1);
    closed(rows, y0, y1);
    if (columns.length < 3 || rows.length < 2 || (columns.length - 1) * (rows.length - 1) < 2) continue;
    const [l, r, t, b] = [columns[0]!, columns.at(-1)!, rows[0]!, rows.at(-1)!];
    grids.push({ columns, rows, holds: ([x, y]) => x > l.at(y) && x < r.at(y) && y > t.at(x) && y < b.at(x) });
  }
  return grids;
}

function extent(rules: readonly Rule[], axis: 'x' | 'y'): [number, number] {
  const k = axis === 'x' ? 0 : 1;
  const ends = rules.flatMap((r) => [r.from[k], r.to[k]]);
  return [Math.min(...ends), Math.max(...ends)];
}

/** Tables are often open to their sides: what the others reach to is an edge. */
function closed(edges: Edge[], from: number, to: number): void {
  const border = (at: number): Edge => ({ at: () => at, level: at, rules: [] });
  if (!edges.length) return;
  if (edges[0]!.level - from > 3 * sameEdge) edges.unshift(border(from));
  if (to - edges.at(-1)!.level > 3 * sameEdge) edges.push(border(to));
}

const between = (edges: readonly Edge[], at: number, along: number) =>
  Math.max(
    0,
    Math.min(
      edges.length - 2,
      edges.findLastIndex((edge) => edge.at(along) <= at),
    ),
  );

function isParted(edge: Edge, from: number, to: number): boolean {
  if (!edge.rules.length) return true;
  let sum = 0;
  for (const rule of edge.rules) {
    const [a, b] = span(rule);
    sum += Math.max(0, Math.min(b, to) - Math.max(a, from));
  }
  return sum >= covers * (to - from);
}

function gridTable({ columns, rows }: Grid, words: readonly Word[]): Table | null {
  const [nx, ny] = [columns.length - 1, rows.length - 1];
  // Cells whose side no rule parts are one.
  const cell = Array.from({ length: ny }, (_, r) => Array.from({ length: nx }, (_unused, c) => r * nx + c));
  const join = (a: number, b: number) => {
    for (const row of cell) row.forEach((id, c) => id === b && (row[c] = a));
  };
  for (let r = 0; r < ny; r++)
    for (let c = 0; c < nx; c++) {
      const [x0, x1] = [columns[c]!.level, columns[c + 1]!.level];
      const [y0, y1] = [rows[r]!.level, rows[r + 1]!.level];
      if (c + 1 < nx && !isParted(columns[c + 1]!, y0, y1)) join(cell[r]![c]!, cell[r]![c + 1]!);
      if (r + 1 < ny && !isParted(rows[r + 1]!, x0, x1)) join(cell[r]![c]!, cell[r + 1]![c]!);
    }
  const held = new Map<number, Word[]>();
  for (const word of words) {
    const [x, y] = middle(word.box);
    const id = cell[between(rows, y, x)]![between(columns, x, y)]!;
    held.set(id, [...(held.get(id) ?? []), word]);
  }
  const seen = new Set<number>();
  const out: (TableCell | null)[][] = [];
  for (let r = 0; r < ny; r++) {
    const places = cell[r]!.map((id, c): (Place & { lines: Word[][] }) | null => {
      if (seen.has(id)) return null;
      seen.add(id);
      const [across, down] = [cell[r]!.filter((other) => other === id).length, cell.filter((row) => row[c] === id).length];
      const [x, y] = [columns[c]!.level, rows[r]!.level];
      const place: Rect = { x, y, width: columns[c + across]!.level - x, height: rows[r + down]!.level - y };
      return { lines: linesOf(held.get(id) ?? []), across, down, place };
    });
    out.push(...inLines(places));
  }
  const filled = out.flat().filter((c) => c?.text).length;
  if (filled < 3) return null;
  const box: Rect = {
    x: columns[0]!.level,
    y: rows[0]!.level,
    width: columns.at(-1)!.level - columns[0]!.level,
    height: rows.at(-1)!.level - rows[0]!.level,
  };
  return { box, rows: out, ruled: true };
}

interface Place {
  across: number;
  down: number;
  place: Rect;
}

/** A row of the grid, or several where its rules part columns only: as many lines in most of its cells, level with each other. */
function inLines(places: readonly ((Place & { lines: Word[][] }) | null)[]): (TableCell | null)[][] {
  const whole = [places.map((p) => p && cellOf(p.lines, p))];
  const own = places.filter((p) => p !== null);
  const most = own.filter((p) => p.lines.length > 2);
  if (own.some((p) => p.down > 1) || own.length < 2 || most.length < Math.max(2, 0.6 * own.length)) return whole;
  const tops = rowsOf(own.flatMap((p) => p.lines.flat()));
  const first = places[0]?.lines.length ?? 0;
  // Wrapped text has lines of its own in each cell; records have one in (nearly) every cell.
  const full = tops.filter((row) => own.filter((p) => p.lines.some((l) => l.some((w) => row.includes(w)))).length >= 0.7 * own.length); // prettier-ignore
  if (full.length < 0.8 * tops.length || first < 0.8 * tops.length) return whole;
  return tops.map((row) => {
    const { y, height } = around(row.map((w) => w.box));
    return places.map(
      (p) => p && cellOf(linesOf(p.lines.flat().filter((w) => row.includes(w))), { ...p, place: { ...p.place, y, height } }),
    );
  });
}

function cellOf(lines: readonly (readonly Word[])[], { across, down, place }: Place): TableCell {
  const words = lines.flat();
  return {
    text: lines.map((line) => line.map((w) => w.text).join(' ')).join(' '),
    words,
    box: words.length ? around(words.map((w) => w.box)) : place,
    place,
    right: words.reduce((least, w) => Math.min(least, w.confidence), 1),
    across,
    down,
  };
}

/** Words by their height on the page, from above; each row from the left. */
function rowsOf(words: readonly Word[]): Word[][] {
  const rows: { words: Word[]; top: number; bottom: number }[] = [];
  for (const word of [...words].sort((a, b) => middle(a.box)[1] - middle(b.box)[1])) {
    const { y, height } = word.box;
    const row = rows.findLast(
      (r) => Math.min(r.bottom, y + height) - Math.max(r.top, y) > 0.5 * Math.min(height, r.bottom - r.top),
    );
    if (!row) {
      rows.push({ words: [word], top: y, bottom: y + height });
      continue;
    }
    row.words.push(word);
    row.top = row.words.reduce((sum, w) => sum + w.box.y, 0) / row.words.length;
    row.bottom = row.words.reduce((sum, w) => sum + w.box.y + w.box.height, 0) / row.words.length;
  }
  return rows.sort((a, b) => a.top - b.top).map((r) => r.words.sort((a, b) => a.box.x - b.box.x));
}
const linesOf = rowsOf;

// --- Columns without rules ------------------------------------------------------------------------------------------

/** Pieces of a line further from each other than this, in heights of letters, stand in different cells. */
const cellGap = 1.1;
/** Lines further below each other than this, in heights, are not of one table. */
const farBelow = 3.2;
/** Positions across are counted so finely, mm. */
const binMm = 0.25;
/** Up to this share of lines may run across a gutter: headings over several columns. */
const crossing = 0.16;
const leastRows = 3;

interface Piece {
  words: Word[];
  from: number;
  to: number;
}
interface TextRow {
  pieces: Piece[];
  top: number;
  bottom: number;
}

function looseTable(words: readonly Word[], rules: readonly Rule[]): { table: Table; used: Set<Word> } | null {
  const tall = median(words.map((w) => w.box.height));
  if (!tall) return null;
  const rows = rowsOf(words).map((row): TextRow => {
    const pieces: Piece[] = [];
    for (const word of row) {
      const last = pieces.at(-1);
      if (last && word.box.x - last.to <= cellGap * tall) {
        last.words.push(word);
        last.to = Math.max(last.to, word.box.x + word.box.width);
      } else pieces.push({ words: [word], from: word.box.x, to: word.box.x + word.box.width });
    }
    const box = around(row.map((w) => w.box));
    return { pieces, top: box.y, bottom: box.y + box.height };
  });
  const widest = Math.ceil(Math.max(...words.map((w) => w.box.x + w.box.width)) / binMm) + 1;
  const none: { from: number; to: number; columns: Column[]; score: number } = { from: 0, to: 0, columns: [], score: 0 };
  let best = none;
  for (let from = 0; from < rows.length; from++) {
    if (rows[from]!.pieces.length < 2) continue;
    const counts = new Uint16Array(widest);
    for (let to = from; to < rows.length; to++) {
      if (to > from && rows[to]!.top - rows[to - 1]!.bottom > farBelow * tall) break;
      if (isProse(rows[to]!)) break;
      for (const p of rows[to]!.pieces)
        for (let b = Math.floor(p.from / binMm); b <= Math.min(widest - 1, Math.floor(p.to / binMm)); b++) counts[b]!++;
      const n = to - from + 1;
      if (n < leastRows) continue;
      const columns = columnsIn(counts, n, tall, rows.slice(from, to + 1));
      if (columns.length < 2) continue;
      const score = worth(rows.slice(from, to + 1), columns);
      if (score > (best?.score ?? 0) || (score > 0 && score === best?.score && from === best.from))
        best = { from, to, columns, score };
    }
  }
  if (best === none) return null;
  const { columns } = best;
  // A heading over several columns.
  const above = rows[best.from - 1];
  if (above?.pieces.every((p) => p.from > columns[0]!.to && p.to < columns.at(-1)!.to + tall) && rows[best.from]!.top - above.bottom < 2.2 * tall) best.from--; // prettier-ignore
  const chosen = rows.slice(best.from, best.to + 1);
  const placed = chosen.map((row) => ({ ...row, cells: placedIn(row, columns) }));
  const joined = withWrapped(placed, rules);
  const used = new Set(chosen.flatMap((row) => row.pieces.flatMap((p) => p.words)));
  const borders = [columns[0]!.from, ...columns.slice(1).map((c, i) => (columns[i]!.to + c.from) / 2), columns.at(-1)!.to];
  const table = joined.map(({ cells, top, bottom }) => {
    const line: (TableCell | null)[] = [];
    for (let c = 0; c < columns.length;) {
      const its = cells.find((cell) => cell.column === c);
      const across = its?.across ?? 1;
      line.push(cellOf(its?.lines ?? [], { across, down: 1, place: { x: borders[c]!, y: top, width: borders[c + across]! - borders[c]!, height: bottom - top } })); // prettier-ignore
      for (let k = 1; k < across; k++) line.push(null);
      c += across;
    }
    return line;
  });
  return { table: { box: around([...used].map((w) => w.box)), rows: table, ruled: false }, used };
}

/** A line of running text between tables. */
const isProse = ({ pieces }: TextRow) => pieces.length === 1 && pieces[0]!.words.length >= proseWords;
const proseWords = 8;

interface Column {
  from: number;
  to: number;
}

/** What lies between blank gutters that (nearly) all lines have in common. */
function columnsIn(counts: Uint16Array, n: number, tall: number, rows: readonly TextRow[]): Column[] {
  const may = n >= 4 ? Math.max(1, Math.floor(crossing * n)) : 0;
  const columns: Column[] = [];
  let [from, blankFrom] = [-1, -1];
  for (let b = 0; b <= counts.length; b++) {
    const inked = b < counts.length && counts[b]! > may;
    if (inked && from < 0) from = b;
    else if (inked && blankFrom >= 0) {
      if ((b - blankFrom) * binMm >= 0.9 * tall) {
        columns.push({ from: from * binMm, to: blankFrom * binMm });
        from = b;
      }
    }
    if (inked) blankFrom = -1;
    else if (blankFrom < 0) blankFrom = b;
  }
  if (from >= 0) columns.push({ from: from * binMm, to: counts.length * binMm });
  if (columns.length) columns[columns.length - 1]!.to = (counts.findLastIndex((v) => v > may) + 1) * binMm;
  // The inside of a heading is no column.
  return columns.filter((column) => rows.filter((row) => row.pieces.some((p) => overlap(p, column) > 0)).length > Math.max(1, 0.15 * n)); // prettier-ignore
}

const overlap = (a: Column, b: Column) => Math.min(a.to, b.to) - Math.max(a.from, b.from);

interface Placed {
  column: number;
  across: number;
  lines: Word[][];
}

/** A line's pieces by columns. */
function placedIn(row: TextRow, columns: readonly Column[]): Placed[] {
  const out: Placed[] = [];
  const borders = columns.slice(1).map((c, i) => (columns[i]!.to + c.from) / 2);
  const columnAt = (x: number) => borders.filter((b) => b < x).length;
  for (const { words, from, to } of row.pieces) {
    // What only peeps over the border does not stand there.
    const peep = Math.min(1.5, 0.2 * (to - from));
    const [first, last] = [columnAt(from + peep), columnAt(to - peep)];
    const before = out.find((p) => p.column <= first && p.column + p.across > first);
    if (before) before.lines[0]!.push(...words);
    else out.push({ column: first, across: last - first + 1, lines: [[...words]] });
  }
  return out;
}

/** More of its width than this filled by cells of so many words: text in columns, not a table. */
const textFill = 0.6;
const textWords = 4.5;

/** How much of a table these lines are: lines with several cells count for it, lines across its gutters against it. */
function worth(rows: readonly TextRow[], columns: readonly Column[]): number {
  let [score, regular, against] = [0, 0, 0];
  const texts: string[][] = columns.map(() => []);
  const fills: { words: number; share: number }[][] = columns.map(() => []);
  for (const row of rows) {
    const cells = placedIn(row, columns);
    const across = cells.some((c) => c.across > 1);
    if (cells.length >= 2 && !across) {
      regular++;
      score += columns.length - 1 - 0.3 * (columns.length - cells.length);
    } else if (across || cells[0]!.column === 0) {
      against++;
      score -= across && cells.length < 2 ? 2.2 : 0.6;
    }
    for (const cell of cells) {
      const text = cell.lines.flat().map((w) => w.text).join(' '); // prettier-ignore
      if (cell.across > 1) continue;
      texts[cell.column]!.push(text);
      const box = around(cell.lines.flat().map((w) => w.box));
      const { from, to } = columns[cell.column]!;
      fills[cell.column]!.push({ words: cell.lines.flat().length, share: box.width / Math.max(1, to - from) });
    }
  }
  if (regular < leastRows || against > 0.4 * (regular + against)) return 0;
  // A line at either end that is no part of it.
  const isOf = (row: TextRow) => placedIn(row, columns).length >= 2;
  if (!isOf(rows[0]!)) score -= 1;
  const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / Math.max(1, list.length);
  const running = fills.filter((f) => f.length >= leastRows && mean(f.map((x) => x.words)) >= textWords && mean(f.map((x) => x.share)) >= textFill); // prettier-ignore
  if (running.length >= 2) return 0;
  const figures = texts.filter((t) => t.length >= 2 && t.filter((s) => /\d/.test(s) && s.length < 20).length >= 0.6 * t.length).length; // prettier-ignore
  if (columns.length === 2 && !figures && regular < 5) return 0;
  return score;
}

/** Lines that go on what the line above began: the first cell is empty, or a rule parts records and not lines. */
function withWrapped(
  rows: readonly { top: number; bottom: number; cells: Placed[] }[],
  rules: readonly Rule[],
): { cells: Placed[]; top: number; bottom: number }[] {
  const parted_ = rows.map((row, i) => {
    const above = rows[i - 1];
    if (!above) return true;
    const [x0, x1] = [Math.min(...row.cells.flatMap((c) => c.lines.flat().map((w) => w.box.x))), Math.max(...row.cells.flatMap((c) => c.lines.flat().map((w) => w.box.x + w.box.width)))]; // prettier-ignore
    return rules.some((rule) => {
      const at = level(rule, (x0 + x1) / 2);
      const [a, b] = span(rule);
      return at > above.bottom - 1 && at < row.top + 1 && Math.min(b, x1) - Math.max(a, x0) > 0.5 * (x1 - x0);
    });
  });
  const byRules = parted_.slice(1).filter(Boolean).length >= 3;
  // Below the last rule, lines are what they are.
  const lastRule = parted_.lastIndexOf(true);
  const out: { cells: Placed[]; top: number; bottom: number }[] = [];
  rows.forEach((row, i) => {
    const above = out.at(-1);
    const first = row.cells[0];
    const fewer = row.cells.length <= Math.max(1, (above?.cells.length ?? 0) / 2);
    const text = row.cells.every((c) => c.lines.flat().some((w) => /\p{L}{2}/u.test(w.text)));
    const goesOn = byRules && i < lastRule && i > 0 ? !parted_[i] : first !== undefined && first.column > 0 && fewer && text && !parted_[i]; // prettier-ignore
    const fits = above && row.cells.every((c) => above.cells.some((a) => a.column === c.column && a.across === c.across) || !above.cells.some((a) => a.column < c.column + c.across && a.column + a.across > c.column)); // prettier-ignore
    if (!above || !goesOn || !fits) {
      out.push({ cells: row.cells.map((c) => ({ ...c, lines: [...c.lines] })), top: row.top, bottom: row.bottom });
      return;
    }
    for (const cell of row.cells) {
      const its = above.cells.find((a) => a.column === cell.column);
      if (its) its.lines.push(...cell.lines);
      else above.cells.push({ ...cell, lines: [...cell.lines] });
    }
    above.bottom = row.bottom;
  });
  return out;
}
