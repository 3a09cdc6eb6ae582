import type { Point, Quad } from '../raster/raster';
import type { Outline } from './outline';
import { inReadingOrder } from './readingOrder';

/** A card about a point of the photo, slightly askew, its corners beginning at its own top left after quarter turns. */
function card(x: number, y: number, quarters = 0): Outline {
  const corners: Point[] = [[-90, -58], [92, -50], [88, 60], [-94, 52]]; // prettier-ignore
  const quad = corners.map(([dx, dy]): Point => [x + dx, y + dy]);
  return { quad: quad.map((_, i) => quad[(i + 4 - quarters) % 4]!) as unknown as Quad, confidence: x / 1000 };
}
const four = (quarters: number) => [card(110, 330, quarters), card(420, 360, quarters), card(400, 90, quarters), card(100, 120, quarters)]; // prettier-ignore
const places = (outlines: readonly Outline[]) => inReadingOrder(outlines).map((o) => outlines.indexOf(o));

test('four cards that were found in any order come by rows, then across', () => expect(places(four(0))).toEqual([3, 2, 0, 1]));

test('cards that lie sideways or upside down in the photo come in their own order', () => {
  // Their top side runs down the photo: the first row is the photo's right column.
  expect(places(four(3))).toEqual([2, 1, 3, 0]);
  expect(places(four(2))).toEqual([1, 0, 2, 3]);
});

test('a narrow receipt beside a tall sheet is in its row; one below it is not', () => {
  const sheet: Outline = { quad: [[20, 20], [320, 20], [320, 440], [20, 440]], confidence: 1 }; // prettier-ignore
  const beside: Outline = { quad: [[360, 150], [440, 150], [440, 330], [360, 330]], confidence: 1 }; // prettier-ignore
  const below: Outline = { quad: [[30, 460], [130, 460], [130, 600], [30, 600]], confidence: 1 }; // prettier-ignore
  expect(places([below, beside, sheet])).toEqual([2, 1, 0]);
});

test('one page, or none', () => {
  expect(inReadingOrder([])).toEqual([]);
  expect(places([card(5, 5)])).toEqual([0]);
});
