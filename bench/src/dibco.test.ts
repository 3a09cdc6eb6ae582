import { dibco } from './dibco';

const ink = (row: string) => Uint8Array.from(row, (c) => +(c === '#'));

test('F-measure is the harmonic mean of recall and precision, PSNR that of a wrong pixel as 1 (definitions of DIBCO 2009)', () => {
  // 4 of 6 ink pixels found, 1 wrong: recall 4/6, precision 4/5.
  const { fMeasure, psnr } = dibco(ink('######....'), ink('####..#...'));
  expect(fMeasure).toBeCloseTo((200 * (4 / 6) * (4 / 5)) / (4 / 6 + 4 / 5), 6);
  expect(psnr).toBeCloseTo(10 * Math.log10(1 / 0.3), 6);
});

test('the same page is 100 %, nothing found is 0', () => {
  expect(dibco(ink('#.#'), ink('#.#')).fMeasure).toBe(100);
  expect(dibco(ink('#.#'), ink('...')).fMeasure).toBe(0);
  expect(() => dibco(ink('#'), ink('##'))).toThrow('received 1 and 2');
});
