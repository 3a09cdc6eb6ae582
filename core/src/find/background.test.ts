import { gaussian } from '../raster/blur';
import { labPlanes } from '../raster/colour';
import { createRaster, type Point, type Raster } from '../raster/raster';
import { printedSheet, random } from '../testing/pictures';
import { isDesk, isPrintedFrame } from './background';
import { findPages } from './findPages';

/** Checked cloth, with or without a sheet of white paper on it. */
function cloth(sheet: readonly Point[] | null): Raster {
  const photo = createRaster(480, 600, 3);
  const next = random(8);
  for (let y = 0; y < 600; y++)
    for (let x = 0; x < 480; x++) {
      const dark = +(Math.floor(x / 34) % 2 === 0) + +(Math.floor(y / 34) % 2 === 0);
      const on = sheet && x > sheet[0][0] && x < sheet[2][0] && y > sheet[0][1] && y < sheet[2][1];
      const print = on && y % 18 < 4 && (x * 13) % 29 < 15;
      const colour = print
        ? [50, 50, 54]
        : on
          ? [232, 230, 226]
          : [
              [214, 210, 200],
              [150, 60, 66],
              [96, 22, 34],
            ][dark];
      photo.data.set(colour.map((v) => v + (next() - 0.5) * 6), (y * 480 + x) * 3); // prettier-ignore
    }
  return photo;
}

const sheet: readonly Point[] = [[110, 120], [370, 120], [370, 490], [110, 490]]; // prettier-ignore
const planes = (photo: Raster) => labPlanes(photo).map((plane) => gaussian(plane, 1));

test('a block of a cloth’s checks is nothing but desk, a sheet on the cloth is not', () => {
  const checks: readonly Point[] = [[102, 102], [374, 102], [374, 476], [102, 476]]; // prettier-ignore
  expect(isDesk(checks, planes(cloth(null)))).toBe(true);
  expect(isDesk(sheet, planes(cloth(sheet)))).toBe(false);
});

test('white paper on a white desk under a shadow is a page: a shadow is no pattern', () => {
  const photo = createRaster(480, 600, 3);
  const next = random(2);
  for (let y = 0; y < 600; y++)
    for (let x = 0; x < 480; x++) {
      const light = 1 - 0.5 / (1 + Math.exp((x + y - 500) / 25));
      const on = x > 110 && x < 370 && y > 120 && y < 490;
      for (let c = 0; c < 3; c++) photo.data[(y * 480 + x) * 3 + c] = (on ? 235 : 224) * light + (next() - 0.5) * 4;
    }
  expect(isDesk(sheet, planes(photo))).toBe(false);
});

describe('a table printed on a page', () => {
  const [left, top, right, bottom] = [70, 180, 350, 430];
  /** A sheet that fills the picture, with a ruled table between its lines. */
  const table = (x: number, y: number): readonly [number, number, number] | null => {
    const within = x >= left && x <= right && y >= top && y <= bottom;
    if (!within) return null;
    const rule = [left, right].some((v) => Math.abs(x - v) < 1.6) || (y - top) % 25 < 2 || Math.abs(y - bottom) < 1.6 || Math.abs(x - 190) < 1;
    return rule ? [30, 30, 34] : (x * 7) % 23 < 6 && (y - top) % 25 > 9 && (y - top) % 25 < 16 ? [60, 60, 64] : [229, 227, 222];
  };
  const corners: readonly Point[] = [[left, top], [right, top], [right, bottom], [left, bottom]];
  const all = [true, true, true, true];

  test('has the same paper on both banks of its sides', () => {
    expect(isPrintedFrame(corners, printedSheet(420, 594, table), all)).toBe(true);
  });

  test('is no page, when the sheet itself goes on beyond the picture', () => {
    expect(findPages(printedSheet(420, 594, table))).toEqual([]);
  });

  test('a sheet on a desk is told from its desk on every side, also white on white', () => {
    const page: readonly Point[] = [[110, 120], [370, 120], [370, 490], [110, 490]];
    expect(isPrintedFrame(page, cloth(page), all)).toBe(false);
    const photo = createRaster(480, 600, 3);
    const next = random(3);
    for (let y = 0; y < 600; y++)
      for (let x = 0; x < 480; x++)
        for (let c = 0; c < 3; c++) photo.data[(y * 480 + x) * 3 + c] = (x > 110 && x < 370 && y > 120 && y < 490 ? 236 : 228) + (next() - 0.5) * 5;
    expect(isPrintedFrame(page, photo, all)).toBe(false);
  });

  test('sides that were not seen say nothing; with fewer than two there is nothing to say', () => {
    const sheetItself = printedSheet(420, 594, table);
    expect(isPrintedFrame(corners, sheetItself, [true, false, true, false])).toBe(true);
    expect(isPrintedFrame(corners, sheetItself, [true, false, false, false])).toBe(false);
  });
}); // prettier-ignore
