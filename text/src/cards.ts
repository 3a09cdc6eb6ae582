import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js/min';
import { contactFields, type ContactField, type ContactPart } from './contact';
import { apart, byColumns } from './apart';
import { around, type Word } from './words';

/** What stands further apart than so many letters is not one line. */
const widestGap = 2.5;

interface CardLine {
  words: readonly Word[];
  text: string;
  tall: number;
}

const mailIn = /[\p{L}\d._%+-]+@[\p{L}\d-]+(?:\.[\p{L}\d-]+)+/u;
const webIn = /(?:https?:\/\/)?(?:www\.)?[\p{L}\d-]+(?:\.[\p{L}\d-]+)*\.(?:\p{L}{2,})(?:\/\S*)?/u;
const phoneIn = /(?:\+|00)?[(\d][\d\s()/.–-]{6,}\d/g;
/** What stands before a number that is no telephone. */
const noPhone = /\b(?:fax|telefax|vat|ust|iban|reg|no\.|nr\.)\b/i;
const legal = /\b(?:ltd|llc|inc|plc|gmbh|ag|kg|ohg|sarl|s\.?a\.?r\.?l|sas|s\.?l|s\.?p\.?a|b\.?v|n\.?v|lda|co)\b\.?|&/i;
const trade = /\b(?:sails?|timber|rope|paint|marine|electrics?|engineers?|engineering|boatyard|yard|works|studio|surveyors?|merchants?|supplies|services|group|bros|brothers|sons|daughters|werft|werkstatt|betrieb|handel|atelier|chantier|office|agency|partners|foundry|castings|bakery|shipping|transport|chandlery|chandlers|joinery|tools|instruments|design|press|print)\b/i; // prettier-ignore
const roles = /\b(?:manager|director|owner|founder|partner|engineer|surveyor|sailmaker|rigger|shipwright|electrician|carpenter|captain|master|head|chief|sales|accounts?|assistant|secretary|consultant|architect|designer|gesch.ftsf.hrer(?:in)?|leiter(?:in)?|meister(?:in)?|vertrieb|inhaber(?:in)?|directeur|directrice|gérante?|responsable|ingénieure?)\b/i; // prettier-ignore
const street = /\b(?:road|street|lane|avenue|quay|square|place|row|way|wharf|house|straße|strasse|str\.|weg|platz|gasse|allee|rue|quai|chemin|boulevard)\b/i; // prettier-ignore
const postcode = /\b(?:[A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2}|(?:[A-Z]{1,2}-)?\d{4,5}(?=\s+\p{Lu}))/u;
const generalMail = /^(?:mail|gmx|web|post|email|online|inbox|example)$/i;

/**
 * What a card says of somebody. A word of it that stands in the mail's address before the @ is a name's, one behind it an organisation's; then legal forms, trades, what a name looks like, and what is set large decide. Own rules.
 *
 * @param lines in reading order; boxes in any unit.
 * @param country where numbers without a country's code belong, ISO 3166-1.
 */
export function contactOf(read: readonly { words: readonly Word[] }[], country: CountryCode = 'GB'): ContactPart[] {
  const parted = read.flatMap(({ words }) => apart(words, widestGap));
  const lines: CardLine[] = joinedHeads(joinedHyphens(byColumns(parted).map((words) => ({ words })))).map(({ words }) => ({
    words,
    text: words.map((w) => w.text).join(' '),
    tall: Math.max(0, ...words.map((w) => w.box.height)),
  }));
  const parts: ContactPart[] = [];
  const taken = new Set<CardLine>();
  const add = (field: ContactField, value: string, { words }: CardLine) =>
    parts.push({ field, value, box: around(words.map((w) => w.box)), right: Math.min(1, ...words.map((w) => w.confidence)) });
  for (const line of lines) {
    const before = parts.length;
    // A recogniser puts blanks into addresses.
    const tight = line.text.replace(/\s*([@])\s*/g, '$1').replace(/(?<=[@.][\p{L}\d-]*)\s+(?=\.[\p{L}])/gu, '');
    const mail = mailIn.exec(tight)?.[0];
    if (mail) add('mail', mail.toLowerCase(), line);
    const rest = mail ? tight.replace(mail, ' ') : tight;
    const web = webIn.exec(rest)?.[0];
    if (web && (/^(?:https?:|www\.)/i.test(web) || (/^\S+$/.test(rest.trim()) && !/\d{3}/.test(web) && web === web.toLowerCase()))) add('web', web.toLowerCase(), line); // prettier-ignore
    if (!noPhone.test(line.text))
      for (const match of rest.matchAll(phoneIn)) {
        const found = match[0].trim();
        if (/^\d{1,2}[./]\d{1,2}[./]\d{2,4}$/.test(found)) continue;
        // A number from elsewhere than here is one, too, where it says so or begins as numbers do.
        const called =
          /(?:tel|phone|fon|mob|cell|port|m|t)\w*\.?:?\s*$/i.test(rest.slice(0, match.index)) || /^[(]?[+0]/.test(found);
        const digits = found.replace(/\D/g, '').length;
        if (parsePhoneNumberFromString(found, country)?.isPossible() || (called && digits >= 7 && digits <= 15)) add('phone', found.replace(/\s+/g, ' '), line); // prettier-ignore
      }
    if (parts.length > before) taken.add(line);
    else if (noPhone.test(line.text) && /\d{4}/.test(line.text)) taken.add(line);
  }
  const places = lines.filter((l) => !taken.has(l) && (street.test(l.text) || postcode.test(l.text)) && !legal.test(l.text));
  if (places.length) {
    const from = lines.indexOf(places[0]!);
    const to = lines.indexOf(places.at(-1)!);
    const own = lines.filter((l, i) => places.includes(l) || (i > from && i < to && !taken.has(l)));
    // The town below a street, though its code was not read as one.
    const below = lines[to + 1];
    if (below && street.test(places.at(-1)!.text) && !taken.has(below) && isTown(below, places.at(-1)!)) own.push(below);
    own.forEach((l) => taken.add(l));
    const words = own.flatMap((l) => [...l.words]);
    add('address', own.map((l) => l.text.replace(/[,·|]\s*$/, '')).join(', '), { words, text: '', tall: 0 });
  }
  const mail = parts.find((p) => p.field === 'mail')?.value ?? '';
  const [local = '', domain = ''] = mail.split('@');
  const host = domain.split('.')[0] ?? '';
  // Behind the @ of a general one stands nobody's name.
  const general = !host || generalMail.test(host);
  const says = (words: string, text: string) => {
    const names = text.toLowerCase().split(/[^\p{L}]+/u).filter((w) => w.length > 2); // prettier-ignore
    return names.filter((name) => plain(words).includes(plain(name))).length;
  };
  const tallest = Math.max(1, ...lines.map((l) => l.tall));
  const left = lines.filter((l) => !taken.has(l) && l.text.replace(/[^\p{L}]/gu, '').length > 2);
  const score = (line: CardLine): { name: number; organisation: number; role: number } => {
    const { text } = line;
    const words = text.split(/\s+/);
    const titled = words.length >= 2 && words.length <= 4 && words.every((w) => /^\p{Lu}[\p{L}.'’-]*$/u.test(w));
    return {
      name: (general ? 1 : 3) * says(local, text) + (titled ? 1.5 : 0) - (legal.test(text) || trade.test(text) ? 2 : 0) - (roles.test(text) ? 2 : 0) + 0.5 * (line.tall / tallest) - (/\d/.test(text) ? 2 : 0), // prettier-ignore
      organisation: (general ? says(local, text) : 3 * says(host, text)) + (legal.test(text) ? 2 : 0) + (trade.test(text) ? 1.5 : 0) + (line.tall / tallest) - (roles.test(text) && !trade.test(text) ? 1 : 0), // prettier-ignore
      role: (roles.test(text) ? 3 : 0) - (words.length > 6 ? 2 : 0),
    };
  };
  // Each line is one thing: what it is surest of comes first.
  const ranked = left.flatMap((line) => Object.entries(score(line)).map(([field, value]) => ({ line, field: field as 'name' | 'organisation' | 'role', value }))).sort((a, b) => b.value - a.value); // prettier-ignore
  const found = new Set<string>();
  for (const { line, field, value } of ranked) {
    if (taken.has(line) || found.has(field) || value < (field === 'role' ? 2 : 1.2)) continue;
    taken.add(line);
    found.add(field);
    add(field, line.text.replace(/\s*[|·•,]\s*$/, ''), line);
  }
  return parts.sort((a, b) => contactFields.indexOf(a.field) - contactFields.indexOf(b.field));
}

/** What is set large and is broken where its column ends goes on in the next line: a single word over or under another of its size. */
function joinedHeads(lines: readonly { words: readonly Word[] }[]): { words: readonly Word[] }[] {
  const tall = (words: readonly Word[]) => Math.max(0, ...words.map((w) => w.box.height));
  const heights = lines.map((l) => tall(l.words)).sort((a, b) => a - b);
  const body = heights[heights.length >> 1] ?? 0;
  const isHead = ({ words }: { words: readonly Word[] }) => tall(words) > 1.2 * body && words.length < 4 && words.every((w) => /^[\p{Lu}&]/u.test(w.text) && !/[\d@]/.test(w.text)); // prettier-ignore
  const out: { words: readonly Word[] }[] = [];
  for (const line of lines) {
    const before = out.at(-1);
    if (before && isHead(before) && isHead(line) && Math.min(before.words.length, line.words.length) === 1) {
      const [over, box] = [around(before.words.map((w) => w.box)), around(line.words.map((w) => w.box))];
      const [a, b] = [tall(before.words), tall(line.words)];
      const near = box.y - (over.y + over.height) < 0.7 * Math.min(a, b);
      if (near && Math.max(a, b) < 1.35 * Math.min(a, b)) {
        out[out.length - 1] = { words: [...before.words, ...line.words] };
        continue;
      }
    }
    out.push(line);
  }
  return out;
}

/** Whether a line right below a street names a town: set alike, a word and figures. */
function isTown(line: CardLine, above: CardLine): boolean {
  const [box, over] = [line, above].map(({ words }) => around(words.map((w) => w.box)));
  const near = box!.y - (over!.y + over!.height) < above.tall && Math.abs(line.tall - above.tall) < 0.35 * above.tall;
  return near && /\p{Lu}\p{L}{2,}/u.test(line.text) && /\d/.test(line.text) && !legal.test(line.text) && !roles.test(line.text);
}

const plain = (text: string) => text.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '').replace(/ß/g, 'ss').replace(/[^\p{L}]/gu, ''); // prettier-ignore

/** An address that is broken at a hyphen goes on in the next line. */
function joinedHyphens(lines: readonly { words: readonly Word[] }[]): { words: readonly Word[] }[] {
  const out: { words: readonly Word[] }[] = [];
  for (const line of lines) {
    const before = out.at(-1);
    const last = before?.words.at(-1);
    if (before && last && /^(?:www\.|https?:)\S*-$|@\S*-$/i.test(last.text)) {
      const [first, ...rest] = line.words;
      const both: Word = { text: last.text + first!.text, box: around([last.box, first!.box]), confidence: Math.min(last.confidence, first!.confidence) }; // prettier-ignore
      out[out.length - 1] = { words: [...before.words.slice(0, -1), both, ...rest] };
    } else if (line.words.length) out.push(line);
  }
  return out;
}

/** Whether a page looks like somebody's card: small, and with a name and a way to reach them. */
export const isCard = (parts: readonly ContactPart[], widthMm: number, heightMm: number): boolean =>
  Math.max(widthMm, heightMm) <= 115 &&
  parts.some((p) => p.field === 'name' || p.field === 'organisation') &&
  parts.some((p) => p.field === 'phone' || p.field === 'mail');
