import { gaussian } from '../raster/blur';
import { labPlanes } from '../raster/colour';
import type { Quad } from '../raster/raster';
import { pagePhoto, rectangles } from '../testing/pictures';
import { proposeOutlines, type Candidate } from './candidates';
import { describe as featuresOf, featureNames } from './features';
import { sight } from './findPages';
import { gradient } from './gradient';
import { cross, frameLines, type Line } from './lines';
import { acceptance, rank } from './rank';
import { findRegions } from './regions';
import { positionOn, stepPx, stretch, supportAlong } from './support';

const [width, height] = [320, 400];
const quad: Quad = [[60, 50], [260, 62], [250, 340], [48, 330]]; // prettier-ignore
const photo = pagePhoto(width, height, quad, { noise: 2 });
const lab = labPlanes(photo).map((plane) => gaussian(plane, 1));
const gradients = lab.map((plane) => gradient(plane, 9, 0.12));

/** The line through two points, its normal to the right of the way. */
function through([ax, ay]: readonly number[], [bx, by]: readonly number[]): Line {
  const length = Math.hypot(bx - ax, by - ay);
  const [nx, ny] = [-(by - ay) / length, (bx - ax) / length];
  return { nx, ny, c: nx * ax + ny * ay, votes: 1 };
}
const sides = quad.map((corner, i) => through(corner, quad[(i + 1) % 4]));
const farthest = (c: Candidate, truth: readonly (readonly number[])[]) =>
  Math.max(...truth.map(([x, y]) => Math.min(...c.corners.map((p) => Math.hypot(p[0] - x, p[1] - y)))));

describe('support along a line', () => {
  const top = supportAlong(sides[0], gradients);
  // Lightness grows towards the page, which lies to the right of the way: the class "grows".
  const at = (x: number) => positionOn(top, ...(cross(sides[0], { nx: 1, ny: 0, c: x, votes: 0 }) as [number, number]));

  test('is nearly full on the page’s side and nearly none beyond it', () => {
    expect(stretch(top, 0, at(75), at(245)).mean).toBeGreaterThan(0.9);
    expect(stretch(top, 1, at(75), at(245)).mean).toBeLessThan(0.3);
    expect(stretch(top, 0, at(275), at(315)).mean).toBeLessThan(0.4);
  });

  test('is told as a running sum: stretches add up', () => {
    const [a, b, c] = [at(80), at(150), at(240)].map(Math.round);
    const sum = (from: number, to: number) => stretch(top, 0, from, to).mean * Math.abs(to - from);
    expect(sum(a, b) + sum(b, c)).toBeCloseTo(sum(a, c), 3);
  });

  test('says how much of a stretch lies in the picture', () => {
    const way = Math.sign(at(210) - at(200));
    expect(stretch(top, 0, at(200), at(200) + (way * 2 * (width - 200)) / stepPx).seen).toBeCloseTo(0.5, 1);
    const outside = supportAlong({ nx: 1, ny: 0, c: -40, votes: 0 }, gradients);
    expect(outside.count).toBe(0);
    expect(stretch(outside, 0, 0, 10)).toEqual({ mean: 0, seen: 0 });
  });
});

describe('proposeOutlines', () => {
  const supports = [...sides, ...frameLines(width, height)].map((line) => supportAlong(line, gradients));

  test('of four true sides the page is the best, its corners in order', () => {
    const [best] = proposeOutlines(supports, width, height);
    expect(farthest(best, quad)).toBeLessThan(1);
    const turn = best.corners.map((a, i) => {
      const [b, c] = [best.corners[(i + 1) % 4], best.corners[(i + 2) % 4]];
      return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
    });
    expect(turn.every((t) => t > 0)).toBe(true);
    expect(best.sides.every((s) => s.support > 0.8 && s.seen > 0.98)).toBe(true);
    // Shoelace formula by hand: 200 × 280 px less the slants.
    expect(best.areaShare * width * height).toBeGreaterThan(54_000);
    expect(best.areaShare * width * height).toBeLessThan(58_000);
  });

  test('a side that nobody saw is the picture’s border, and only for pages that go on beyond it', () => {
    const cut = proposeOutlines([...sides.slice(0, 3), ...frameLines(width, height)].map((line) => supportAlong(line, gradients)), width, height); // prettier-ignore
    expect(cut.length).toBeGreaterThan(0);
    expect(cut.every((c) => c.sides.some((s) => s.line >= 3))).toBe(true);
  });

  test('too small ones are left out, and so many are kept as were asked for', () => {
    expect(proposeOutlines(supports, width, height, { leastArea: 0.99 })).toEqual([]);
    expect(proposeOutlines(supports, width, height, { most: 0, mostCutOff: 0 })).toEqual([]);
    expect(proposeOutlines(supports, width, height, { most: 1, mostCutOff: 0 })).toHaveLength(1);
  });

  test('a side is moved out to another line where both its neighbours go on', () => {
    // A rule on the page: with it as the lower side the upper half looks as good as the page.
    const rule = through([252, 200], [54, 196]);
    const ruled = [...sides, rule].map((line) => supportAlong(line, gradients));
    // The rule is believed as much as a side.
    ruled[4].sums.forEach((sums) => sums.forEach((_, i) => (sums[i] = i)));
    const some = proposeOutlines(ruled, width, height, { most: 1, mostCutOff: 0 });
    expect(some.some((c) => farthest(c, quad) < 1)).toBe(true);
  });
});

