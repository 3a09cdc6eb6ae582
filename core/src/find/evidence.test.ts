import { createRaster, type Raster } from '../raster/raster';
import { pagePhoto, random, type Colour } from '../testing/pictures';
import { evidenceNames } from './evidence';
import * as trained from './evidenceWeights';
import { choose, findPages, sight } from './findPages';

/** A ground by its colour at a place, with a little noise. */
function ground(colour: (x: number, y: number) => Colour): Raster {
  const photo = createRaster(640, 480, 3);
  const next = random(3);
  for (let y = 0, p = 0; y < 480; y++)
    for (let x = 0; x < 640; x++, p += 3) photo.data.set(colour(x, y).map((v) => v + (next() - 0.5) * 8), p); // prettier-ignore
  return photo;
}

/** Five rows of dark keys on a grey plate on a pale table. */
const keyboard = ground((x, y) => {
  if (x < 90 || x >= 560 || y < 150 || y >= 330) return [206, 198, 186];
  const [u, v] = [(x - 96) % 36, (y - 156) % 35];
  const key = u < 31 && v < 30 && x >= 96 && x < 556 && y < 328;
  const letter = key && u > 8 && u < 14 && v > 8 && v < 15;
  return letter ? [225, 225, 225] : key ? [34, 34, 36] : [120, 122, 124];
});
const drawers = ground((x, y) => (x % 150 < 5 || y % 110 < 5 ? [60, 48, 40] : x % 150 > 60 && x % 150 < 95 && y % 110 > 30 && y % 110 < 38 ? [190, 190, 186] : [186, 160, 128])); // prettier-ignore
const sheet = pagePhoto(640, 480, [[180, 60], [470, 72], [460, 430], [170, 420]]); // prettier-ignore

test('a chest of drawers is no page, a sheet is one', () => {
  expect(findPages(drawers)).toEqual([]);
  expect(findPages(sheet)).toHaveLength(1);
});

test('evidence has a number for each name, as what judges it has cuts', () => {
  expect(trained.cuts).toHaveLength(evidenceNames.length);
  for (const photo of [keyboard, drawers, sheet])
    for (const { evidence } of choose(photo, sight(photo), { leastConfidence: 0.35 }, true).chosen) {
      expect(evidence).toHaveLength(evidenceNames.length);
      expect(evidence!.every(Number.isFinite)).toBe(true);
    }
});

test('rows of keys cross what they lie in, print does not', () => {
  const crossing = (photo: Raster) => {
    const [best] = choose(photo, sight(photo), { leastConfidence: 0.35 }, true).chosen;
    return best!.evidence![evidenceNames.indexOf('crossingBest')]!;
  };
  expect(crossing(keyboard)).toBeGreaterThan(crossing(sheet));
});
