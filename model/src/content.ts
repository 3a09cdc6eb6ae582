/**
 * What stands on pages, as it is handed from reading to the writers of files: blocks in reading order. It is never stored; it follows from the words.
 */
export type Block =
  | { kind: 'heading'; level: 1 | 2 | 3; text: string }
  /** A line break within is kept as `\n`, a wide gap as `\t`. */
  | { kind: 'paragraph'; text: string }
  | { kind: 'list'; ordered: boolean; items: readonly string[] }
  | { kind: 'table'; rows: TableRows }
  | { kind: 'picture'; picture: Picture };

/** A picture that is printed on a page, cut out of it as a JPEG; its size in dots and on paper. */
export interface Picture {
  jpeg: Uint8Array;
  width: number;
  height: number;
  widthMm: number;
  heightMm: number;
}

export interface Cell {
  text: string;
  /** Columns and rows that it takes; 1 if not said. */
  across?: number;
  down?: number;
}

/** As many places in each row; null: covered by a cell that begins to the left of it or above. */
export type TableRows = readonly (readonly (Cell | null)[])[];

/** A document's text, page by page. */
export interface Content {
  title: string;
  /** BCP 47. */
  language?: string;
  pages: readonly (readonly Block[])[];
}

/** Every place of a table as plain text; what is covered is empty. */
export const plainRows = (rows: TableRows): string[][] => rows.map((row) => row.map((cell) => cell?.text ?? ''));

const number = /^[-+−–]?\s?(?:[€$£]\s?)?\d{1,3}(?:[ .,'’\u00a0\u202f]?\d{3})*(?:[.,]\d+)?\s?(?:[€$£%]|EUR|USD|GBP)?-?$/;

/**
 * The number that a cell shows, by how its decimals are set; null where it is none. Grouping is by blank, apostrophe, or the sign that is not the decimal one (common practice).
 *
 * @param decimal the sign before decimals; see `decimalOf`.
 */
export function numberIn(text: string, decimal: '.' | ','): number | null {
  const clean = text.trim();
  if (!number.test(clean)) return null;
  // Digits that name something rather than count: a leading nought.
  if (/^0\d/.test(clean)) return null;
  const negative = /^[-−–]/.test(clean) || clean.endsWith('-');
  const digits = clean.replace(/[^\d.,]/g, '');
  const parts = digits.split(decimal);
  if (parts.length > 2) return null;
  const grouping = decimal === '.' ? ',' : '.';
  if (parts[1]?.includes(grouping)) return null;
  const groups = parts[0]!.split(grouping);
  if (groups.slice(1).some((group) => group.length !== 3)) return null;
  const value = Number(`${groups.join('')}.${parts[1] ?? '0'}`);
  if (!Number.isFinite(value)) return null;
  const signed = negative ? -value : value;
  return /%\s*$/.test(clean) ? null : signed;
}

/** The sign before decimals in a table: told by cells that leave no choice, else by the language. */
export function decimalOf(cells: readonly string[], language?: string): '.' | ',' {
  let [points, commas] = [0, 0];
  for (const cell of cells) {
    const text = cell.trim();
    if (!number.test(text)) continue;
    const last = /([.,])(\d+)\D*$/.exec(text);
    if (!last) continue;
    // One sign before other than three digits, or after the other sign: decimals.
    const both = text.includes('.') && text.includes(',');
    if (last[2]!.length === 3 && !both) continue;
    if (last[1] === '.') points++;
    else commas++;
  }
  if (points !== commas) return points > commas ? '.' : ',';
  return language && !language.startsWith('en') ? ',' : '.';
}

/** The day that a cell names and nothing else, at midnight UTC; null where it is none, or may be two (03/04/2026). */
export function dateIn(text: string): Date | null {
  const clean = text.trim();
  const at = (y: number, m: number, d: number) => {
    const date = new Date(Date.UTC(y, m - 1, d));
    return date.getUTCMonth() === m - 1 && date.getUTCDate() === d ? date : null;
  };
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(clean);
  if (iso) return at(+iso[1]!, +iso[2]!, +iso[3]!);
  const points = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})$/.exec(clean);
  if (points) return at(+points[3]!, +points[2]!, +points[1]!);
  const slashes = /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/.exec(clean);
  if (!slashes) return null;
  const [a, b, y] = [+slashes[1]!, +slashes[2]!, +slashes[3]!];
  if (a > 12 || a === b) return at(y, b, a);
  return b > 12 ? at(y, a, b) : null;
}

const totals =
  /^(?:grand\s)?(?:sub)?(?:total|totals|totale|totaal|sum|summe|gesamt|gesamtbetrag|endbetrag|somme|suma|importe total|montant total)\b/i;

/** Whether a row says what those above it come to. */
export const isTotal = (row: readonly string[]): boolean => row.some((cell) => totals.test(cell.trim()));

/**
 * Columns of figures above a line that says their total: what it says, and what they come to. A line before it that is a total too (a subtotal) is not counted twice.
 */
export function sumsOf(rows: TableRows, language?: string): { column: number; says: number; sum: number }[] {
  const texts = plainRows(rows);
  const decimal = decimalOf(texts.flat(), language);
  const at = texts.findIndex(isTotal);
  if (at < 2) return [];
  return texts[at]!.flatMap((cell, column) => {
    const says = numberIn(cell, decimal);
    if (says === null) return [];
    const above = texts.slice(0, at).flatMap((row) => numberIn(row[column]!, decimal) ?? []);
    if (above.length < 2) return [];
    return [{ column, says, sum: Math.round(above.reduce((sum, v) => sum + v, 0) * 1000) / 1000 }];
  });
}