test('a side is moved out beyond a coloured band that is seen in another channel than the paper', () => {
  const picture = rectangles(320, 240, [120, 84, 52], [[[80, 50, 240, 190], [236, 234, 230]], [[80, 50, 240, 90], [160, 34, 30]]]); // prettier-ignore
  const own = labPlanes(picture).map((plane) => gradient(gaussian(plane, 1), 9, 0.12));
  const at = (nx: number, ny: number, c: number) => supportAlong({ nx, ny, c, votes: 1 }, own);
  const lines = [at(1, 0, 79.5), at(1, 0, 239.5), at(0, 1, 49.5), at(0, 1, 89.5), at(0, 1, 189.5)];
  const some = proposeOutlines(lines, 320, 240, { most: 1, mostCutOff: 0 });
  expect(some.some((c) => farthest(c, [[80, 50], [240, 50], [240, 190], [80, 190]]) < 1)).toBe(true); // prettier-ignore
  expect(some[0].areaShare).toBeLessThan((160 * 105) / (320 * 240));
});

describe('what the ranker looks at', () => {
  const seen = sight(photo, { workingEdgePx: 400 });
  const regions = findRegions(seen.lab);
  const numberOf = (name: (typeof featureNames)[number], features: Float32Array) => features[featureNames.indexOf(name)];
  const best = seen.candidates.reduce((a, b) => (farthest(b, quad) < farthest(a, quad) ? b : a));
  const features = featuresOf(best, seen.supports, seen.lab, regions);

  test('one finite number a name', () => {
    expect(features).toHaveLength(featureNames.length);
    for (const list of seen.features) expect([...list].every((v) => Number.isFinite(v) || Number.isNaN(v))).toBe(true);
  });

  test('paper is brighter than the desk, seen all along, and covers a region', () => {
    expect(numberOf('brighterInside', features)).toBeCloseTo(1, 5);
    expect(numberOf('seen', features)).toBeGreaterThan(0.98);
    expect(numberOf('frames', features)).toBe(0);
    expect(numberOf('support', features)).toBeGreaterThan(0.85);
    expect(numberOf('paperLight', features)).toBeGreaterThan(0.8);
    expect(numberOf('regionFit', features)).toBeGreaterThan(0.85);
    expect(numberOf('goesOnWorst', features)).toBeLessThan(0.5);
    // True area share 0.436.
    expect(numberOf('rootArea', features)).toBeCloseTo(Math.sqrt(0.436), 1);
  });

  test('without regions these are unknown, which is as usual', () => {
    const without = featuresOf(best, seen.supports, seen.lab, null);
    expect(numberOf('regionFit', without)).toBeNaN();
    expect(Number.isFinite(rank(without))).toBe(true);
    expect(Number.isFinite(acceptance(without, 1, 1, 0))).toBe(true);
  });

  test('the page outranks what is not one, and is believed', () => {
    const scores = seen.features.map(rank);
    const top = scores.indexOf(Math.max(...scores));
    expect(farthest(seen.candidates[top], quad)).toBeLessThan(3);
    expect(acceptance(seen.features[top], scores[top], scores[top], 0)).toBeGreaterThan(0.9);
    const last = scores.indexOf(Math.min(...scores));
    expect(acceptance(seen.features[last], scores[last], scores[top], 1)).toBeLessThan(0.2);
  });

  test('what lies far off all that was seen in training cannot run away', () => {
    const wild = Float32Array.from(features, (_, i) => (i % 2 ? 1e6 : -1e6));
    expect(Math.abs(rank(wild))).toBeLessThan(500);
    const confidence = acceptance(wild, rank(wild), rank(wild), 0);
    expect(confidence).toBeGreaterThanOrEqual(0);
    expect(confidence).toBeLessThanOrEqual(1);
  });
});
