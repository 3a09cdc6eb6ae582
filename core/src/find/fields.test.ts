import { createRaster, type Point } from '../raster/raster';
import { random } from '../testing/pictures';
import { areFields } from './fields';

const fields: Point[][] = [
  [[60, 80], [260, 80], [260, 200], [60, 200]],
  [[320, 80], [520, 80], [520, 200], [320, 200]],
]; // prettier-ignore

/** Cards on a white desk, or white ones on a dark desk. */
function cards(card: number, desk: number) {
  const photo = createRaster(600, 450, 3);
  const next = random(9);
  for (let y = 0, p = 0; y < 450; y++)
    for (let x = 0; x < 600; x++) {
      const on = fields.some(([a, , c]) => x >= a[0] && x <= c[0] && y >= a[1] && y <= c[1]);
      for (let k = 0; k < 3; k++) photo.data[p++] = (on ? card : desk) + (next() - 0.5) * 6;
    }
  return photo;
}

test('dark cards on a white desk are cards: there is no print between them', () => {
  expect(areFields(cards(70, 232), fields)).toBe(false);
});

test('what is lighter than what lies round it is no field, whatever stands there; and nothing is none', () => {
  expect(areFields(cards(235, 90), fields)).toBe(false);
  expect(areFields(cards(70, 232), [])).toBe(false);
});
