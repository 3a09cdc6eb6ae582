import { createPlane, type Plane, type Point } from '../raster/raster';
import { random } from '../testing/pictures';
import { repetition, surfacesIn } from './surfaces';

const [width, height] = [300, 240];
const whole: Point[] = [[20, 20], [279, 20], [279, 219], [20, 219]]; // prettier-ignore

/** L*, a*, b* of a picture by its lightness at a place, with a little noise. */
function picture(lightness: (x: number, y: number) => number): Plane[] {
  const next = random(5);
  const planes = [0, 1, 2].map(() => createPlane(width, height));
  for (let y = 0, p = 0; y < height; y++) for (let x = 0; x < width; x++, p++) planes[0]!.data[p] = lightness(x, y) + next() - 0.5; // prettier-ignore
  return planes;
}

const letter = random(7);
const words = Array.from({ length: width * height }, () => letter() < 0.4);
/** Paper with lines of print in no even steps. */
const sheet = picture((x, y) => (x > 50 && x < 250 && y > 45 && y < 195 && y % 12 < 5 && words[Math.floor(y / 12) * width + Math.floor(x / 4)] ? 30 : 90)); // prettier-ignore
/** Keys on a plate. */
const keys = picture((x, y) => (x % 20 < 16 && y % 20 < 16 ? 25 : 60));

test('paper runs on between its words, keys stand alone', () => {
  const [paper, plate] = [surfacesIn(whole, sheet), surfacesIn(whole, keys)];
  expect(paper.largest).toBeGreaterThan(0.75);
  expect(paper.along).toBe(1);
  expect(paper.lighter).toBeGreaterThan(30);
  expect(plate.largest).toBeLessThan(0.5);
  expect(plate.equal).toBeGreaterThan(0.5);
  expect(plate.pieces).toBeGreaterThan(60);
});

test('keys repeat both ways, lines of print one way, even paper not at all', () => {
  expect(repetition(whole, keys)[1]).toBeGreaterThan(0.6);
  const [lines, letters] = repetition(whole, sheet);
  expect(lines).toBeGreaterThan(0.25);
  expect(letters).toBeLessThan(0.15);
  for (const one of repetition(
    whole,
    picture(() => 90),
  ))
    expect(Math.abs(one)).toBeLessThan(0.1);
});

test('what lies beyond the picture counts as nothing', () => {
  const beyond: Point[] = [[-900, -900], [-500, -900], [-500, -500], [-900, -500]]; // prettier-ignore
  expect(surfacesIn(beyond, sheet)).toMatchObject({ largest: 0, pieces: 0 });
  expect(repetition(beyond, sheet)).toEqual([0, 0]);
});
