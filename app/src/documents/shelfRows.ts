import { createSelector } from '@reduxjs/toolkit';
import {
  foldersIn,
  pathTo,
  readWhen,
  withinFolder,
  type Folder,
  type ShelfGroup,
  type ShelfOrder,
  type ShelfRecord,
  type Summary,
} from '@libretto/model';
import { tagsInUse } from '../store/filing';
import type { RootState } from '../store/store';
import { onceWanted } from '../ui/words/onceWanted';
import { locale } from '../ui/words/words';

/** An entry of the shelf: a folder, the head of a day, or a document. */
export type ShelfRow =
  | { kind: 'folder'; key: string; folder: Folder; documents: number }
  | { kind: 'day'; key: string; at: string; group: ShelfGroup }
  | { kind: 'document'; key: string; summary: Summary };

export const shelfFilters = ['unsent', 'attention', 'week'] as const;
export type ShelfFilter = (typeof shelfFilters)[number];

/** What of the shelf is wanted. */
export interface ShelfView {
  /** The folder that is open; null: the shelf itself. */
  folder: string | null;
  query: string;
  order: ShelfOrder;
  /** Without it, by days. */
  group?: ShelfGroup;
  filter: ShelfFilter | null;
  tag: string | null;
}

const later = (a: string, b: string) => (a < b ? 1 : a > b ? -1 : 0);
const byAge = (a: Summary, b: Summary) => later(a.createdAt, b.createdAt);

/** All documents that are not in the bin, the newest first. */
export const documentsOnShelf = createSelector([(s: RootState) => s.library.summary], (summary) =>
  Object.values(summary)
    .filter((d) => !d.deletedAt)
    .sort(byAge),
);

/** Documents in the bin, those that came last first. One that is empty is what a step left over that was taken back. */
export const documentsInBin = createSelector([(s: RootState) => s.library.summary], (summary) =>
  Object.values(summary)
    .filter((d) => d.deletedAt && d.pages)
    .sort((a, b) => later(a.deletedAt!, b.deletedAt!)),
);

/** Documents with pages that need a look. */
export const doubtfulOnShelf = createSelector([documentsOnShelf], (all) => all.filter((d) => d.doubts > 0));

/** All tags in use, those used most first; worked out only when documents change. */
export const tagsOnShelf = createSelector([documentsOnShelf], tagsInUse);

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

/** What an instant's stretch of time is called, as a number; weeks begin on Mondays (ISO 8601), as the first of January 1970 was a Thursday. */
const groups: Record<ShelfGroup, (day: number, at: string) => number> = {
  day: (day) => day,
  week: (day) => Math.floor((day + 3) / 7),
  month: (day) => {
    const date = new Date(day * 86_400_000);
    return date.getUTCFullYear() * 12 + date.getUTCMonth();
  },
};

const found = new WeakMap<Summary, string>();
/** What a document is found by: its name and its tags. */
function foundBy(summary: Summary): string {
  let text = found.get(summary);
  if (text === undefined) found.set(summary, (text = [summary.name, ...(summary.tags ?? [])].join(' ').toLowerCase()));
  return text;
}

const collator = onceWanted(() => new Intl.Collator(locale, { numeric: true, sensitivity: 'base' }));
const orders: Record<ShelfOrder, ((a: Summary, b: Summary) => number) | null> = {
  newest: null,
  oldest: (a, b) => -byAge(a, b),
  changed: (a, b) => later(a.changedAt, b.changedAt),
  name: (a, b) => collator().compare(a.name, b.name),
  pages: (a, b) => b.pages - a.pages,
};

const passes: Record<ShelfFilter, (d: Summary, week: number) => boolean> = {
  unsent: (d) => d.fate.code !== 'arrived',
  attention: (d) => d.fate.code === 'failed' || d.doubts > 0,
  week: (d, week) => Date.parse(d.createdAt) >= week,
};

