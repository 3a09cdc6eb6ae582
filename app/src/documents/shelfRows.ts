import { createSelector } from '@reduxjs/toolkit';
import type { Summary } from '@libretto/model';
import type { RootState } from '../store/store';

/** An entry of the shelf: the head of a day, or a document. */
export type ShelfRow = { kind: 'day'; key: string; at: string } | { kind: 'document'; key: string; summary: Summary };

const byAge = (a: Summary, b: Summary) => (a.createdAt < b.createdAt ? 1 : a.createdAt > b.createdAt ? -1 : 0);

/** All documents that are not in the bin, the newest first. */
export const documentsOnShelf = createSelector([(s: RootState) => s.library.summary], (summary) =>
  Object.values(summary)
    .filter((d) => !d.deletedAt)
    .sort(byAge),
);

/** Documents with pages that need a look. */
export const doubtfulOnShelf = createSelector([documentsOnShelf], (all) => all.filter((d) => d.doubts > 0));

/** The day of an instant in local time, as a number: quick, for ten thousand of them. */
function dayOf(iso: string): number {
  const ms = Date.parse(iso);
  return Math.floor((ms - offsetMs(ms)) / 86_400_000);
}
const offsets = new Map<number, number>();
/** Asked once for an hour: it changes at full hours only. */
function offsetMs(ms: number): number {
  const hour = Math.floor(ms / 3_600_000);
  let offset = offsets.get(hour);
  if (offset === undefined) offsets.set(hour, (offset = new Date(ms).getTimezoneOffset() * 60_000));
  return offset;
}

const small = new WeakMap<Summary, string>();
function smallName(summary: Summary): string {
  let name = small.get(summary);
  if (name === undefined) small.set(summary, (name = summary.name.toLowerCase()));
  return name;
}

/** The shelf's rows: those whose name holds every word of the query, by day. */
export function shelfRows(documents: readonly Summary[], query: string): ShelfRow[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const rows: ShelfRow[] = [];
  let day: number | null = null;
  for (const summary of documents) {
    if (words.length && !words.every((w) => smallName(summary).includes(w))) continue;
    const its = dayOf(summary.createdAt);
    if (its !== day) {
      day = its;
      rows.push({ kind: 'day', key: `day-${its}`, at: summary.createdAt });
    }
    rows.push({ kind: 'document', key: summary.id, summary });
  }
  return rows;
}
