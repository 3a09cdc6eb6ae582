import type { KnownSender } from '@libretto/model';
import { apart } from './apart';
import { knownIn, senderIn } from './sender';
import type { Rect } from './words';

/** Something on a page that belongs into a document's name, as it would stand there, and where it was read. */
export interface Suggestion {
  kind: 'date' | 'sender' | 'title' | 'number';
  text: string;
  /** The line that says who sends, as it was read. */
  sign?: string;
  box: Rect;
  /** Probability that it was read right: that of its least sure word. */
  right: number;
  /** Nothing else on the page could as well be it. */
  alone: boolean;
  /** Somebody drew a box round it: it is meant as the title, and nobody takes it unseen. */
  framed?: true;
}

/** A line as it was read; boxes in any unit, the page `height` of them high. */
export interface SuggestLine {
  words: readonly { text: string; box: Rect; confidence: number }[];
}

const months: Record<string, number> = {};
const names = [
  'january february march april may june july august september october november december',
  'januar februar märz april mai juni juli august september oktober november dezember',
  'janvier février mars avril mai juin juillet août septembre octobre novembre décembre',
  'enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre',
  'gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre',
  'januari februari maart april mei juni juli augustus september oktober november december',
  'janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro',
];
for (const list of names) list.split(' ').forEach((name, i) => (months[name] ??= i + 1));

const iso = (y: number, m: number, d: number): string | null => {
  const at = new Date(Date.UTC(y, m - 1, d));
  const real = y >= 1970 && y < 2200 && at.getUTCMonth() === m - 1 && at.getUTCDate() === d;
  return real ? at.toISOString().slice(0, 10) : null;
};

/** What says until when or from when, not when. */
const term = /\b(?:until|due|valid|from|bis|fällig|zahlbar|jusqu|payable|échéance)/i;
/** Figures that a slashed or dotted nought is read as. */
const noughts = /[689]/g;
/** Years that papers are of. */
const likely = (date: string) => date >= '1950' && date < '2100';

/** A day that cannot be, with as few figures as possible put back to nought so that it can; null where none or several do. */
function repaired(y: string, m: string, d: string): string | null {
  const text = `${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`;
  const places = [...text.matchAll(noughts)].map((match) => match.index);
  for (let count = 1; count <= Math.min(3, places.length); count++) {
    const days = new Set<string>();
    for (let mask = 1; mask < 1 << places.length; mask++) {
      const put = places.filter((_, i) => mask & (1 << i));
      if (put.length !== count) continue;
      const [ty, tm, td] = [...text].map((c, i) => (put.includes(i) ? '0' : c)).join('').split('-').map(Number); // prettier-ignore
      const date = iso(ty!, tm!, td!);
      if (date && likely(date)) days.add(date);
    }
    if (days.size) return days.size === 1 ? [...days][0]! : null;
  }
  return null;
}

/** The dates in a text, in ISO 8601, with where they stand. One that may mean two days (03/04/2026) gives both; one that cannot be as it was read, what it may have been, as a guess. */
export function datesIn(text: string): { date: string; index: number; length: number; guess?: true }[] {
  const found: { date: string; index: number; length: number; guess?: true }[] = [];
  const add = (m: RegExpMatchArray, ...days: (string | null)[]) => {
    for (const date of new Set(days)) if (date) found.push({ date, index: m.index!, length: m[0].length });
    return days.some(Boolean);
  };
  const guess = (m: RegExpMatchArray, [y, mo, d]: readonly [string, string, string]) => {
    const date = repaired(y, mo, d);
    if (date) found.push({ date, index: m.index!, length: m[0].length, guess: true });
  };
  for (const m of text.matchAll(/\b(\d{4})-(\d{2})-(\d{2})\b/g))
    add(m, iso(+m[1]!, +m[2]!, +m[3]!)) || guess(m, [m[1]!, m[2]!, m[3]!]);
  for (const m of text.matchAll(/\b(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})\b/g))
    add(m, iso(+m[3]!, +m[2]!, +m[1]!)) || guess(m, [m[3]!, m[2]!, m[1]!]);
  for (const m of text.matchAll(/\b(\d{1,2})\/(\d{1,2})\/(\d{4})\b/g))
    add(m, iso(+m[3]!, +m[2]!, +m[1]!), iso(+m[3]!, +m[1]!, +m[2]!)) || guess(m, [m[3]!, m[2]!, m[1]!]);
  for (const m of text.matchAll(/\b(\d{1,2})(?:st|nd|rd|th|er|º|\.)?\s+(?:de\s+)?(\p{L}{3,12})\.?,?\s+(?:de\s+)?(\d{4})\b/giu))
    if (months[m[2]!.toLowerCase()]) add(m, iso(+m[3]!, months[m[2]!.toLowerCase()]!, +m[1]!));
  for (const m of text.matchAll(/\b(\p{L}{3,12})\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})\b/giu))
    if (months[m[1]!.toLowerCase()]) add(m, iso(+m[3]!, months[m[1]!.toLowerCase()]!, +m[2]!));
  return found;
}

