import type { Rule } from './layout';
import { cellOf, level, middle, rowsOf, span, type Place, type Table, type TableCell } from './tableParts';
import { around, type Rect, type Word } from './words';

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
export function gridsIn(rules: readonly Rule[]): Grid[] {
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

export function gridTable({ columns, rows }: Grid, words: readonly Word[]): Table | null {
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
      return { lines: rowsOf(held.get(id) ?? []), across, down, place };
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
      (p) => p && cellOf(rowsOf(p.lines.flat().filter((w) => row.includes(w))), { ...p, place: { ...p.place, y, height } }),
    );
  });
}
