import { gaussian } from '../raster/blur';
import { createPlane, type Plane, type Point } from '../raster/raster';
import { random } from '../testing/pictures';
import type { Candidate } from './candidates';
import { faintSides } from './faint';
import type { LineSupport } from './support';

/** A sheet from x 40 to 160 and from y 40 down, as much lighter than its desk as `step`, under noise of σ 4; smoothed as the finder does. */
function plane(step: number, seed: number): Plane {
  const made = createPlane(200, 260);
  const next = random(seed);
  for (let y = 0, p = 0; y < 260; y++)
    for (let x = 0; x < 200; x++, p++) {
      const inside = x >= 40 && x < 160 && y >= 40 && y < 220;
      made.data[p] = 78 + (inside ? step : 0) + 4 * (next() + next() + next() + next() - 2) * Math.sqrt(3);
    }
  return gaussian(made, 1);
}

const corners: [number, number][] = [[40, 120], [160, 120], [160, 220], [40, 220]]; // prettier-ignore
/** Three sides are seen, and in the fourth one's place a line of print. */
const candidate = (...seen: number[]): Candidate => ({
  corners,
  sides: seen.map((support, line) => ({ line, support, from: 0, to: 1, group: 0, weakest: support, seen: 1, lengthPx: 100 })) as unknown as Candidate['sides'], // prettier-ignore
  areaShare: 0.2,
  score: 1,
});
const lines = [0, 1, 2, 3].map(() => ({ line: { nx: 1, ny: 0, c: 0, votes: 1 } }) as LineSupport);
const lab = (step: number) => [plane(step, 1), plane(0, 2), plane(0, 3)];

test('a side whose step is less than its noise is found between two that end there', () => {
  const found = faintSides(lab(3), [candidate(0.6, 0.95, 0.95, 0.95)], lines);
  expect(found.length).toBeGreaterThan(0);
  const { line, beside } = found[0]!;
  expect(beside).toEqual([3, 2, 1]);
  // Between the last pixel of the desk and the first of the sheet.
  const yAt = (x: number) => (line.c - line.nx * x) / line.ny;
  for (const x of [40, 160] satisfies Point[number][]) expect(Math.abs(yAt(x) - 39.5)).toBeLessThan(1.5);
});

test('in noise there is none, nor where four sides are seen, or only two', () => {
  expect(faintSides(lab(0), [candidate(0.6, 0.95, 0.95, 0.95)], lines)).toEqual([]);
  expect(faintSides(lab(3), [candidate(0.9, 0.95, 0.95, 0.95)], lines)).toEqual([]);
  expect(faintSides(lab(3), [candidate(0.6, 0.95, 0.5, 0.95)], lines)).toEqual([]);
});
