import type { Rule } from './layout';
import { cellOf, level, median, rowsOf, span, type Table, type TableCell } from './tableParts';
import { around, type Word } from './words';

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

export function looseTable(words: readonly Word[], rules: readonly Rule[]): { table: Table; used: Set<Word> } | null {
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
