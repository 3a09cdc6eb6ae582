import { upsample2x } from '../raster/upsample2x';
import { GridRows } from '../raster/gridRows';
import { createRaster, type Raster } from '../raster/raster';
import { noisePicture, printedSheet, random } from '../testing/pictures';
import { adjusted, partLight, unsharp } from './adjust';
import { chooseFilter } from './auto';
import { enhance } from './enhance';
import { estimateLight } from './light';
import { localThreshold } from './localThreshold';
import { noiseLevel, soften } from './noise';

const plainGrey = (level: number, noise: number): Raster => {
  const page = createRaster(240, 320, 1);
  const next = random(7);
  // Sum of twelve uniforms less six: deviation 1 (central limit).
  for (let i = 0; i < page.data.length; i++)
    page.data[i] = level + noise * (Array.from({ length: 12 }, next).reduce((s, v) => s + v, 0) - 6);
  return page;
};
const at = (r: Raster, x: number, y: number) => [
  ...r.data.slice((y * r.width + x) * r.channels, (y * r.width + x) * r.channels + r.channels),
];

test('a coarse grid read at full size is bilinear between its cells’ middles', () => {
  const grid = { width: 2, height: 2, data: Float32Array.from([0, 40, 80, 120]) };
  const rows = new GridRows(grid, 8, 8);
  // Cell middles lie at 1.5 and 5.5.
  expect(rows.row(0)[0]).toBe(0);
  expect(rows.row(7)[7]).toBe(120);
  expect([...rows.row(0)].map((v) => Math.round(v))).toEqual([0, 0, 5, 15, 25, 35, 40, 40]);
  expect(rows.row(3)[3]).toBeCloseTo(0.375 * 40 + 0.375 * 80, 4);
});

test('doubling keeps flat areas and ramps as they are (Catmull-Rom reproduces straight lines)', () => {
  const ramp = createRaster(12, 6, 1);
  for (let y = 0; y < 6; y++) for (let x = 0; x < 12; x++) ramp.data[y * 12 + x] = 20 + 8 * x + 4 * y;
  const twice = upsample2x(ramp);
  expect([twice.width, twice.height]).toEqual([24, 12]);
  for (let y = 4; y < 8; y++)
    for (let x = 4; x < 20; x++) expect(Math.abs(twice.data[y * 24 + x] - (20 + 8 * ((x + 0.5) / 2 - 0.5) + 4 * ((y + 0.5) / 2 - 0.5)))).toBeLessThanOrEqual(1); // prettier-ignore
  expect(() => upsample2x(noisePicture(3, 3, 3))).toThrow('received 3');
});

test('the noise of plain paper is measured, print does not count as noise', () => {
  expect(noiseLevel(plainGrey(200, 6))).toBeGreaterThan(5);
  expect(noiseLevel(plainGrey(200, 6))).toBeLessThan(7);
  const print = plainGrey(200, 1);
  for (let y = 60; y < 200; y += 16)
    for (let x = 20; x < 220; x++) if (x % 7 < 4) print.data[y * 240 + x] = print.data[(y + 1) * 240 + x] = 20;
  expect(noiseLevel(print)).toBeLessThan(2);
  expect(soften(print, 1, 300)).toBe(print);
  expect(noiseLevel(soften(plainGrey(200, 8), 8, 300))).toBeLessThan(5);
});

test('on a page with more pixels than its photo the noise is nearly as much (interpolation takes a fifth of white noise), and softened as far on the paper', () => {
  const photo = plainGrey(200, 7);
  const fine = upsample2x(photo);
  expect(noiseLevel(fine, 2) / noiseLevel(photo)).toBeGreaterThan(0.75);
  expect(noiseLevel(fine, 2) / noiseLevel(photo)).toBeLessThan(1.1);
  const left = noiseLevel(soften(photo, 7, 150)) / noiseLevel(photo);
  const leftFine = noiseLevel(soften(fine, 7, 300, 2), 2) / noiseLevel(fine, 2);
  expect(Math.abs(leftFine - left)).toBeLessThan(0.12);
});

test('the coarse threshold is Sauvola’s within its bounds (Sauvola and Pietikäinen 2000)', () => {
  // Half black, half white everywhere: m = 127.5, s = 127.5, T = m (1 + 0.25 (127.5 / 128 − 1)).
  const checks = createRaster(160, 160, 1);
  for (let y = 0; y < 160; y++) for (let x = 0; x < 160; x++) checks.data[y * 160 + x] = (x + y) % 2 ? 255 : 0;
  const { data } = localThreshold(checks, { dpi: 150, least: 0, most: 255 });
  // A cell of odd size holds one pixel more of one kind.
  for (const v of data) expect(Math.abs(v - 127.5 * (1 + 0.25 * (127.5 / 128 - 1)))).toBeLessThan(1.5);
  expect([...new Set(localThreshold(checks, { dpi: 150, least: 140, most: 200 }).data.map(Math.round))]).toEqual([140]);
});

test('brightness, contrast and warmth move levels as their names say, nothing asked changes nothing', () => {
  const page = createRaster(4, 4, 3);
  page.data.fill(200);
  expect(adjusted(page, {}, 300)).toBe(page);
  expect(at(adjusted(page, { brightness: 0.5 }, 300), 1, 1)).toEqual([235, 235, 235]);
  expect(at(adjusted(page, { contrast: 0.5 }, 300), 1, 1)[0]).toBeGreaterThan(200);
  const [r, , b] = at(adjusted(page, { warmth: 1 }, 300), 1, 1);
  expect(r! - b!).toBeGreaterThan(15);
  const [cool, , blue] = at(adjusted(page, { warmth: -1 }, 300), 1, 1);
  expect(blue! - cool!).toBeGreaterThan(10);
});

