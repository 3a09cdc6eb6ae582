import { isSameDay } from 'date-fns/isSameDay';
import { subDays } from 'date-fns/subDays';
import {
  betterOf,
  enoughDpi,
  remedyOf,
  sizeKey,
  type Check,
  type Fate,
  type Page,
  type Problem,
  type ShelfGroup,
} from '@libretto/model';
import { onceWanted } from './onceWanted';
import { locale, sayCode, type Say, type WordKey } from './words';

const dates = (options: Intl.DateTimeFormatOptions) => onceWanted(() => new Intl.DateTimeFormat(locale, options));
const numbers = (options: Intl.NumberFormatOptions) => onceWanted(() => new Intl.NumberFormat(locale, options));
const time = dates({ hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
const weekday = dates({ weekday: 'long' });
const date = dates({ day: 'numeric', month: 'long', year: 'numeric' });
const month = dates({ month: 'long', year: 'numeric' });
const short = dates({ day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
const figures = dates({ day: '2-digit', month: '2-digit', year: 'numeric' });
const percent = numbers({ style: 'percent', maximumFractionDigits: 0 });
const fine = numbers({ style: 'percent', minimumFractionDigits: 1, maximumFractionDigits: 1 });
const oneDigit = numbers({ minimumFractionDigits: 1, maximumFractionDigits: 1 });
const bytes = (unit: string, digits: number) => numbers({ style: 'unit', unit, maximumFractionDigits: digits, minimumFractionDigits: digits }); // prettier-ignore
const [b, kb, mb0, mb1] = [bytes('byte', 0), bytes('kilobyte', 0), bytes('megabyte', 0), bytes('megabyte', 1)];

/** "Today", "Yesterday", "Thursday", or the date: what a day is called now. */
export function dayInWords(say: Say, iso: string, now: Date): string {
  const day = new Date(iso);
  if (isSameDay(day, now)) return say('day.today');
  if (isSameDay(day, subDays(now, 1))) return say('day.yesterday');
  return day > subDays(now, 6) ? weekday().format(day) : date().format(day);
}

/** What the day, the week (from Monday, ISO 8601) or the month of an instant is called. */
export function stretchInWords(say: Say, iso: string, group: ShelfGroup, now: Date): string {
  if (group === 'day') return dayInWords(say, iso, now);
  const at = new Date(iso);
  if (group === 'month') return month().format(at);
  const monday = subDays(at, (at.getDay() + 6) % 7);
  return date().formatRange(monday, subDays(monday, -6));
}

/** The time of day, with the day where it is another one. */
export function whenInWords(say: Say, iso: string, now: Date): string {
  const at = new Date(iso);
  return isSameDay(at, now) ? say('outbox.today', { time: time().format(at) }) : short().format(at);
}

/** A day as it is written on papers, all in figures. */
export const dayInFigures = (day: Date): string => figures().format(day);

/** "2.1 MB", as people say it: decimal units, two figures. */
export const fileSize = (size: number): string =>
  size < 1000 ? b().format(size) : size < 999_500 ? kb().format(size / 1000) : (size < 9.95e6 ? mb1 : mb0)().format(size / 1e6);

export const share = (value: number): string => (value < 0.1 ? fine : percent)().format(value);

/** A size by its name, or in millimetres: from its id or "80×236". */
export function sizeOfKey(say: Say, key: string): string {
  const mm = /^(\d+)×(\d+)$/.exec(key);
  return mm ? say('size.mm', { width: mm[1]!, height: mm[2]! }) : sayCode(say, 'size', { code: key });
}
export const sizeInWords = (say: Say, made: NonNullable<Page['made']>): string => sizeOfKey(say, sizeKey(made));

/** The sizes that occur. */
export const sizesInWords = (say: Say, sizes: readonly string[]): string =>
  sizes.length > 2 ? say('size.several') : sizes.map((s) => sizeOfKey(say, s)).join(say('common.comma'));

export const sizesOf = (pages: readonly Page[]): string[] => [
  ...new Set(pages.flatMap((p) => (p.made ? [sizeKey(p.made)] : []))),
];

export const problemInWords = (say: Say, { code, said }: Problem): string => sayCode(say, 'problem', { code, said });

/** As a sentence begins; an address stays as it is. */
const capital = (words: string) => (/^\S+@/.test(words) ? words : words.charAt(0).toUpperCase() + words.slice(1));
/** A problem that stands alone. */
export const problemAlone = (say: Say, problem: Problem): string => capital(problemInWords(say, problem));

export interface FateWords {
  tone: 'plain' | 'attention' | 'good' | 'failed';
  words: string;
}

/** What became of a document, in words. */
export function fateInWords(say: Say, fate: Fate, now: Date): FateWords {
  switch (fate.code) {
    case 'failed':
      return { tone: 'failed', words: say('fate.failed', { place: fate.place }) };
    case 'looking':
      return { tone: 'plain', words: say('fate.looking', { count: fate.pages }) };
    case 'doubts':
      return { tone: 'attention', words: say('fate.doubts', { count: fate.pages }) };
    case 'sending':
      return { tone: 'plain', words: say('fate.sending', { place: fate.place }) };
    case 'waiting':
      return {
        tone: 'plain',
        words: fate.reason ? say('fate.waitingFor', { reason: problemInWords(say, fate.reason) }) : say('fate.waiting'),
      };
    case 'arrived': {
      const at = new Date(fate.at);
      const when = isSameDay(at, now) ? time().format(at) : short().format(at);
      return {
        tone: 'good',
        words: say(fate.kind !== 'mail' ? 'fate.arrivedFolder' : 'fate.arrivedMail', { place: fate.place, when }),
      };
    }
    default:
      return { tone: 'plain', words: say('fate.device') };
  }
}

/** A check in words, from what was measured; `other` is the number of the page that it names. */
export function checkInWords(say: Say, check: Check, other: number | null = null): string {
  const { id, value } = check;
  if (id === 'same-page' && other) {
    const better = betterOf(check);
    return say(better === 'this' ? 'check.sameSharper' : better === 'other' ? 'check.sameOtherSharper' : 'check.same', { other });
  }
  if (value === undefined) return say(`check.${id}`);
  if (id === 'sideways') return say(value === 180 ? 'check.upsideDown' : 'check.sideways');
  const key = `check.${id}By`;
  const measured = id === 'blurred' || id === 'crooked' ? oneDigit().format(Math.abs(value)) : Math.round(value);
  return sayCode(say, 'check', { code: key.slice(6), values: { value: measured, share: share(value), enough: enoughDpi } }) ===
    key.slice(6)
    ? say(`check.${id}`)
    : say(key as WordKey, { value: measured, share: share(value), enough: enoughDpi });
}

/** What settles a check, in words. */
export function actionInWords(say: Say, check: Check, other: number | null): string {
  if (check.id === 'same-page' && other && betterOf(check) === 'this') return say('check.action.deleteOther', { other });
  const { remedy } = remedyOf(check);
  return say(check.id === 'low-resolution' ? 'check.action.closer' : `check.action.${remedy}`);
}

const languageNames = onceWanted(() => new Intl.DisplayNames([locale], { type: 'language' }));
/** A language by its code of BCP 47. */
export const languageName = (code: string): string => languageNames().of(code) ?? code;
