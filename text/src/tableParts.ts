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

export interface Place {
  across: number;
  down: number;
  place: Rect;
}

export const middle = ({ x, y, width, height }: Rect): readonly [number, number] => [x + width / 2, y + height / 2];
export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

export function parted<T>(list: readonly T[], is: (item: T) => boolean): [T[], T[]] {
  const [yes, no]: [T[], T[]] = [[], []];
  for (const item of list) (is(item) ? yes : no).push(item);
  return [yes, no];
}

export const span = ({ along, from, to }: Rule) => (along === 'x' ? [from[0], to[0]] : [from[1], to[1]]) as [number, number];
export const level = ({ along, from, to }: Rule, at?: number) => {
  const [k, o] = along === 'x' ? [0, 1] : [1, 0];
  const length = to[k]! - from[k]!;
  return at === undefined || !length ? (from[o]! + to[o]!) / 2 : from[o]! + ((to[o]! - from[o]!) * (at - from[k]!)) / length;
};

export function cellOf(lines: readonly (readonly Word[])[], { across, down, place }: Place): TableCell {
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
export function rowsOf(words: readonly Word[]): Word[][] {
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