const holdsMiddle = (frame: Rect, { x, y, width, height }: Rect) =>
  x + width / 2 > frame.x &&
  x + width / 2 < frame.x + frame.width &&
  y + height / 2 > frame.y &&
  y + height / 2 < frame.y + frame.height;

/** A heading is so much higher than what most of the page is set in. */
const headingRatio = 1.35;
/** Headings stand above this share of the page. */
const upper = 0.6;
const sureTitle = 0.8;
const mostTitle = 60;
/** A heading as high as this share of the highest may as well be the title. */
const rivalHeight = 0.85;
/** What stands further from its neighbour than so many letters is something else: a number beside a heading. */
const widestGap = 4;
/** So many others beside it on its row, and it is a table's, not a heading. */
const rowOfTable = 2;
/** Who sends stands above this share of the page. */
const letterhead = 0.3;
/** So much higher than the rest is a letterhead. */
const letterheadRatio = 1.15;
/** As likely as this a line says who sends, and nothing else. */
const surelySender = 0.6;
/** A line that was said before to be a sender's, letter by letter or nearly. */
const knownRight = 0.97;
/** What stands before a number by which a paper is known. */
const numbered =
  /(?:^|\s)(?:no|nr|n°|nº|num(?:mer|ber|éro)?|invoice|rechnung|facture|docket|order|ref)[.:]?\s*#?\s*([A-Z]{0,4}[-/]?\d[\w/-]{2,})(?=$|[\s,.;])/iu;

/**
 * What of a first page belongs into its document's name: dates, headings, the number by which it is known; the likeliest of each kind first. Nothing of it is taken without being confirmed.
 *
 * @param height of the page, in the boxes' unit; @param senders how those who sent before are called;
 * @param frames boxes that somebody drew round a line, in the same unit.
 */
