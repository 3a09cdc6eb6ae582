import { bentAsItsLines, withItsLines } from '../find/wholePhoto';
import { createRaster, wholeQuad, type Point, type Raster } from '../raster/raster';
import { render } from '../recipe/render';
import { printedSheet } from '../testing/pictures';
import { textBend } from './bend';

const sheet = printedSheet(560, 800);

/** The sheet with each column moved down by `by` (shares of the height, by shares of width and height). */
function bentBy(page: Raster, by: (u: number, v: number) => number): Raster {
  const { width, height, data } = page;
  const target = createRaster(width, height, 3);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = Math.max(0, Math.min(height - 2, y - by(x / width, y / height) * height));
      const [row, share] = [Math.floor(from), from - Math.floor(from)];
      for (let c = 0; c < 3; c++, p++) {
        const q = (row * width + x) * 3 + c;
        target.data[p] = data[q] * (1 - share) + data[q + width * 3] * share;
      }
    }
  return target;
}

const arch = (u: number) => 0.05 * (4 * (u - 0.5) ** 2 - 1);

test.each([
  ['an arch', arch, 0.05],
  ['lines that rise towards the gutter', (u: number) => -0.04 * u ** 3, 0.015],
  ['more at the foot than at the head', (u: number, v: number) => arch(u) * (0.4 + 0.8 * v), 0.045],
  ['at the head only', (u: number, v: number) => 1.6 * arch(u) * (1 - v), 0.05],
  ['one way at the head, the other at the foot', (u: number, v: number) => 1.8 * arch(u) * (1 - 1.6 * v), 0.05],
])('%s is followed to a fifth of a line', (_, by, most) => {
  const bend = textBend(bentBy(sheet, by))!;
  expect(bend.gain).toBeGreaterThan(1.3);
  expect(bend.most).toBeGreaterThan(0.5 * most);
  // Where lines run level is free: what is compared is how far they are from there.
  for (const v of [0.2, 0.5, 0.8]) {
    const off = [0.2, 0.35, 0.5, 0.65, 0.8].map((u) => bend.at(u, v) - by(u, v));
    expect(Math.max(...off) - Math.min(...off)).toBeLessThan(0.006);
  }
});

test('straight lines are straight, also where they lean', () => {
  for (const by of [() => 0, (u: number) => 0.03 * u]) {
    const bend = textBend(bentBy(sheet, by))!;
    expect(bend.most).toBeLessThan(0.003);
    expect(bend.gain).toBeLessThan(1.25);
  }
});

test('without print there is nothing to tell by', () => {
  const empty = createRaster(300, 400, 1);
  empty.data.fill(236);
  expect(textBend(empty)).toBeNull();
});

test('above and below the print bends go on as they change within it', () => {
  const by = (u: number, v: number) => 1.5 * arch(u) * (1 - 1.2 * v);
  const upperHalf = bentBy(sheet, by);
  upperHalf.data.fill(250, Math.round(upperHalf.data.length * 0.55));
  const bend = textBend(upperHalf)!;
  const off = [0.2, 0.35, 0.5, 0.65, 0.8].map((u) => bend.at(u, 0.95) - by(u, 0.95));
  expect(Math.max(...off) - Math.min(...off)).toBeLessThan(0.012);
});

describe('a page that is photographed closer than its edges', () => {
  const close = bentBy(sheet, arch);
  const { quad, polygon } = withItsLines(close, wholeQuad(close), 1);

  test('gets an outline that bends with its lines and holds all of the photo', () => {
    const inside = ([x, y]: Point) => x > 0.5 && x < close.width - 1.5 && y > 0.5 && y < close.height - 1.5;
    expect(polygon!.length % 4).toBe(0);
    expect(polygon!.filter(inside)).toEqual([]);
    const middle = polygon![polygon!.length / 8]!;
    expect(middle[1]).toBeLessThan(Math.min(quad[0][1], quad[1][1]) - 0.02 * close.height);
  });

  test('comes out with level lines', () => {
    const { image } = render(close, { quad, polygon: polygon!, sidesFrom: 'lines', turn: 0, filter: 'grey' });
    expect(textBend(close)!.most).toBeGreaterThan(0.02);
    expect(textBend(image)!.most).toBeLessThan(0.004);
  });

  test('and where its lines are straight its outline is', () => {
    expect(withItsLines(sheet, wholeQuad(sheet), 1)).toEqual({ quad: wholeQuad(sheet) });
    expect(bentAsItsLines(sheet, wholeQuad(sheet))).toBeNull();
    expect(bentAsItsLines(close, wholeQuad(close))!.polygon).toHaveLength(polygon!.length);
  });
});
