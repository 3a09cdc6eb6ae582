import { createRaster, type Point, type Quad, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { pointsPerSide, sidesNear, traceOutline } from './trace';

/** A sheet whose top and bottom edges are given as heights over x, on a dark desk. */
function sheet(top: (x: number) => number, bottom: (x: number) => number, left = 30, right = 170): Raster {
  const photo = createRaster(200, 260, 3);
  const next = random(5);
  for (let y = 0; y < 260; y++)
    for (let x = 0; x < 200; x++) {
      const cover = (d: number) => Math.max(0, Math.min(1, d + 0.5));
      const inside = cover(x - left) * cover(right - x) * cover(y - top(x)) * cover(bottom(x) - y);
      const noise = (next() + next() - 1) * 6;
      photo.data.fill(70 + 160 * inside + noise, (y * 200 + x) * 3, (y * 200 + x) * 3 + 3);
    }
  return photo;
}
const arch = (x: number) => 12 * Math.sin(((x - 30) / 140) * Math.PI);
const quad: Quad = [[30, 35], [170, 35], [170, 225], [30, 225]]; // prettier-ignore

test('straight sides stay straight, corners are found to about a pixel', () => {
  const photo = sheet(() => 35, () => 225); // prettier-ignore
  const near = quad.map(([x, y], i): Point => [x + (i % 2 ? 1 : -1), y + 1]) as unknown as Quad;
  const { quad: corners, polygon } = traceOutline(photo, near)!;
  corners.forEach((p, i) => expect(Math.hypot(p[0] - quad[i]![0], p[1] - quad[i]![1])).toBeLessThan(1.2));
  expect(polygon).toHaveLength(4 * pointsPerSide);
  polygon!.slice(0, pointsPerSide).forEach(([, y]) => expect(Math.abs(y - 35)).toBeLessThan(1));
});

test('a curled sheet: both curved edges are followed, from corners alone', () => {
  const photo = sheet((x) => 35 - arch(x), (x) => 225 - arch(x)); // prettier-ignore
  const { quad: corners, polygon } = traceOutline(photo, quad)!;
  corners.forEach((p, i) => expect(Math.hypot(p[0] - quad[i]![0], p[1] - quad[i]![1])).toBeLessThan(3));
  for (let k = 1; k < pointsPerSide; k++) {
    const [x, y] = polygon![k]!;
    expect(Math.abs(y - (35 - arch(x)))).toBeLessThan(1.5);
    const [u, v] = polygon![2 * pointsPerSide + k]!;
    expect(Math.abs(v - (225 - arch(u)))).toBeLessThan(1.5);
  }
});

test('where nothing is to be seen there is no outline', () => {
  const blank = createRaster(200, 260, 3);
  blank.data.fill(120);
  expect(traceOutline(blank, quad)).toBeNull();
});

describe('between corners that were given', () => {
  test('these stay where they are, and curved edges are followed', () => {
    const photo = sheet((x) => 35 - arch(x), (x) => 225 - arch(x)); // prettier-ignore
    const polygon = sidesNear(photo, quad)!;
    quad.forEach((corner, i) => expect(polygon[i * pointsPerSide]).toEqual(corner));
    for (let k = 1; k < pointsPerSide; k++) expect(Math.abs(polygon[k]![1] - (35 - arch(polygon[k]![0])))).toBeLessThan(1.5);
  });

  test('corners a little beside the sheet keep its straight sides straight', () => {
    const photo = sheet(() => 35, () => 225); // prettier-ignore
    const given = quad.map(([x, y], i): Point => [x + (i % 2 ? 0.8 : -0.8), y + 0.8]) as unknown as Quad;
    const polygon = sidesNear(photo, given)!;
    polygon.slice(0, pointsPerSide).forEach(([, y]) => expect(Math.abs(y - 35.8)).toBeLessThan(0.3));
  });

  test('corners far beside every edge are left as they are, without a curve', () => {
    const photo = sheet(() => 35, () => 225); // prettier-ignore
    photo.data.fill(230, 3 * 200 * 60, 3 * 200 * 200);
    const part: Quad = [[60, 80], [120, 80], [120, 140], [60, 140]]; // prettier-ignore
    expect(sidesNear(photo, part)).toBeUndefined();
  });
});

test('an edge that the lens has blurred, in linear light, is found where it lies on the paper', () => {
  // Paper of 80 % and a desk of 4 % reflectance; sRGB by IEC 61966-2-1.
  const stored = (v: number) => 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
  const cover = (d: number) => 1 / (1 + Math.exp(-d / 0.9));
  const photo = createRaster(200, 260, 3);
  for (let y = 0; y < 260; y++)
    for (let x = 0; x < 200; x++) {
      const share = cover(x - 30.3) * cover(170.3 - x) * cover(y - 35.3) * cover(225.3 - y);
      photo.data.fill(Math.round(stored(0.04 + 0.76 * share)), (y * 200 + x) * 3, (y * 200 + x) * 3 + 3);
    }
  const { quad: corners } = traceOutline(photo, quad)!;
  const truth = [[30.3, 35.3], [170.3, 35.3], [170.3, 225.3], [30.3, 225.3]]; // prettier-ignore
  corners.forEach((p, i) => expect(Math.hypot(p[0] - truth[i]![0]!, p[1] - truth[i]![1]!)).toBeLessThan(0.4));
});
