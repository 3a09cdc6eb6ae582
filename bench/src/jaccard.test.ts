import type { Point } from '@libretto/core';
import { jaccard } from './jaccard';

const page: Point[] = [[100, 100], [310, 100], [310, 397], [100, 397]]; // prettier-ignore
const a4: [number, number] = [210, 297];

test('the same outline is 1, whichever corner it starts at', () => {
  expect(jaccard(page, page, a4)).toBeCloseTo(1, 9);
  expect(jaccard(page, [...page.slice(2), ...page.slice(0, 2)], a4)).toBeCloseTo(1, 9);
});

test('half the page is one half; beside it nothing', () => {
  expect(jaccard(page, [[100, 100], [205, 100], [205, 397], [100, 397]], a4)).toBeCloseTo(0.5, 9); // prettier-ignore
  expect(jaccard(page, page.map(([x, y]): Point => [x + 300, y]), a4)).toBe(0); // prettier-ignore
});

test('measured on the paper: in perspective a strip at the far end counts by its true size', () => {
  const far: Point[] = [[200, 100], [300, 100], [400, 500], [100, 500]]; // prettier-ignore
  // The diagonals meet at the middle of the sheet: cutting there halves the paper, though not the picture.
  const y = 100 + (400 * 100) / (100 + 300);
  const at = (side: 'l' | 'r'): Point => [side === 'l' ? 200 - (100 * (y - 100)) / 400 : 300 + (100 * (y - 100)) / 400, y];
  expect(jaccard(far, [far[0]!, far[1]!, at('r'), at('l')], a4)).toBeCloseTo(0.5, 9);
});

test('of a page that is cut off only what lies in the picture is judged, when that is wanted', () => {
  const half: Point[] = [[100, 100], [310, 100], [310, 300], [100, 300]]; // prettier-ignore
  const picture: [number, number] = [400, 300.5];
  expect(jaccard(page, half, a4)).toBeCloseTo(200 / 297, 2);
  expect(jaccard(page, half, a4, picture)).toBeCloseTo(1, 2);
  expect(jaccard(page, page, a4, picture)).toBeCloseTo(1, 9);
});
