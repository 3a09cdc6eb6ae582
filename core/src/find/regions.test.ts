import { gaussian } from '../raster/blur';
import { labPlanes } from '../raster/colour';
import { createRaster, type Point, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { findPages } from './findPages';
import { againstRegions, findRegions, linesAlong } from './regions';

const [width, height] = [600, 450];
const cards: readonly (readonly Point[])[] = [
  [[90, 80], [230, 60], [242, 146], [102, 166]],
  [[330, 230], [480, 250], [468, 344], [318, 324]],
]; // prettier-ignore

/** Planks with dark joints and grain, brighter towards one corner, and cards on them, with lines of print or bare. */
function planks(laid: readonly (readonly Point[])[], printed = false): Raster {
  const next = random(11);
  const photo = createRaster(width, height, 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = 0.6 + (0.4 * (x + y)) / (width + height);
      const joint = (y + Math.round(x * 0.06)) % 74 < 3 ? 0.55 : 1;
      const grain = 0.93 + 0.07 * Math.sin(y * 0.9 + Math.sin(x * 0.03) * 4);
      let colour = [150 * joint * grain, 104 * joint * grain, 66 * joint * grain];
      laid.forEach((quad, k) => {
        const inside = quad.every((a, i) => {
          const b = quad[(i + 1) % 4]!;
          return (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]) > 0;
        });
        const [[x0, y0], [x1]] = [quad[0]!, quad[1]!];
        const print = printed && x > x0 + 20 && x < x1 - 25 && y > y0 + 20 && y < y0 + 70 && y % 12 < 3 && x % 11 < 8;
        if (inside) colour = print !== k > 0 ? [30, 52, 110] : [240, 238, 228];
      });
      photo.data.set(colour.map((v) => v * light + (next() - 0.5) * 8), (y * width + x) * 3); // prettier-ignore
    }
  return photo;
}
const planes = (photo: Raster) => labPlanes(photo).map((plane) => gaussian(plane, 1));
const farthest = (found: readonly Point[], truth: readonly Point[]) =>
  Math.max(...truth.map((t) => Math.min(...found.map((f) => Math.hypot(f[0] - t[0], f[1] - t[1])))));

test('what is not the desk’s colour is a region, and the lines along it are the card’s sides', () => {
  const lab = planes(planks(cards));
  const { quads } = findRegions(lab);
  expect(quads).toHaveLength(2);
  for (const card of cards) {
    const quad = quads.find((q) => farthest(q, card) < 12)!;
    const lines = linesAlong(lab, quad)!;
    // Each corner lies on two of the lines.
    for (const [x, y] of card) expect(lines.filter((l) => Math.abs(l.nx * x + l.ny * y - l.c) < 1).length).toBe(2);
  }
});

test('an empty desk has no region, however its light falls off', () => {
  expect(findRegions(planes(planks([]))).quads).toEqual([]);
});

test('an outline is measured against the regions', () => {
  const regions = findRegions(planes(planks(cards)));
  const [inside, round, fit] = againstRegions(cards[0]!, regions);
  expect(inside).toBeGreaterThan(0.85);
  expect(round).toBeLessThan(0.2);
  expect(fit).toBeGreaterThan(0.8);
  const plank: Point[] = [[0, 74], [599, 38], [599, 112], [0, 148]]; // prettier-ignore
  const off = againstRegions(plank, regions);
  expect(off[0]).toBeLessThan(0.5);
  expect(off[2]).toBeLessThan(0.3);
});

test('cards are found on planks, whose joints are longer than any side of a card', () => {
  const found = findPages(planks(cards, true), { upright: false });
  expect(found).toHaveLength(2);
  for (const card of cards) expect(Math.min(...found.map(({ quad }) => farthest(quad, card)))).toBeLessThan(2.5);
});
