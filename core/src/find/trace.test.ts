import { createRaster, type Point, type Quad, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { pointsPerSide, traceOutline } from './trace';

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
