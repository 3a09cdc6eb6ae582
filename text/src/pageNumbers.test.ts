import { orderSaid, pageNumberOf } from './pageNumbers';

const line = (text: string, y: number) => ({
  words: text.split(' ').map((word, i) => ({ text: word, box: { x: 10 * i, y, width: 9, height: 3 } })),
});

test.each([
  ['Saltmarsh Quay - survey 26-114 . page 1of 3', 285, { number: 1, of: 3 }],
  ['Seite 2 von 4', 285, { number: 2, of: 4 }],
  ['2/5', 5, { number: 2, of: 5 }],
  ['– 3 –', 288, { number: 3, of: null }],
  ['44', 288, { number: 44, of: null }],
  ['page 7', 4, { number: 7, of: null }],
  ['2 of 4 readings were taken again', 285, null],
  ['page 5 of 3', 285, null],
  ['44', 150, null],
  ['0', 288, null],
] as const)('“%s” at %i mm', (text, y, number) =>
  expect(pageNumberOf([line('Hull survey', 40), line(text, y)], 297)).toEqual(number),
);

const pages = (...numbers: (number | null)[]) => numbers.map((number) => (number === null ? null : { number, of: null }));

test('what is missing, and another order', () => {
  expect(orderSaid(pages(1, 2, 4))).toEqual({ missing: [3], order: null });
  expect(
    orderSaid([
      { number: 1, of: 3 },
      { number: 2, of: 3 },
    ]),
  ).toEqual({ missing: [3], order: null });
  expect(orderSaid(pages(3, 1, 2))).toEqual({ missing: [], order: [1, 2, 0] });
  // A back without a number stays behind its front, and may be the missing one.
  expect(orderSaid(pages(5, null, 1, 3))).toEqual({ missing: [2, 4], order: [2, 3, 0, 1] });
  expect(orderSaid(pages(1, null, 3))).toEqual({ missing: [], order: null });
});

test('nothing is said where numbers contradict each other, are far apart, or too few', () => {
  const nothing = { missing: [], order: null };
  expect(orderSaid(pages(1, 1, 2))).toEqual(nothing);
  expect(orderSaid(pages(12, 2026))).toEqual(nothing);
  expect(orderSaid(pages(2, null, null, null))).toEqual(nothing);
  expect(
    orderSaid([
      { number: 1, of: 2 },
      { number: 2, of: 9 },
    ]),
  ).toEqual(nothing);
  expect(orderSaid([])).toEqual(nothing);
});
