import { createRaster, type Raster } from '../raster/raster';
import { enhance } from './enhance';
import { estimateLight } from './light';

/** A sheet wholly of one colour, with black print. */
function sheetOf(colour: readonly number[]): Raster {
  const page = createRaster(420, 594, 3);
  for (let y = 0; y < 594; y++)
    for (let x = 0; x < 420; x++) {
      const print = x > 40 && x < 380 && y > 40 && y < 550 && y % 18 < 3 && (x * 13) % 29 < 17;
      page.data.set(print ? [18, 18, 18] : colour, (y * 420 + x) * 3);
    }
  return page;
}
const at = (r: Raster, x: number, y: number) => [
  ...r.data.slice((y * r.width + x) * r.channels, (y * r.width + x + 1) * r.channels),
];

describe.each([
  ['process cyan', [0, 174, 239]],
  ['process yellow', [255, 242, 0]],
  ['green', [0, 160, 80]],
  ['pure red', [255, 0, 0]],
  ['black', [0, 0, 0]],
  ['blue with no green', [40, 0, 200]],
])('a sheet of saturated paper, %s,', (_, colour) => {
  const page = sheetOf(colour);
  test('has a light of finite numbers', () => {
    const { balance, own, tint, paper } = estimateLight(page);
    expect([...balance, ...own, tint, ...paper.data].every(Number.isFinite)).toBe(true);
  });
  test('keeps its colour under even light', () => {
    const made = at(enhance(page, 'even-light', { dpi: 50 }), 210, 40);
    const share = (c: readonly number[]) => c.map((v) => v / Math.max(1, ...c));
    expect(Math.max(...share(made).map((v, c) => Math.abs(v - share(colour)[c])))).toBeLessThan(0.25);
  });
});
