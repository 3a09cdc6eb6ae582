import type { Quad } from '../raster/raster';
import { rotatedQuad } from './rotated';

const square: Quad = [[0, 0], [100, 0], [100, 100], [0, 100]]; // prettier-ignore

test('turned by a quarter a square is itself, begun one corner further', () => {
  const quarter = [[100, 0], [100, 100], [0, 100], [0, 0]]; // prettier-ignore
  rotatedQuad(square, 90, 1).forEach((p, i) => p.forEach((v, k) => expect(v).toBeCloseTo(quarter[i][k], 5)));
  rotatedQuad(square, 0, 1).forEach((p, i) => p.forEach((v, k) => expect(v).toBeCloseTo(square[i][k], 5)));
});

test('turned by an angle a page keeps its true size', () => {
  const page: Quad = [[0, 0], [210, 0], [210, 297], [0, 297]]; // prettier-ignore
  const turned = rotatedQuad(page, 7, 210 / 297);
  const side = (a: number, b: number) => Math.hypot(turned[a][0] - turned[b][0], turned[a][1] - turned[b][1]);
  expect(side(0, 1)).toBeCloseTo(210, 6);
  expect(side(1, 2)).toBeCloseTo(297, 6);
  expect((Math.atan2(turned[1][1] - turned[0][1], turned[1][0] - turned[0][0]) * 180) / Math.PI).toBeCloseTo(7, 6);
});