export function suggestionsOf(
  read: readonly SuggestLine[],
  height: number,
  senders: readonly KnownSender[] = [],
  frames: readonly Rect[] = [],
): Suggestion[] {
  const lines = read.flatMap(({ words }) => apart(words, widestGap).map((part) => ({ words: part })));
  const texts = lines.map((line) => line.words.map((w) => w.text).join(' '));
  const part = (line: SuggestLine, index: number, length: number): { box: Rect; right: number } => {
    let at = 0;
    const words = line.words.filter((w) => {
      const [from, to] = [at, at + w.text.length];
      at = to + 1;
      return from < index + length && to > index;
    });
    const own = words.length ? words : line.words;
    const x = Math.min(...own.map((w) => w.box.x));
    const y = Math.min(...own.map((w) => w.box.y));
    const right = Math.max(...own.map((w) => w.box.x + w.box.width));
    const bottom = Math.max(...own.map((w) => w.box.y + w.box.height));
    return { box: { x, y, width: right - x, height: bottom - y }, right: Math.min(...own.map((w) => w.confidence)) };
  };
  const dates = lines.flatMap((line, i) =>
    datesIn(texts[i]!).map(({ date, index, length, guess }) => {
      const its = part(line, index, length);
      const due = term.test(texts[i]!);
      return {
        kind: 'date' as const,
        text: date,
        // A date by itself, or signed, is the paper's own; one that says until when is not.
        maybe: due || !!guess,
        rank:
          (texts[i]!.length < 32 ? 2 : 0) +
          (/\b(?:date[d]?|datum|signed|den|le|am)\b/i.test(texts[i]!) ? 1 : 0) -
          (due ? 2 : 0) -
          (guess ? 1 : 0),
        ...its,
        // Nobody takes either for sure.
        ...((due || guess) && { right: Math.min(its.right, guess ? 0.5 : 0.7) }),
      };
    }),
  );
  const spans = lines.map(({ words }) => ({
    top: Math.min(...words.map((w) => w.box.y)),
    bottom: Math.max(...words.map((w) => w.box.y + w.box.height)),
  }));
  // Cells of a row are about as high as each other; beside a large heading several small lines may stand.
  const beside = ({ top, bottom }: (typeof spans)[number]) =>
    spans.filter((s) => Math.min(bottom, s.bottom) - Math.max(top, s.top) > 0.5 * Math.max(bottom - top, s.bottom - s.top))
      .length - 1;
  const heights = lines.flatMap((l) => l.words.map((w) => w.box.height)).sort((a, b) => a - b);
  const body = heights[heights.length >> 1] ?? 0;
  const titles = lines.flatMap((line, i) => {
    const text = texts[i]!.replace(/\s+/g, ' ').trim();
    const tall = Math.max(0, ...line.words.map((w) => w.box.height));
    const its = part(line, 0, text.length);
    const letters = text.replace(/[^\p{L}]/gu, '').length;
    const first = line.words[0];
    if (
      !first ||
      letters < 3 ||
      text.length > mostTitle ||
      its.right < sureTitle ||
      first.box.y > upper * height ||
      beside(spans[i]!) >= rowOfTable ||
      datesIn(text).length
    )
      return [];
    return [{ kind: 'title' as const, text, rank: tall >= headingRatio * body ? 10 + tall / body : i === 0 ? 1 : 0, ...its }];
  });
  const framed = frames
    .filter(({ y }) => y < upper * height)
    .flatMap((frame) => {
      const own = read.flatMap(({ words }) => words.filter(({ box }) => holdsMiddle(frame, box)));
      // Strokes of the box itself are read as signs.
      const text = own.map((w) => w.text).join(' ').replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}).!?]+$/gu, ''); // prettier-ignore
      if (!/\p{L}/u.test(text) || text.length > mostTitle) return [];
      const right = Math.min(...own.map((w) => w.confidence));
      return [{ kind: 'title' as const, text, rank: 30, box: frame, right, maybe: true, framed: true as const }];
    });
  const numbers = lines.flatMap((line, i) => {
    const m = numbered.exec(texts[i]!);
    return m
      ? [{ kind: 'number' as const, text: m[1]!, rank: 0, ...part(line, texts[i]!.indexOf(m[1]!, m.index), m[1]!.length) }]
      : [];
  });
  const senderLines = lines.flatMap((line, i) => {
    const known = knownIn(texts[i]!, senders);
    const sign = texts[i]!.slice(0, 200);
    // What somebody has said once is known, wherever it stands.
    if (known)
      return [
        {
          kind: 'sender' as const,
          text: known.name,
          sign: known.sign,
          rank: 20,
          ...part(line, 0, sign.length),
          right: knownRight,
        },
      ];
    // "…, 19 November 2026": the day beside it is not theirs.
    const day = datesIn(texts[i]!)[0]?.index ?? Infinity;
    const found = line.words[0]!.box.y < letterhead * height ? senderIn(texts[i]!.slice(0, day)) : null;
    if (!found || !day) return [];
    // Larger than the rest, it is a letterhead.
    const likely = found.likely + (Math.max(...line.words.map((w) => w.box.height)) >= letterheadRatio * body ? 0.2 : 0);
    const its = part(line, 0, found.text.length);
    return [{ kind: 'sender' as const, text: found.text, sign, maybe: likely < surelySender, rank: likely, ...its }];
  });
  const heading = [...titles].sort((a, b) => b.rank - a.rank)[0]?.text;
  type Ranked = Omit<Suggestion, 'alone'> & { rank: number; maybe?: boolean };
  /** The likeliest of a kind; `rival` says whether another one may as well be meant as the first. */
  const best = (list: readonly Ranked[], most: number, rival: (first: Ranked, other: Ranked) => boolean) => {
    const all = [...list].sort((a, b) => b.rank - a.rank).filter((s, i, sorted) => sorted.findIndex((o) => o.text === s.text) === i); // prettier-ignore
    return all.slice(0, most).map(({ kind, text, sign, box, right, maybe, framed: drawn }, i): Suggestion => ({
      kind,
      text,
      ...(sign && { sign }),
      ...(drawn && { framed: drawn }),
      box,
      right,
      alone: i === 0 && !maybe && !all.slice(1).some((other) => rival(all[0]!, other)),
    }));
  };
  return [
    // One that says until when is no rival.
    ...best(dates, 2, (_, other) => !other.maybe),
    // The title is no sender, though it may look like one.
    ...best(
      senderLines.filter((s) => s.rank >= 20 || s.sign !== heading),
      1,
      (first, other) => first.rank < 20 && other.rank > 0.5,
    ),
    ...best(
      [...framed, ...titles.filter((t) => t.rank > 0).map((t) => ({ ...t, maybe: t.rank < 10 }))],
      2,
      (first, other) => other.rank > 10 && other.rank - 10 > rivalHeight * (first.rank - 10),
    ),
    ...best(numbers, 1, () => true),
  ];
}

/** As sure as this each part must be read to be taken unasked. A day has redundancy: misread, it is seldom another day. */
const sureRead: Record<Suggestion['kind'], number> = { title: 0.93, date: 0.8, number: 0.92, sender: 0.92 };

/**
 * Of what was found the parts that can stand in a name before anybody has looked: each read surely, and nothing else on the page that could be meant. Null where that leaves
 * a doubt about one that `wanted` asks for; only a title may not be missing, and of a number or sender one is kept that is sure.
 */
export function sureParts(
  found: readonly Suggestion[],
  wanted: readonly Suggestion['kind'][],
): Partial<Record<Suggestion['kind'], string>> | null {
  const parts: Partial<Record<Suggestion['kind'], string>> = {};
  for (const kind of new Set(wanted)) {
    const first = found.find((s) => s.kind === kind);
    if (first && first.alone && first.right >= sureRead[kind]) parts[kind] = first.text;
    else if (kind === 'title' || (kind === 'date' && first)) return null;
  }
  return parts.title ? parts : null;
}
