import { marksOf } from '../raster/marks';
import { createRaster, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { enhance } from './enhance';
import type { Light } from './light';
import { noiseOver } from './noise';
import { dropSpecks, whitenSpecks } from './specks';

const dpi = 200;
const [width, height] = [560, 720];
/** A full stop of 8 point print, about 0.4 mm across (common practice), in px. */
const stopPx = Math.round((0.4 / 25.4) * dpi);

/** A photo's page in dim light: grey paper, lines of full stops, one line in red pen, coloured noise that a phone has smeared over two pixels. */
function dimPage(noise: number, light: (x: number) => number = () => 1): Raster {
  const next = random(3);
  const grain = Float32Array.from({ length: width * height * 3 }, () => next() + next() + next() - 1.5);
  const page = createRaster(width, height, 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const stop = y > 200 && y < 500 && x > 60 && x < 500 && y % 40 < stopPx && x % 40 < stopPx;
      const pen = y >= 600 && y < 606 && x > 60 && x < 500;
      const colour = stop ? [30, 30, 30] : pen ? [92, 30, 34] : [118, 118, 118];
      for (let c = 0; c < 3; c++) {
        const p = (y * width + x) * 3 + c;
        const smeared = grain[p] + grain[Math.max(0, p - 3)] + grain[Math.max(0, p - 3 * width)];
        page.data[p] = colour[c] * light(x) + noise * 1.15 * smeared;
      }
    }
  return page;
}

const area = (page: Raster, x0: number, y0: number, x1: number, y1: number, counts: (p: number) => boolean) => {
  let n = 0;
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) if (counts((y * width + x) * page.channels)) n++;
  return n / ((x1 - x0) * (y1 - y0));
};
const spread = ({ data }: Raster, p: number) =>
  Math.max(data[p], data[p + 1], data[p + 2]) - Math.min(data[p], data[p + 1], data[p + 2]);

describe('a page photographed in dim light', () => {
  test.each([5, 9])('has clean paper: no specks, no coloured noise (deviation %i)', (noise) => {
    const page = enhance(dimPage(noise), 'even-light', { dpi });
    expect(area(page, 20, 20, 540, 190, (p) => page.data[p] < 235)).toBe(0);
    expect(area(page, 20, 20, 540, 190, (p) => spread(page, p) > 12)).toBeLessThan(0.002);
  });

  test('has clean paper at its darker side too, where evening the light trebles the noise', () => {
    const page = enhance(
      dimPage(6, (x) => 1.6 - (1.1 * x) / width),
      'even-light',
      { dpi },
    );
    expect(area(page, 20, 20, 540, 190, (p) => page.data[p] < 235)).toBe(0);
    for (let y = 240; y < 480; y += 40)
      for (let x = 80; x < 480; x += 40)
        expect(page.data[((y + (stopPx >> 1)) * width + x + (stopPx >> 1)) * 3]).toBeLessThan(170);
  });

  test('keeps its full stops and its red pen', () => {
    const page = enhance(dimPage(7), 'even-light', { dpi });
    for (let y = 240; y < 480; y += 40)
      for (let x = 80; x < 480; x += 40)
        expect(page.data[((y + (stopPx >> 1)) * width + x + (stopPx >> 1)) * 3]).toBeLessThan(150);
    for (let x = 100; x < 460; x += 20) expect(spread(page, (603 * width + x) * 3)).toBeGreaterThan(40);
  });
});

const grid = (left: number, right: number) => ({ width: 2, height: 1, data: Float32Array.from([left, right]) });

test('noise is as uneven as the light was', () => {
  const light = { paper: grid(50, 100) } as Light;
  expect([...noiseOver(light, { photo: 9, left: 6, usual: 75 }).data]).toEqual([9, 4.5]);
});

test('specks on paper become paper, in a picture they stay; so does what is as large as a full stop', () => {
  const grey = createRaster(200, 100, 1);
  grey.data.fill(224);
  for (const x of [30, 170]) {
    grey.data[20 * 200 + x] = 150;
    for (let y = 60; y < 60 + stopPx; y++) grey.data.fill(150, y * 200 + x, y * 200 + x + stopPx + 2);
  }
  whitenSpecks(grey, { threshold: grid(170, 170), clear: 22, noise: grid(6, 6), usualNoise: 6, saturation: 1 }, grid(0, 1), dpi);
  expect([grey.data[20 * 200 + 30], grey.data[20 * 200 + 170]]).toEqual([255, 150]);
  expect([grey.data[61 * 200 + 31], grey.data[61 * 200 + 171]]).toEqual([150, 150]);
});

test('a mark is weighed by its depth: as large, a pale one is noise, a full stop is not; where the noise is less the pale one stays', () => {
  const grey = createRaster(200, 100, 1);
  grey.data.fill(224);
  const marks = [[30, 150], [60, 185], [170, 185]] as const; // prettier-ignore
  for (const [x, level] of marks) for (let y = 20; y < 20 + stopPx; y++) grey.data.fill(level, y * 200 + x, y * 200 + x + stopPx);
  whitenSpecks(grey, { threshold: grid(170, 170), clear: 22, noise: grid(6, 1), usualNoise: 6, saturation: 1 }, grid(0, 0), dpi);
  expect(marks.map(([x]) => grey.data[21 * 200 + x + 1])).toEqual([150, 255, 185]);
});

test('specks are the small ones of what hangs together, as a flood fill tells them', () => {
  const next = random(8);
  for (const share of [0.1, 0.3, 0.45, 0.6]) {
    const page = createRaster(67, 53, 1);
    for (let i = 0; i < page.data.length; i++) page.data[i] = next() < share ? 0 : 255;
    const black = (data: ArrayLike<number>) =>
      marksOf(
        Uint8Array.from(data, (v) => (v ? 0 : 1)),
        67,
        53,
      );
    const wanted = black(page.data).filter((mark) => mark.area >= 6);
    dropSpecks(page, 6);
    expect(black(page.data)).toEqual(wanted);
  }
});
