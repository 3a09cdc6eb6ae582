import type { Point, Quad } from '../raster/raster';
import { pageMap, type PageMap } from './pageMap';
import { ruledSurface } from './ruled';
import { fitSurface } from './surface';
import type { Turn } from './turn';

const quad: Quad = [[310, 205], [1480, 260], [1395, 1890], [262, 1805]]; // prettier-ignore
const size = { widthMm: 210, heightMm: 297 };
const view = { width: 1700, height: 2100 };
/** Sides of a page whose top and bottom are bowed, with as many points each. */
function bowed(bow: number): Point[][] {
  const n = 20;
  return quad.map((from, i) => {
    const to = quad[(i + 1) % 4];
    return Array.from({ length: n + 1 }, (_, k): Point => {
      const t = k / n;
      const off = i % 2 ? 0 : -4 * bow * t * (1 - t);
      return [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t + off];
    });
  });
}
const bent = fitSurface(bowed(70), view, 'width');
const ruled = ruledSurface(bowed(50), view);
const surfaces = {
  flat: null,
  bent: (u: number, v: number) => bent.toPhoto(u, v),
  ruled: (u: number, v: number) => ruled.toPhoto(u, v),
};
const ways = Object.entries(surfaces).flatMap(([name, surface]) =>
  ([0, 90, 180, 270] as const).flatMap((turn) => [false, true].map((mirror) => [name, turn, mirror, surface] as const)),
);
const mapOf = (turn: Turn, mirror: boolean, surface: (typeof ways)[number][3]) =>
  pageMap({ quad, bent: surface, turn, mirror, ...size });
const apart = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

test.each(ways)('there and back within 0.05 px, %s, turned by %d°, mirrored %s', (_, turn, mirror, surface) => {
  const map = mapOf(turn, mirror, surface);
  for (let v = 0; v <= 1; v += 0.125)
    for (let u = 0; u <= 1; u += 0.125) {
      const seen = map.toPhoto([u, v]);
      const place = map.toPage(seen);
      expect(apart(map.toPhoto(place), seen)).toBeLessThan(0.05);
      // A thousandth of a share of the longer side is two photo px.
      expect(apart(place, [u, v])).toBeLessThan(1e-4);
    }
});

test('a quarter turn clockwise shows the page’s lower left corner at the top left; a mirror its right one', () => {
  const corner = (map: PageMap) => map.toPhoto([0, 0]).map(Math.round);
  expect(corner(mapOf(0, false, null))).toEqual([310, 205]);
  expect(corner(mapOf(90, false, null))).toEqual([262, 1805]);
  expect(corner(mapOf(0, true, null))).toEqual([1480, 260]);
});

test('the outline of a part of the page runs along the part, bent as the page is', () => {
  const all = { x: 0, y: 0, width: 1, height: 1 };
  expect(
    mapOf(0, false, null)
      .outlineOf(all)
      .map((p) => p.map((v) => Math.round(v))),
  ).toEqual(quad);
  const map = mapOf(0, false, surfaces.ruled);
  const outline = map.outlineOf(all);
  const middle = outline[outline.length / 8];
  expect(apart(middle, map.toPhoto([0.5, 0]))).toBeLessThan(1e-6);
  // 50 px above the chord.
  expect((quad[0][1] + quad[1][1]) / 2 - middle[1]).toBeGreaterThan(40);
});

test('the scale is what a millimetre takes in the photo', () => {
  const square: Quad = [[100, 100], [940, 100], [940, 1288], [100, 1288]]; // prettier-ignore
  for (const [turn, widthMm, heightMm] of [
    [0, 210, 297],
    [90, 297, 210],
  ] as const)
    // prettier-ignore
    expect(pageMap({ quad: square, turn, widthMm, heightMm }).scaleAt([0.3, 0.8])).toBeCloseTo(4, 6);
  // What is nearer the camera is larger.
  const near = mapOf(0, false, null);
  expect(near.scaleAt([0.5, 0.9])).toBeGreaterThan(0);
});
