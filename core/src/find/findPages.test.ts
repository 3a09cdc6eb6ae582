import { createRaster, type Point, type Quad } from '../raster/raster';
import { noisePicture, pagePhoto } from '../testing/pictures';
import { findPages } from './findPages';
import { edgels, gradient } from './gradient';
import { splitSpread } from './gutter';
import { cross, houghLines } from './lines';
import { overlap } from './overlap';
import { traceSide, pointOn } from './refine';
import { sampledBy } from './sampler';

const farthest = (found: readonly Point[], truth: readonly Point[]) =>
  Math.max(...truth.map((t) => Math.min(...found.map((f) => Math.hypot(f[0] - t[0], f[1] - t[1])))));

describe('findPages', () => {
  test.each<[string, Quad]>([
    ['upright', [[120, 90], [520, 96], [514, 660], [112, 652]]],
    ['turned', [[200, 60], [590, 210], [400, 720], [20, 560]]],
    ['in perspective', [[190, 150], [450, 140], [560, 700], [70, 720]]],
    ['landscape', [[60, 240], [580, 220], [590, 560], [50, 590]]],
  ])('a page lying %s, corners within a thousandth of the diagonal', (_name, quad) => {
    const found = findPages(pagePhoto(640, 800, quad));
    expect(found).toHaveLength(1);
    expect(farthest(found[0].quad, quad)).toBeLessThan(1.3);
    expect(found[0].confidence).toBeGreaterThan(0.8);
  }); // prettier-ignore

  test('white paper on a white desk', () => {
    const quad: Quad = [[110, 100], [520, 90], [530, 690], [100, 700]]; // prettier-ignore
    const found = findPages(pagePhoto(640, 800, quad, { desk: [222, 220, 214], paper: [233, 232, 228], noise: 3 }));
    expect(found).toHaveLength(1);
    expect(farthest(found[0].quad, quad)).toBeLessThan(4);
  });

  test('the first corner is the top left one on screen, and corners run clockwise', () => {
    const quad: Quad = [[120, 90], [520, 96], [514, 660], [112, 652]]; // prettier-ignore
    // Dashes have no way up.
    const [a, b, c, d] = findPages(pagePhoto(640, 800, quad), { upright: false })[0].quad;
    expect(a[0]).toBeLessThan(b[0]);
    expect(b[1]).toBeLessThan(c[1]);
    expect(c[0]).toBeGreaterThan(d[0]);
    expect(a[1]).toBeLessThan(d[1]);
  });

  test('no page on an empty desk, in noise, in black or in white', () => {
    expect(findPages(pagePhoto(640, 480, null))).toEqual([]);
    expect(findPages(noisePicture(400, 300, 3))).toEqual([]);
    for (const level of [0, 255]) {
      const flat = createRaster(300, 400, 4);
      flat.data.fill(level);
      expect(findPages(flat)).toEqual([]);
    }
  });

  test.each([
    [1, 1],
    [2, 3000],
    [3000, 2],
    [23, 23],
    [24, 24],
    [2600, 30],
  ])('%i×%i pixels: an answer without NaN', (width, height) => {
    for (const page of findPages(noisePicture(width, height, 3))) expect(page.quad.flat().every(Number.isFinite)).toBe(true);
  });

  test('data that does not fit is refused', () => {
    expect(() => findPages({ width: 50, height: 50, channels: 3, data: new Uint8Array(9) })).toThrow('received 9');
  });
});

describe('asked for the page round a point', () => {
  const quad: Quad = [[60, 50], [330, 60], [325, 420], [50, 410]]; // prettier-ignore
  const photo = pagePhoto(400, 480, quad);

  test('gives the page that the point lies on, whatever its confidence, and one only', () => {
    const found = findPages(photo, { at: [200, 240] });
    expect(found).toHaveLength(1);
    expect(farthest(found[0].quad, quad)).toBeLessThan(4);
  });

  test('never gives one that the point does not lie on', () => {
    for (const { quad: found } of findPages(photo, { at: [20, 460] })) {
      const inside = found.every((a, i) => {
        const b = found[(i + 1) % 4];
        return (b[0] - a[0]) * (460 - a[1]) - (b[1] - a[1]) * (20 - a[0]) > -200;
      });
      expect(inside).toBe(true);
    }
  });
});

