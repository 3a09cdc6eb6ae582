import type { Raster } from '../raster/raster';
import { printedSheet } from '../testing/pictures';
import { chooseFilter } from './auto';
import { enhance } from './enhance';
import { estimateLight } from './light';

const [width, height] = [840, 1188];
type Box = readonly [x0: number, y0: number, x1: number, y1: number];
const inside = (x: number, y: number, [x0, y0, x1, y1]: Box) => x >= x0 && x < x1 && y >= y0 && y < y1;

/** A printed sheet with a box in a pale tint and words in it, under a lamp from the left. */
function sheet(box: Box, tint: readonly [number, number, number], { noise = 4, blurred = 0 } = {}): Raster {
  const page = printedSheet(
    width,
    height,
    (x, y) => {
      if (!inside(x, y, box)) return null;
      const word = y > box[1] + 14 && y < box[1] + 24 && x % 120 > 20 && x % 120 < 80 && (x * 13) % 29 < 13;
      return word ? [40, 40, 44] : tint;
    },
    { noise },
  );
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++, p++) {
        // A shadow has soft sides where the box's are sharp.
        const within = Math.min(x - box[0], box[2] - x, y - box[1], box[3] - y);
        const soft = blurred ? 1 - 0.12 / (1 + Math.exp(-within / blurred)) : 1;
        page.data[p] *= (0.95 - (0.2 * x) / width) * soft;
      }
  return page;
}

const header: Box = [100, 300, 740, 338];
const beige = [214, 205, 190] as const;
const meanAt = ({ data, width: w, channels }: Raster, x0: number, y0: number, c = 0) => {
  let sum = 0;
  for (let y = y0; y < y0 + 6; y++)
    for (let x = x0; x < x0 + 6; x++) sum += data[(y * w + x) * channels + Math.min(c, channels - 1)];
  return sum / 36;
};

describe('a row in a pale tint', () => {
  test('keeps its tint and colour, the paper beside it is white, and the words in it are dark', () => {
    const page = sheet(header, beige);
    const light = estimateLight(page);
    expect(light.tints).not.toBeNull();
    const out = enhance(page, 'even-light');
    for (const x of [110, 400, 725]) {
      expect(meanAt(out, x, 302)).toBeGreaterThan(215);
      expect(meanAt(out, x, 302)).toBeLessThan(250);
      expect(meanAt(out, x, 302) - meanAt(out, x, 302, 2)).toBeGreaterThan(12);
    }
    for (const x of [60, 760]) expect(meanAt(out, x, 302)).toBeGreaterThan(253);
    const words = [...out.data.subarray(320 * width * 3, 321 * width * 3)].filter((_, i) => i % 3 === 0);
    expect(Math.min(...words)).toBeLessThan(80);
    expect(chooseFilter(page, light)).toMatchObject({ filter: 'even-light', why: 'coloured areas' });
  });

  test('in grey is grey; in Ink it is paper, so that its words stay whole', () => {
    const page = sheet(header, beige);
    expect(meanAt(enhance(page, 'grey'), 400, 302)).toBeLessThan(250);
    const ink = enhance(page, 'ink', { dpi: 300 });
    expect([...new Set(ink.data.subarray(304 * width + 110, 304 * width + 730))]).toEqual([255]);
  });

  test('may be a field: the light under it is that of the paper around', () => {
    const out = enhance(sheet([200, 300, 400, 420], [216, 200, 176]), 'even-light');
    for (const [x, y] of [
      [204, 340],
      [300, 360],
      [390, 410],
    ] as const)
      // prettier-ignore
      expect(meanAt(out, x, y) - meanAt(out, x, y, 2)).toBeGreaterThan(20);
  });
});

test.each([
  ['a shadow with soft sides', sheet(header, [229, 227, 222], { blurred: 8 })],
  ['a plain sheet', sheet(header, [229, 227, 222])],
  ['a strip too narrow for a row', sheet([100, 300, 740, 306], beige)],
  ['a band from side to side, as folds and shadows make', sheet([0, 300, 840, 338], beige)],
])('%s is no tint', (_, page) => {
  expect(estimateLight(page).tints).toBeNull();
});
