import { readWhen } from './when';

const now = new Date(2026, 10, 29, 17, 20); // Sunday
const day = (ms: number) => {
  const at = new Date(ms);
  return [at.getFullYear(), at.getMonth() + 1, at.getDate()].join('-');
};
const span = (words: string, locale?: string) => {
  const when = readWhen(words, now, locale);
  return when && [day(when.from), day(when.to), when.rest];
};

// Dates by ISO 8601-1:2019, 5.2.2 (calendar dates, complete and of reduced precision); the week's first day by its 2.2.8 (Monday).
test.each([
  ['2026-11-20', '2026-11-20', '2026-11-21', ''],
  ['docket 2026-11', '2026-11-1', '2026-12-1', 'docket'],
  ['2025', '2025-1-1', '2026-1-1', ''],
  ['Today', '2026-11-29', '2026-11-30', ''],
  ['yesterday  survey', '2026-11-28', '2026-11-29', 'survey'],
  ['this week', '2026-11-23', '2026-11-30', ''],
  ['last week', '2026-11-16', '2026-11-23', ''],
  ['last month', '2026-10-1', '2026-11-1', ''],
  ['november', '2026-11-1', '2026-12-1', ''],
  ['hull dec', '2025-12-1', '2026-1-1', 'hull'],
  ['march 2024 receipt', '2024-3-1', '2024-4-1', 'receipt'],
  ['sunday', '2026-11-29', '2026-11-30', ''],
  ['monday', '2026-11-23', '2026-11-24', ''],
])('“%s” is from %s to %s', (words, from, to, rest) => expect(span(words)).toEqual([from, to, rest]));

test('names of months in another language', () => expect(span('März 2026', 'de')).toEqual(['2026-3-1', '2026-4-1', '']));

test.each(['hull survey', '2026-13', '2026-02-30', '12345', 'maybe', 'todays'])('“%s” speaks of no day', (words) =>
  expect(readWhen(words, now)).toBeNull(),
);