test('48 megapixels are answered', () => {
  const [width, height] = [8000, 6000];
  const data = new Uint8Array(width * height).fill(70);
  for (let y = 900; y < 5200; y++) data.fill(235, y * width + 1500, y * width + 4600);
  const [page] = findPages({ width, height, channels: 1, data });
  expect(Math.hypot(page.quad[0][0] - 1499.5, page.quad[0][1] - 899.5)).toBeLessThan(12);
});

describe('its parts', () => {
  test('the four sides of a dark square are lines with the right normals', () => {
    const plane = { width: 120, height: 100, data: new Float32Array(12000).fill(80) };
    for (let y = 30; y < 70; y++) for (let x = 40; x < 90; x++) plane.data[y * 120 + x] = 20;
    const lines = houghLines(edgels(gradient(plane, 9, 0.1)), 120, 100, 8).slice(0, 4);
    const sides = lines
      .map((l) => [Math.round(l.nx), Math.round(l.ny), Math.round(l.c * 2) / 2])
      .sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    // Normals point from dark to light, out of the square.
    expect(sides.map((s) => s.slice(0, 2).map((v) => v + 0))).toEqual([[-1, 0], [0, -1], [0, 1], [1, 0]]); // prettier-ignore
    expect(Math.abs(sides[3][2] - 89.5)).toBeLessThanOrEqual(0.5);
    expect(cross(lines[0], lines[0])).toBeNull();
  });

  test('a side is traced to a fraction of a pixel, a gap as by a finger included', () => {
    const edge = (x: number) => 50 + 0.02 * x;
    const sampler = sampledBy((x, y) => (x > 80 && x < 110 ? 40 : 30 + 60 / (1 + Math.exp(-(y - edge(x)) / 0.6))));
    const side = traceSide(sampler, [10, 52], [190, 52], { reachPx: 8, samples: 60, degree: 1, agreePx: 1.5, sign: 1 })!;
    for (const t of [0, 0.5, 1]) {
      const [x, y] = pointOn(side, t);
      expect(Math.abs(y - edge(x))).toBeLessThan(0.6);
    }
    expect(side.agreement).toBeGreaterThan(0.6);
    expect(
      traceSide(
        sampledBy(() => NaN),
        [0, 0],
        [50, 0],
        { reachPx: 4, samples: 20, degree: 1, agreePx: 1, sign: 1 },
      ),
    ).toBeNull();
  });

  test('overlap is a share of the smaller quad', () => {
    const big: Point[] = [[0, 0], [100, 0], [100, 100], [0, 100]]; // prettier-ignore
    const inner: Point[] = [[10, 10], [30, 10], [30, 30], [10, 30]]; // prettier-ignore
    const beside: Point[] = [[100, 0], [200, 0], [200, 100], [100, 100]]; // prettier-ignore
    expect(overlap(big, inner)).toBe(1);
    expect(overlap(big, beside)).toBe(0);
  });

  test('a spread is split at its gutter, a ruled page is not', () => {
    const quad: Quad = [[20, 20], [619, 20], [619, 439], [20, 439]]; // prettier-ignore
    const open = createRaster(640, 460, 3);
    for (let y = 0; y < 460; y++)
      for (let x = 0; x < 640; x++) {
        const valley = 1 - 0.5 * Math.exp(-Math.abs(x - 330) / 12);
        open.data.fill(x < 20 || y < 20 || x > 619 || y > 439 ? 60 : 230 * valley, (y * 640 + x) * 3, (y * 640 + x) * 3 + 3);
      }
    const { quads, gutter } = splitSpread(open, quad)!;
    const [left, right] = quads;
    expect(gutter).toBe('down');
    expect(Math.abs(left[1][0] - 330)).toBeLessThan(5);
    expect(right[0]).toEqual(left[1]);
    const ruled = createRaster(640, 460, 3);
    ruled.data.fill(230);
    for (let y = 0; y < 460; y++) ruled.data.fill(120, (y * 640 + 320) * 3, (y * 640 + 322) * 3);
    expect(splitSpread(ruled, quad)).toBeNull();
  });
});
