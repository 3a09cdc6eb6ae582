/** A span of days in local time, from the first instant to the one after the last, ms. */
export interface When {
  from: number;
  to: number;
  /** What else was asked for. */
  rest: string;
}

type Day = readonly [year: number, month: number, day: number];
const start = ([y, m, d]: Day) => new Date(y, m, d).getTime();

/**
 * What days words speak of: ISO 8601 dates as far as they go (2026, 2026-11, 2026-11-20), "today", "last week", a month with or without its year, a day
 * of the week. A week begins on Monday (ISO 8601); without a year it is the latest such month, or day, that has begun.
 *
 * @param locale of the names of months and days.
 * @returns null where no day is spoken of.
 */
export function readWhen(words: string, now: Date, locale = 'en'): When | null {
  const asked = words.toLowerCase().replace(/\s+/g, ' ').trim();
  const [y, m, d] = [now.getFullYear(), now.getMonth(), now.getDate()];
  const within = (said: string, from: Day, to: Day): When => ({ from: start(from), to: start(to), rest: asked.replace(said, ' ').replace(/\s+/g, ' ').trim() }); // prettier-ignore
  const iso = /(?:^|\s)((\d{4})-(\d{2})(?:-(\d{2}))?)(?=$|\s)/.exec(asked);
  if (iso) {
    const [year, month, day] = [Number(iso[2]), Number(iso[3]) - 1, Number(iso[4] ?? 1)];
    const real = month >= 0 && month < 12 && new Date(year, month, day).getDate() === day;
    if (real) return within(iso[1]!, [year, month, day], iso[4] ? [year, month, day + 1] : [year, month + 1, 1]);
  }
  // Monday first.
  const monday = d - ((now.getDay() + 6) % 7);
  const phrases: Record<string, [Day, Day]> = {
    today: [[y, m, d], [y, m, d + 1]],
    yesterday: [[y, m, d - 1], [y, m, d]],
    'this week': [[y, m, monday], [y, m, monday + 7]],
    'last week': [[y, m, monday - 7], [y, m, monday]],
    'this month': [[y, m, 1], [y, m + 1, 1]],
    'last month': [[y, m - 1, 1], [y, m, 1]],
    'this year': [[y, 0, 1], [y + 1, 0, 1]],
    'last year': [[y - 1, 0, 1], [y, 0, 1]],
  }; // prettier-ignore
  for (const [phrase, [from, to]] of Object.entries(phrases))
    if (` ${asked} `.includes(` ${phrase} `)) return within(phrase, from, to);
  const list = asked.split(' ');
  for (const { name, month } of monthNames(locale)) {
    const at = list.indexOf(name);
    if (at < 0) continue;
    const year = /^\d{4}$/.test(list[at + 1] ?? '') ? Number(list[at + 1]) : month > m ? y - 1 : y;
    return within(
      list.slice(at, at + 1 + Number(list[at + 1] === String(year))).join(' '),
      [year, month, 1],
      [year, month + 1, 1],
    );
  }
  const year = list.find((word) => /^(19|20)\d\d$/.test(word));
  if (year) return within(year, [Number(year), 0, 1], [Number(year) + 1, 0, 1]);
  for (const { name, weekday } of dayNames(locale))
    if (list.includes(name)) {
      const back = (((now.getDay() - weekday) % 7) + 7) % 7;
      return within(name, [y, m, d - back], [y, m, d - back + 1]);
    }
  return null;
}

/** Names of one letter or two would be found everywhere. */
const leastLetters = 3;
const names = (locale: string, options: Intl.DateTimeFormatOptions, at: (i: number) => Date, count: number) => {
  const format = new Intl.DateTimeFormat(locale, options);
  return Array.from({ length: count }, (_, i) => [format.format(at(i)).toLowerCase().replace('.', ''), i] as const).filter(([name]) => name.length >= leastLetters); // prettier-ignore
};
/** They are asked for at every letter of a search, and take some milliseconds to make. */
function onceEach<T>(make: (locale: string) => T): (locale: string) => T {
  const made = new Map<string, T>();
  return (locale) => {
    const known = made.get(locale) ?? make(locale);
    made.set(locale, known);
    return known;
  };
}
const monthNames = onceEach((locale) => {
  const at = (i: number) => new Date(2026, i, 1);
  return [...names(locale, { month: 'long' }, at, 12), ...names(locale, { month: 'short' }, at, 12)].map(([name, month]) => ({ name, month })); // prettier-ignore
});
const dayNames = onceEach((locale) => {
  // 1 November 2026 was a Sunday.
  const at = (i: number) => new Date(2026, 10, 1 + i);
  return names(locale, { weekday: 'long' }, at, 7).map(([name, weekday]) => ({ name, weekday }));
});
