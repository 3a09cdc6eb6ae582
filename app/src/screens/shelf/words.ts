import { format } from 'date-fns/format';
import { isSameDay } from 'date-fns/isSameDay';
import { subDays } from 'date-fns/subDays';
import { namedSizes } from '@libretto/core/rectify/pageSize';
import type { Delivery, Document, Page } from '@libretto/model';

/** "Today", "Yesterday", "Thursday", or the date: what a day is called now. */
export function dayInWords(iso: string, now: Date): string {
  const day = new Date(iso);
  if (isSameDay(day, now)) return 'Today';
  if (isSameDay(day, subDays(now, 1))) return 'Yesterday';
  return day > subDays(now, 6) ? format(day, 'EEEE') : format(day, 'd MMMM yyyy');
}

export const pagesInWords = (n: number) => (n === 1 ? '1 page' : `${n} pages`);

/** "A4", "Legal" or "80 × 236 mm". */
export function sizeInWords(made: NonNullable<Page['made']>): string {
  const named = namedSizes.find((s) => s.id === made.sizeName);
  return named ? named.label : `${Math.round(made.widthMm)} × ${Math.round(made.heightMm)} mm`;
}

/** The sizes that occur, once each. */
export function sizesInWords(pages: readonly Page[]): string {
  const names = [...new Set(pages.flatMap((p) => (p.made ? [sizeInWords(p.made)] : [])))];
  return names.length > 2 ? 'several sizes' : names.join(', ');
}

export interface Fate {
  tone: 'plain' | 'attention' | 'good' | 'failed';
  words: string;
}

/** What became of a document, in words; what needs the user goes before what is done. */
export function fateOf(_document: Document, pages: readonly Page[], deliveries: readonly Delivery[], now: Date): Fate {
  const failed = deliveries.find((d) => d.state === 'failed');
  if (failed) return { tone: 'failed', words: `Did not reach ${failed.place.name}` };
  const looking = pages.filter((p) => p.state === 'looking').length;
  if (looking) return { tone: 'plain', words: `Finding edges on ${pagesInWords(looking)}` };
  const doubts = pages.filter(hasDoubt).length;
  if (doubts) return { tone: 'attention', words: `${pagesInWords(doubts)} to settle` };
  const under = deliveries.find((d) => d.state === 'sending' || d.state === 'waiting');
  if (under)
    return {
      tone: 'plain',
      words:
        under.state === 'sending'
          ? `Going to ${under.place.name}`
          : under.reason
            ? `Waiting: ${under.reason}`
            : 'Waiting to be sent',
    };
  const last = deliveries.filter((d) => d.proof).sort((a, b) => b.proof!.at.localeCompare(a.proof!.at))[0];
  if (last) {
    const at = new Date(last.proof!.at);
    return {
      tone: 'good',
      words: `${last.place.kind === 'folder' ? 'Arrived in' : 'Mailed to'} ${last.place.name}, ${isSameDay(at, now) ? format(at, 'HH:mm') : format(at, 'd MMM HH:mm')}`,
    };
  }
  return { tone: 'plain', words: 'On this device only' };
}

/** Whether a page needs a look: a check that is more than a note, or a photo that could not be read. */
export function hasDoubt(page: Page): boolean {
  return page.state === 'failed' || page.checks.some((c) => c.severity !== 'note');
}