test('unsharp masking steepens an edge and leaves flat paper', () => {
  const edge = createRaster(40, 8, 1);
  for (let y = 0; y < 8; y++) for (let x = 0; x < 40; x++) edge.data[y * 40 + x] = 60 + 120 / (1 + Math.exp(20 - x));
  const sharp = unsharp(edge, 1.2, 1);
  const step = (r: Raster) => r.data[4 * 40 + 21] - r.data[4 * 40 + 19];
  expect(step(sharp)).toBeGreaterThan(1.2 * step(edge));
  expect(Math.abs(sharp.data[4 * 40 + 2] - edge.data[4 * 40 + 2])).toBeLessThanOrEqual(1);
});

/** White paper with a red stroke and a photograph-like field, the right half in shade. */
function colourPage(): Raster {
  const page = createRaster(400, 560, 3);
  const next = random(11);
  for (let y = 0; y < 560; y++)
    for (let x = 0; x < 400; x++) {
      const field = x > 60 && x < 200 && y > 300 && y < 460;
      const stroke = y > 100 && y < 106 && x > 40 && x < 360;
      const [r, g, b] = field ? [90 + (x % 60), 70 + (y % 80), 150] : stroke ? [190, 40, 40] : [232, 232, 232];
      const shade = x > 200 ? 0.7 : 1;
      page.data.set(
        [r * shade, g * shade, b * shade].map((v) => v + (next() - 0.5) * 3),
        (y * 400 + x) * 3,
      );
    }
  return page;
}

test('even light keeps a red stroke red in light and shade and the paper white', () => {
  const out = enhance(colourPage(), 'even-light', { dpi: 120 });
  for (const x of [100, 300]) {
    const [r, g] = at(out, x, 103);
    expect(r! - g!).toBeGreaterThan(80);
    expect(Math.min(...at(out, x, 30))).toBeGreaterThan(245);
  }
});

test('board makes its pens stronger than even light does', () => {
  const spread = (filter: 'even-light' | 'board') => {
    const v = at(enhance(colourPage(), filter, { dpi: 120 }), 100, 103);
    return Math.max(...v) - Math.min(...v);
  };
  expect(spread('board')).toBeGreaterThanOrEqual(spread('even-light'));
});

test('picture leaves the shade where it is', () => {
  const out = enhance(colourPage(), 'picture', { dpi: 120 });
  expect(at(out, 100, 30)[0]! - at(out, 300, 30)[0]!).toBeGreaterThan(40);
});

test('in ink a picture is dots of both kinds, not soot', () => {
  const out = enhance(colourPage(), 'ink', { dpi: 300 });
  let black = 0;
  for (let y = 320; y < 440; y++) for (let x = 80; x < 180; x++) if (!out.data[y * 400 + x]) black++;
  expect(black / (120 * 100)).toBeGreaterThan(0.15);
  expect(black / (120 * 100)).toBeLessThan(0.9);
});

test('bolder strokes have more ink', () => {
  const ink = (strokes: number) => {
    let n = 0;
    for (const v of enhance(colourPage(), 'ink', { dpi: 300, adjust: { strokes } }).data) if (!v) n++;
    return n;
  };
  expect(ink(1)).toBeGreaterThan(ink(-1));
});

test('light that is evened by nothing stays', () => {
  const light = estimateLight(colourPage());
  expect(partLight(light)).toBe(light);
  expect(new Set(partLight(light, 0).paper.data).size).toBe(1);
});

test('auto says why', () => {
  expect(chooseFilter(colourPage())).toEqual({ filter: 'even-light', why: 'coloured areas' });
  const plain = createRaster(300, 400, 3);
  plain.data.fill(230);
  expect(chooseFilter(plain).why).toBe('no colour to lose');
});

describe('Auto and thin colour', () => {
  type Paint = Parameters<typeof printedSheet>[2];
  const drawn = (paint: Paint) => printedSheet(850, 1200, paint, { noise: 5 });

  test('one small mark in red pen is enough to keep the colours', () => {
    const ring = (x: number, y: number) => (Math.abs(Math.hypot(x - 500, y - 700) - 24) < 1.5 ? ([196, 52, 60] as const) : null);
    expect(chooseFilter(drawn(ring))).toEqual({ filter: 'even-light', why: 'coloured pen or stamp' });
  });

  test('specks of colour as recompressed photos have them are none, nor is a strip of coloured desk along a side', () => {
    const specks = (x: number, y: number) => (x % 40 === 0 && y % 31 < 3 ? ([150, 200, 230] as const) : null);
    expect(chooseFilter(drawn(specks)).why).toBe('no colour to lose');
    const strip = (x: number) => (x < 5 ? ([150, 92, 50] as const) : null);
    expect(chooseFilter(drawn(strip)).why).toBe('no colour to lose');
  });
});

// 120 of 229 in the paper's light, 134 of 255.
test('colours come out as strong as they are printed, though the lens laid a veil over the photo', () => {
  const across = (x: number) => x > 60 && x < 240;
  const printed = printedSheet(300, 400, (x, y) =>
    across(x) && y > 90 && y < 190 ? [150, 30, 40] : across(x) && y > 230 && y < 236 ? [30, 50, 150] : null,
  );
  const photo = { ...printed, data: Uint8ClampedArray.from(printed.data, (v) => 20 + 0.72 * v) };
  const page = enhance(photo, 'even-light', { dpi: 60 });
  const [red, green] = at(page, 150, 140);
  expect(red! - green!).toBeGreaterThan(120);
  expect(red! - green!).toBeLessThan(155);
  const line = at(page, 150, 233);
  expect(line[2]! - line[0]!).toBeGreaterThan(90);
});
