import { gaussian } from '../raster/blur';
import { labPlanes } from '../raster/colour';
import type { Raster } from '../raster/raster';
import { rectangles, type Colour, type Rect } from '../testing/pictures';
import { proposeOutlines, type Candidate } from './candidates';
import { describe as describeCandidate, featureNames } from './features';
import { gradient } from './gradient';
import type { Line } from './lines';
import { findRegions } from './regions';
import { supportAlong } from './support';

const upright = (x: number): Line => ({ nx: 1, ny: 0, c: x - 0.5, votes: 1 });
const level = (y: number): Line => ({ nx: 0, ny: 1, c: y - 0.5, votes: 1 });

/** The features, by name, of the candidate whose sides are a rectangle's. */
function featuresOf(picture: Raster, [x0, y0, x1, y1]: Rect): Record<(typeof featureNames)[number], number> {
  const lab = labPlanes(picture).map((plane) => gaussian(plane, 1));
  const gradients = lab.map((plane) => gradient(plane, 9, 0.12));
  const lines = [upright(x0), upright(x1), level(y0), level(y1)];
  const supports = lines.map((line) => supportAlong(line, gradients));
  const [candidate] = proposeOutlines(supports, 320, 240) as [Candidate];
  const values = describeCandidate(candidate, supports, lab, findRegions(lab));
  expect(values.length).toBe(featureNames.length);
  return Object.fromEntries(featureNames.map((name, i) => [name, values[i]])) as ReturnType<typeof featuresOf>;
}

const paper: Colour = [236, 234, 230];
const wood: Colour = [120, 84, 52];
const sheet: Rect = [80, 50, 240, 190];

test('a white sheet on wood: all sides seen and alike, brighter inside, nothing of the desk within', () => {
  const f = featuresOf(rectangles(320, 240, wood, [[sheet, paper]]), sheet);
  expect(f.support).toBeGreaterThan(0.9);
  expect(f.weakestSide).toBeGreaterThan(0.85);
  expect(f.brighterInside).toBeCloseTo(1, 1);
  // Seen by colour, sides have no say in which way the light steps.
  expect(f.chromaSides).toBeGreaterThan(0);
  expect(featuresOf(rectangles(320, 240, [110, 110, 110], [[sheet, [235, 235, 235]]]), sheet).oneSign).toBe(1);
  expect(f.contrastEven).toBeGreaterThan(0.9);
  expect(f.deskInside).toBeLessThan(0.05);
  expect(f.regionFit).toBeGreaterThan(0.9);
  expect(f.frames).toBe(0);
  expect(f.outside).toBeLessThanOrEqual(0);
  expect(Object.values(f).every(Number.isFinite)).toBe(true);
});

test('where the sheet goes on beyond a coloured band, the band’s edge says so', () => {
  const band: Rect = [80, 50, 240, 80];
  const picture = rectangles(320, 240, wood, [[sheet, paper], [band, [40, 60, 150]]]); // prettier-ignore
  const below = featuresOf(picture, [80, 80, 240, 190]);
  const whole = featuresOf(picture, sheet);
  expect(below.goesOnWorst).toBeGreaterThan(whole.goesOnWorst + 0.3);
  expect(whole.logArea).toBeGreaterThan(below.logArea);
});

test('a rectangle with desk in it is told by it', () => {
  const half = featuresOf(rectangles(320, 240, wood, [[[80, 50, 160, 190], paper]]), sheet);
  const full = featuresOf(rectangles(320, 240, wood, [[sheet, paper]]), sheet);
  expect(half.deskInside).toBeGreaterThan(full.deskInside + 0.3);
  expect(half.regionFit).toBeLessThan(full.regionFit - 0.3);
  expect(half.weakestSide).toBeLessThan(0.4);
});

test('a card darker than the desk is no brighter inside', () => {
  const f = featuresOf(rectangles(320, 240, [210, 205, 198], [[sheet, [50, 60, 80]]]), sheet);
  expect(f.brighterInside).toBe(0);
  expect(f.paperLight).toBeLessThan(featuresOf(rectangles(320, 240, wood, [[sheet, paper]]), sheet).paperLight);
});
