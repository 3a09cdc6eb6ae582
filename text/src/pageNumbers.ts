import type { Rect } from './words';

/** What a page says of its number. */
export interface PageNumber {
  number: number;
  /** How many there are, where it says so. */
  of: number | null;
}

/** Numbers stand in this part of the page, above or below. */
const margin = 0.14;
const most = 9999;

const counted = /\b(?:page|seite|blatt|pagina|página|p\.|s\.)\s*(\d{1,4})\s*(?:of|von|de|di|van|sur|\/)\s*(\d{1,4})\b|^\s*(\d{1,3})\s*(?:of|von|\/)\s*(\d{1,3})\s*$/i; // prettier-ignore
const named = /\b(?:page|seite|blatt|pagina|página)\s*(\d{1,4})\b/i;
const alone = /^[-–—·•\s]*(\d{1,4})[-–—·•\s]*$/;

/**
 * The printed number of a page: "2 of 4", "Seite 3", "– 3 –", or a number that stands by itself at its head or foot. Common practice of print; own rules.
 *
 * @param lines with boxes in any unit; @param height of the page in it.
 */
export function pageNumberOf(
  lines: readonly { words: readonly { text: string; box: Rect }[] }[],
  height: number,
): PageNumber | null {
  const found: (PageNumber & { rank: number })[] = [];
  for (const { words } of lines) {
    if (!words.length) continue;
    const middle = words[0]!.box.y + words[0]!.box.height / 2;
    const [atFoot, atHead] = [middle > (1 - margin) * height, middle < margin * height];
    if (!atFoot && !atHead) continue;
    // Blanks that the reader has lost or put in.
    const text = words.map((w) => w.text).join(' ').replace(/(\d)(of|von|de|sur)\b/gi, '$1 $2'); // prettier-ignore
    const c = counted.exec(text);
    const of = c ? Number(c[2] ?? c[4]) : null;
    const number = Number(c ? (c[1] ?? c[3]) : (named.exec(text)?.[1] ?? alone.exec(text)?.[1] ?? NaN));
    if (!(number >= 1 && number <= most) || (of !== null && number > of)) continue;
    found.push({ number, of, rank: (c ? 4 : named.test(text) ? 2 : 0) + (atFoot ? 1 : 0) });
  }
  const best = found.sort((a, b) => b.rank - a.rank)[0];
  return best ? { number: best.number, of: best.of } : null;
}

export interface OrderSaid {
  /** Numbers that no page has between the first and the last, or up to how many there are said to be. */
  missing: number[];
  /** Places of the pages in the order of their numbers; those without one stay behind the page before them. Null where they stand so already. */
  order: number[] | null;
}

/** What printed numbers say of the pages' order; nothing where they contradict themselves, or too few have one. */
export function orderSaid(numbers: readonly (PageNumber | null)[]): OrderSaid {
  const nothing: OrderSaid = { missing: [], order: null };
  const known = numbers.flatMap((n) => n ?? []);
  // Two that say the same: other documents in between, or misread.
  if (known.length < 2 || known.length < 0.6 * numbers.length || new Set(known.map((n) => n.number)).size < known.length) return nothing; // prettier-ignore
  const says = [...new Set(known.flatMap((n) => n.of ?? []))];
  if (says.length > 1) return nothing;
  const values = known.map((n) => n.number);
  const first = says.length ? 1 : Math.min(...values);
  const last = says[0] ?? Math.max(...values);
  const missing: number[] = [];
  for (let n = first; n <= last; n++) if (!values.includes(n)) missing.push(n);
  // Numbers far apart are not those of pages that belong together.
  if (missing.length > Math.max(2, known.length)) return nothing;
  const groups: { number: number; at: number[] }[] = [];
  const before: number[] = [];
  numbers.forEach((n, at) => {
    if (n) groups.push({ number: n.number, at: [at] });
    else (groups.at(-1)?.at ?? before).push(at);
  });
  const order = [...before, ...[...groups].sort((a, b) => a.number - b.number).flatMap((g) => g.at)];
  // A page without a number may be any of those that are missing.
  const unnumbered = numbers.length - known.length;
  return { missing: missing.length > unnumbered ? missing : [], order: order.every((at, i) => at === i) ? null : order };
}
