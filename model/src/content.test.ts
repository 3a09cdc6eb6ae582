import { dateIn, decimalOf, numberIn } from './content';

// Ways of writing numbers: Unicode CLDR, numbers of en, de, fr, de-CH; from memory.
test.each([
  ['1,204.50', '.', 1204.5],
  ['1.204,50', ',', 1204.5],
  ['1 204,50', ',', 1204.5],
  ['1\u202f204,50', ',', 1204.5],
  ['1’204.50', '.', 1204.5],
  ['−12.5', '.', -12.5],
  ['12.50-', '.', -12.5],
  ['€ 7,20', ',', 7.2],
  ['86.00', '.', 86],
  ['240', '.', 240],
] as const)('%s is a number', (text, decimal, value) => expect(numberIn(text, decimal)).toBe(value));

test.each([
  ['007', '.'],
  ['12 %', '.'],
  ['AB-17', '.'],
  ['1,20,4', '.'],
  ['3.4.5', '.'],
  ['26.03.2026', ','],
  ['', '.'],
] as const)('%s is none', (text, decimal) => expect(numberIn(text, decimal)).toBeNull());

test('decimals are told by cells that leave no choice, else by the language', () => {
  expect(decimalOf(['1.204', '3,5', 'Tar'])).toBe(',');
  expect(decimalOf(['1,204', '3.5'])).toBe('.');
  expect(decimalOf(['1,204', '3,500'], 'en')).toBe('.');
  expect(decimalOf(['1.204'], 'de')).toBe(',');
});

test('dates: ISO 8601, with points, with slashes where only one day can be meant', () => {
  const day = (text: string) => dateIn(text)?.toISOString().slice(0, 10) ?? null;
  expect(['2026-11-16', '16.11.2026', '16/11/2026', '11/16/2026', '03/04/2026', '31.02.2026', 'on 16.11.2026'].map(day)).toEqual([
    '2026-11-16', '2026-11-16', '2026-11-16', '2026-11-16', null, null, null,
  ]); // prettier-ignore
});
