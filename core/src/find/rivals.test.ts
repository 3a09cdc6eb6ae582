import { createRaster, type Point, type Raster } from '../raster/raster';
import { labPlanes } from '../raster/colour';
import { random } from '../testing/pictures';
import { findPages } from './findPages';
import { describeRivals, rivalNames } from './rivals';

/** A rectangle by its middle, size and lean, its corners clockwise. */
const laid = (cx: number, cy: number, w: number, h: number, degrees: number): Point[] => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [[-w, -h], [w, -h], [w, h], [-w, h]].map(([u, v]): Point => [cx + (u! * c - v! * s) / 2, cy + (u! * s + v! * c) / 2]); // prettier-ignore
};
/** How far within a convex quad a place lies, px; negative outside. */
const depthIn = (quad: readonly Point[], x: number, y: number) =>
  Math.min(...quad.map((a, i) => {
    const b = quad[(i + 1) % 4]!;
    return ((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0])) / Math.hypot(b[0] - a[0], b[1] - a[1]);
  })); // prettier-ignore

/** Three sheets of one size on a dark desk, each a little turned on the one below, with a soft shadow round it; lines of print on the top one. */
const sheets = [laid(470.2, 339.4, 520, 370, 2.2), laid(465.8, 342.5, 520, 370, 0), laid(478, 352, 520, 370, 0.3)];
function pile(): Raster {
  const photo = createRaster(960, 720, 3);
  const next = random(11);
  for (let y = 0, p = 0; y < 720; y++)
    for (let x = 0; x < 960; x++, p += 3) {
      let colour = [74, 60, 52];
      for (const [i, quad] of sheets.entries()) {
        const depth = depthIn(quad, x, y);
        if (depth > 0) colour = [232 - 3 * i, 230 - 2 * i, 222 + 2 * i];
        else if (depth > -7) colour = colour.map((v) => v * (1 - 0.3 * (1 + depth / 7)));
      }
      if (depthIn(sheets[2]!, x, y) > 50 && y % 18 < 4 && (x >> 3) % 5 < 4) colour = [60, 60, 62];
      for (let c = 0; c < 3; c++) photo.data[p + c] = colour[c]! + (next() - 0.5) * 6;
    }
  return photo;
}

test('the top sheet of a pile, not one below nor sides of several', () => {
  const [page] = findPages(pile());
  const off = sheets[2]!.map(([x, y]) => Math.min(...page!.quad.map((q) => Math.hypot(q[0] - x, q[1] - y))));
  expect(Math.max(...off)).toBeLessThan(4);
});

test('its outline ends at its corners and has no edge of a sheet within it', () => {
  const rivals = sheets.map((corners) => ({ corners, score: 10 }));
  const numbers = describeRivals(rivals, labPlanes(pile()));
  const of = (name: string) => numbers.map((list) => list[rivalNames.indexOf(name)]!);
  for (const list of numbers) {
    expect(list).toHaveLength(rivalNames.length);
    expect(list.every(Number.isFinite)).toBe(true);
  }
  const [corner, present] = [of('corner'), of('present')];
  for (const below of [0, 1]) {
    expect(corner[2]).toBeGreaterThan(corner[below]!);
    expect(present[2]).toBeGreaterThan(present[below]!);
  }
});
