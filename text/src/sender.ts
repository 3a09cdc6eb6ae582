import type { KnownSender } from '@libretto/model';
import { editDistance } from './editDistance';

/** Of one letter in so many it may have been misread. */
const lettersPerFault = 8;
const leastLetters = 4;
const bare = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]/gu, '');

/** The sender whose sign a line is, or holds, as far as it can be read: the longest. */
export function knownIn(line: string, known: readonly KnownSender[]): KnownSender | undefined {
  const text = bare(line);
  const isSign = (sign: string) =>
    sign.length >= leastLetters &&
    (text.includes(sign) ||
      (Math.abs(text.length - sign.length) <= sign.length / lettersPerFault &&
        editDistance(text, sign) <= sign.length / lettersPerFault));
  return known.filter((k) => isSign(bare(k.sign))).sort((a, b) => b.sign.length - a.sign.length)[0];
}

/** Words by which firms and authorities are known in the languages that ship (legal forms; common practice). */
const form =
  /(?:^|[\s,])(?:ltd|limited|plc|llp|llc|inc|corp|gmbh|mbh|ohg|kg|e\.?\s?k|e\.?\s?v|sarl|sasu?|s\.a\.(?:r\.l\.|s\.)?|b\.?v|n\.?v|s\.?r\.?l|s\.?p\.?a|s\.l|lda)\.?(?=$|[\s,])/iu;
const pair = /\p{L}\s?(?:&|\+)\s?\p{L}/u;
const said = /^(?:from|sender|absender|von|expéditeur|remitente|mittente|afzender|remetente)\s*:\s*/iu;

/** What of a line may be who sends, and how likely that is, 0 to 1; null: nothing of it. What follows a comma is what they do, or where they are. */
export function senderIn(line: string): { text: string; likely: number } | null {
  const named = said.test(line);
  const [text = ''] = line.replace(said, '').split(/\s*[,|·]\s+|\s[–—]\s/);
  const letters = text.replace(/[^\p{L}]/gu, '').length;
  const words = text.trim().split(/\s+/);
  if (letters < leastLetters || words.length > 6 || /\d/.test(text) || /[.:!?]$/.test(text.replace(form, ''))) return null;
  const likely = named
    ? 1
    : form.test(text)
      ? 0.9
      : pair.test(text)
        ? 0.7
        : words.length > 1 && words.every((w) => /^\P{L}*\p{Lu}/u.test(w))
          ? 0.3
          : 0;
  return likely ? { text: text.trim(), likely } : null;
}

/**
 * What has become of a part of a name in which somebody has typed: as it stands there now; null where it cannot be told apart from the rest.
 *
 * @param before the name with the part from `from` to `to`.
 */
export function partAfter(before: string, from: number, to: number, after: string): string | null {
  let same = 0;
  while (same < Math.min(before.length, after.length) && before[same] === after[same]) same++;
  let end = 0;
  while (end < Math.min(before.length, after.length) - same && before.at(-1 - end) === after.at(-1 - end)) end++;
  const changed: [number, number] = [same, before.length - end];
  // The same typing may be told in several places: the one within the part is meant.
  while (changed[1] > to && changed[0] > from && before[changed[0] - 1] === before[changed[1] - 1]) {
    changed[0]--;
    changed[1]--;
  }
  const longer = after.length - before.length;
  if (changed[1] <= from) return after.slice(from + longer, to + longer);
  if (changed[0] >= to) return after.slice(from, to);
  return changed[0] >= from && changed[1] <= to ? after.slice(from, to + longer).trim() : null;
}
