import { gaussian } from '../raster/blur';
import { labPlanes } from '../raster/colour';
import { createRaster, type Point, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { isDesk } from './background';

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
