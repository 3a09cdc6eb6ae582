import { createRaster, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { enhance, judge } from './enhance';
import { estimateLight, type Light } from './light';
import { deepened, mayGlare, palenessOf } from './pale';

const [width, height] = [900, 600];
const strokeAt = (x: number, y: number) => x > 60 && x < 840 && y > 60 && y < 540 && y % 70 < 26 && x % 46 < 6;
const glareAt = (x: number, y: number) => 90 * Math.exp(-((x - 640) ** 2 + (y - 300) ** 2) / (2 * 90 ** 2));

/** With all strokes made deep, as on a board. */
function deep(page: Raster, light: Light = estimateLight(page)): Raster {
  const { board, papers } = palenessOf(page, light);
  return deepened(page, light, board, papers);
}

/** A grey board with strokes of one pen, and a lamp's reflection that adds light to both. */
function board(pen: readonly number[], { glare = true, strokes = true, noise = 2 } = {}): Raster {
  const page = createRaster(width, height, 3);
  const next = random(5);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        const base = strokes && strokeAt(x, y) ? pen[c] : 150;
        page.data[(y * width + x) * 3 + c] = base + (glare ? glareAt(x, y) : 0) + (next() - 0.5) * 2 * noise;
      }
  return page;
}

/** How far the strokes within a box lie below what is round them, share of it. */
function depth(page: Raster, [x0, y0, x1, y1]: readonly number[]): number {
  let [ink, inks, paper, papers] = [0, 0, 0, 0];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const v = page.data[(y * width + x) * page.channels + 1];
      if (strokeAt(x, y)) {
        ink += v;
        inks++;
      } else if (!strokeAt(x - 3, y) && !strokeAt(x + 3, y)) {
        paper += v;
        papers++;
      }
    }
  return 1 - ink / inks / (paper / papers);
}
const inGlare = [600, 270, 690, 340] as const;
const outside = [70, 70, 250, 160] as const;

test('strokes in glare become as deep as those beside it; those stay', () => {
  const page = board([70, 60, 64]);
  const made = deep(page);
  expect(depth(page, inGlare)).toBeLessThan(0.45);
  expect(depth(made, inGlare)).toBeGreaterThan(0.52);
  expect(depth(made, outside)).toBeCloseTo(depth(page, outside), 1);
});

test('a dry pen becomes readable and keeps its hue', () => {
  const page = board([150, 118, 122], { glare: false });
  const made = enhance(page, 'board', { dpi: 60 });
  const at = (x: number, y: number) => [...made.data.slice((y * width + x) * 3, (y * width + x) * 3 + 3)];
  const [r, g] = at(141, 150);
  expect(strokeAt(141, 150)).toBe(true);
  expect(g).toBeLessThan(150);
  expect(r! - g!).toBeGreaterThan(60);
  expect(Math.min(...at(160, 150))).toBeGreaterThan(250);
});

test('a bare board stays bare, also where it is noisy and glares', () => {
  for (const noise of [2, 6]) {
    const page = board([0, 0, 0], { strokes: false, noise });
    const made = enhance(page, 'board', { dpi: 60 });
    let dirty = 0;
    for (let i = 0; i < made.data.length; i += 3) if (Math.min(made.data[i], made.data[i + 1], made.data[i + 2]) < 200) dirty++;
    expect(dirty / (width * height)).toBeLessThan(0.001);
  }
});

test('pages with an alpha channel and grey ones keep their channels', () => {
  const page = board([70, 60, 64]);
  const four = createRaster(width, height, 4);
  for (let i = 0; i < width * height; i++) four.data.set([...page.data.slice(i * 3, i * 3 + 3), 255], i * 4);
  const made = deep(four);
  expect([made.channels, made.data[3], made.data[4 * 5000 + 3]]).toEqual([4, 255, 255]);
  const grey = createRaster(width, height, 1);
  for (let i = 0; i < width * height; i++) grey.data[i] = page.data[i * 3 + 1];
  expect(depth(deep(grey), inGlare)).toBeGreaterThan(depth(grey, inGlare) + 0.08);
});

describe('glare on paper', () => {
  test('print in it becomes as deep as elsewhere', () => {
    const page = board([70, 60, 64]);
    const light = estimateLight(page);
    const { glare, papers } = palenessOf(page, light);
    const made = deepened(page, light, glare!, papers);
    expect(depth(page, inGlare)).toBeLessThan(0.45);
    expect(depth(made, inGlare)).toBeGreaterThan(depth(page, inGlare) + 0.07);
    expect(depth(made, outside)).toBeCloseTo(depth(page, outside), 2);
  });

  test('and that is how a page is finished', () => {
    const glaring = board([70, 66, 64]);
    const made = enhance(glaring, 'grey', { dpi: 60 });
    const undone = enhance(glaring, 'grey', { dpi: 60, judgement: { ...judge(glaring, glaring, null, 'even-light', { dpi: 60 }), paleness: null } }); // prettier-ignore
    const shade = (page: Raster) => page.data[300 * width + 647];
    expect(strokeAt(647, 300)).toBe(true);
    expect(shade(made)).toBeLessThan(shade(undone) - 10);
  });

  test('a lamp makes paper and print brighter alike: pale lines stay pale beside full print', () => {
    const page = createRaster(width, height, 3);
    const next = random(9);
    for (let y = 0, p = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const lamp = 0.55 + 0.45 * Math.exp(-((x - 640) ** 2 + (y - 180) ** 2) / (2 * 220 ** 2));
        // Ruled all over, written on in its lower half alone.
        const ink = y > 320 && strokeAt(x, y) ? 60 : y % 40 < 3 ? 200 : 235;
        for (let c = 0; c < 3; c++) page.data[p++] = ink * lamp + (next() - 0.5) * 4;
      }
    const light = estimateLight(page);
    expect(mayGlare(light)).toBe(true);
    expect(
      (palenessOf(page, light).glare?.data ?? new Float32Array(1)).reduce((most, gain) => Math.max(most, gain)),
    ).toBeLessThan(1.3);
  });

  test('an evenly lit page is left alone', () => {
    expect(mayGlare(estimateLight(board([70, 60, 64], { glare: false })))).toBe(false);
  });
});