/** Whether documents of all folders below are shown, and not those of one folder. */
export const looksBelow = ({ query, filter, tag }: ShelfView) => query.trim() !== '' || filter !== null || tag !== null;

/**
 * The shelf's rows: a folder's own folders and documents; where something is looked for, what fits of all that lies in it at any depth. Words are looked
 * for in names, tags and names of folders; words that speak of days also by when a document was made.
 *
 * @param documents the newest first.
 * @param hits documents on whose pages the words stand.
 */
export function shelfRows(
  documents: readonly Summary[],
  folders: ShelfRecord['folders'],
  view: ShelfView,
  { now = new Date(), hits }: { now?: Date; hits?: ReadonlySet<string> } = {},
): ShelfRow[] {
  const { folder, query, order, group = 'day', filter, tag } = view;
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const below = looksBelow(view);
  const inside = folder ? withinFolder(folders, folder) : null;
  const when = words.length ? readWhen(query, now, locale) : null;
  const rest = when ? when.rest.split(' ').filter(Boolean) : [];
  const week = readWhen('this week', now)!.from;
  const ways = new Map<string, string>();
  const wayTo = (id: string | undefined) => {
    if (!id) return '';
    let way = ways.get(id);
    if (way === undefined) ways.set(id, (way = ` ${pathTo(folders, id).map((f) => f.name).join(' ').toLowerCase()}`)); // prettier-ignore
    return way;
  };
  const fits = (d: Summary): boolean => {
    const its = d.folder && folders[d.folder] ? d.folder : null;
    if (below ? inside && !(its && inside.has(its)) : its !== folder) return false;
    if (filter && !passes[filter](d, week)) return false;
    if (tag && !d.tags?.includes(tag)) return false;
    if (!words.length || hits?.has(d.id)) return true;
    const text = foundBy(d) + wayTo(d.folder);
    if (words.every((w) => text.includes(w))) return true;
    const at = when ? Date.parse(d.createdAt) : 0;
    return when !== null && at >= when.from && at < when.to && rest.every((w) => text.includes(w));
  };
  const rows: ShelfRow[] = [];
  const count = new Map<string, number>();
  for (const d of documents) for (const { id } of pathTo(folders, d.folder)) count.set(id, (count.get(id) ?? 0) + 1);
  const its = below
    ? filter || tag
      ? []
      : Object.values(folders).filter(
          (f) => (inside ? inside.has(f.id) && f.id !== folder : true) && words.every((w) => f.name.toLowerCase().includes(w)),
        )
    : foldersIn(folders, folder);
  for (const each of its) rows.push({ kind: 'folder', key: each.id, folder: each, documents: count.get(each.id) ?? 0 });
  const shown = documents.filter(fits);
  const compare = orders[order];
  if (compare) shown.sort(compare);
  const byDay = order === 'newest' || order === 'oldest' || order === 'changed';
  let day: number | null = null;
  for (const summary of shown) {
    const at = order === 'changed' ? summary.changedAt : summary.createdAt;
    const dayNow = groups[group](dayOf(at), at);
    if (byDay && dayNow !== day) rows.push({ kind: 'day', key: `${group}-${dayNow}`, at, group });
    day = dayNow;
    rows.push({ kind: 'document', key: summary.id, summary });
  }
  return rows;
}

/** Documents that follow each other stand so many in a row. */
export function inCovers(rows: readonly ShelfRow[], columns: number): (ShelfRow | CoversRow)[] {
  const out: (ShelfRow | CoversRow)[] = [];
  for (const row of rows) {
    const last = out.at(-1);
    if (row.kind !== 'document') out.push(row);
    else if (last?.kind === 'covers' && last.summaries.length < columns) last.summaries.push(row.summary);
    else out.push({ kind: 'covers', key: `covers-${row.key}`, summaries: [row.summary] });
  }
  return out;
}

export interface CoversRow {
  kind: 'covers';
  key: string;
  summaries: Summary[];
}
