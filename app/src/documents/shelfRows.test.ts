import { summarise, type Document, type Folder } from '@libretto/model';
import { aDelivery, aDocument, aPage } from '../testing/records';
import { inCovers, shelfRows, type ShelfRow, type ShelfView } from './shelfRows';

const at = '2026-01-01T00:00:00.000Z';
const folder = (id: string, name: string, parent: string | null = null): Folder => ({ id, name, parent, createdAt: at });
const folders = Object.fromEntries(
  [folder('folder-boats', 'Boats'), folder('folder-wren', 'Wren', 'folder-boats'), folder('folder-money', 'Money')].map((f) => [
    f.id,
    f,
  ]),
);
const document = (name: string, createdAt: string, part: Partial<Document> = {}, pages = 1, sent = false) => {
  const its = Array.from({ length: pages }, (_, i) => aPage(`${name}-${i}`));
  const proof = { where: 'Yard records', at, bytes: 1, sha256: 'ab'.repeat(32), how: 'read-back' as const, receipt: '' };
  return summarise(
    aDocument(its.map((p) => p.id), { id: name, name, createdAt, changedAt: createdAt, ...part }),
    its,
    sent ? [aDelivery('delivery-1', { state: 'arrived', proof })] : [],
  ); // prettier-ignore
};
const all = [
  document('Timber docket', '2026-11-20T10:00:00.000Z', { tags: ['wood'] }),
  document('Hull survey Wren', '2026-11-20T09:00:00.000Z', { folder: 'folder-wren' }, 3, true),
  document('Lost', '2026-11-19T09:00:00.000Z', { folder: 'folder-gone' }),
  document('Hull survey Heron', '2026-11-03T09:00:00.000Z', { folder: 'folder-boats' }),
];
const now = new Date('2026-11-21T12:00:00');
const whole: ShelfView = { folder: null, query: '', order: 'newest', filter: null, tag: null };
const kinds = (view: Partial<ShelfView>, hits?: ReadonlySet<string>) =>
  shelfRows(all, folders, { ...whole, ...view }, { now, ...(hits && { hits }) }).map((r) =>
    r.kind === 'day' ? '-' : r.kind === 'folder' ? `${r.folder.name} ${r.documents}` : r.summary.name,
  );

test('folders come first, then what is filed in none, by day; a folder that is gone holds nothing back', () =>
  expect(kinds({})).toEqual(['Boats 2', 'Money 0', '-', 'Timber docket', '-', 'Lost']));

test('a folder shows its own', () => expect(kinds({ folder: 'folder-boats' })).toEqual(['Wren 1', '-', 'Hull survey Heron']));

test.each<[string, string[]]>([
  ['every word, in any order, in every folder', ['wren HULL', 'Hull survey Wren']],
  ['tags', ['wood', 'Timber docket']],
  ['names of folders above', ['boats heron', 'Hull survey Heron']],
  ['days', ['yesterday', 'Timber docket', 'Hull survey Wren']],
  ['days and words', ['november heron', 'Hull survey Heron']],
  ['a month by ISO 8601', ['2026-10']],
])('looked for: %s', (_, [query, ...names]) => expect(kinds({ query: query! }).filter((k) => k !== '-')).toEqual(names));

test('a folder is found by its name, and what lies in it too', () =>
  expect(kinds({ query: 'boats' })).toEqual(['Boats 2', '-', 'Hull survey Wren', '-', 'Hull survey Heron']));

test('looking within a folder stays within it', () => expect(kinds({ folder: 'folder-money', query: 'hull' })).toEqual([]));

test('filters look into every folder', () => {
  expect(kinds({ filter: 'unsent' }).filter((k) => k !== '-')).toEqual(['Timber docket', 'Lost', 'Hull survey Heron']);
  expect(kinds({ filter: 'week' }).filter((k) => k !== '-')).toEqual(['Timber docket', 'Hull survey Wren', 'Lost']);
  expect(kinds({ tag: 'wood' })).toEqual(['-', 'Timber docket']);
});

test('weeks begin on Mondays, months on their first', () => {
  // 16 and 22 November 2026 are the Monday and the Sunday of week 47, the 23rd is the next Monday (ISO 8601).
  const days = ['2026-11-23T09:00:00', '2026-11-22T23:30:00', '2026-11-16T00:30:00', '2026-11-15T12:00:00', '2026-11-01T00:10:00', '2026-10-31T23:50:00'];
  const some = days.map((day) => document(day.slice(5, 10), new Date(day).toISOString()));
  const by = (group: 'week' | 'month') => shelfRows(some, {}, { ...whole, group }, { now }).map((r) => (r.kind === 'document' ? r.summary.name : '-')).join(' ');
  expect(by('week')).toBe('- 11-23 - 11-22 11-16 - 11-15 - 11-01 10-31');
  expect(by('month')).toBe('- 11-23 11-22 11-16 11-15 11-01 - 10-31');
}); // prettier-ignore

test('by name and by pages there are no days', () => {
  expect(kinds({ query: 'hull', order: 'name' })).toEqual(['Hull survey Heron', 'Hull survey Wren']);
  expect(kinds({ query: 'hull', order: 'pages' })).toEqual(['Hull survey Wren', 'Hull survey Heron']);
  expect(kinds({ query: 'hull', order: 'oldest' })).toEqual(['-', 'Hull survey Heron', '-', 'Hull survey Wren']);
});

test('a document on whose pages the words stand is found', () =>
  expect(kinds({ query: 'bilge' }, new Set(['Lost']))).toEqual(['-', 'Lost']));

test('as covers, documents of one day stand beside each other; folders and days stay rows', () => {
  const document = (id: string): ShelfRow => ({ kind: 'document', key: id, summary: { id } as never });
  const day = (n: number): ShelfRow => ({ kind: 'day', key: `day-${n}`, at: '', group: 'day' });
  const rows = [day(1), document('a'), document('b'), document('c'), day(2), document('d')];
  expect(inCovers(rows, 2).map((row) => (row.kind === 'covers' ? row.summaries.map((s) => s.id).join('') : row.key))).toEqual([
    'day-1', 'ab', 'c', 'day-2', 'd',
  ]); // prettier-ignore
});
