import type { Plane } from '../raster/raster';
import { openCv } from '../testing/opencv';
import { random } from '../testing/pictures';
import { edgels, gradient } from './gradient';

const plane = (width: number, height: number, at: (x: number, y: number) => number): Plane => {
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * width + x] = at(x, y);
  return { width, height, data };
};

test('derivatives are Sobel’s, as OpenCV works them out', async () => {
  const cv = await openCv();
  const next = random(9);
  const [width, height] = [37, 29];
  const picture = plane(width, height, () => next() * 100);
  const source = cv.matFromArray(height, width, cv.CV_32FC1, picture.data);
  const [gx, gy] = [new cv.Mat(), new cv.Mat()];
  // The kernel of 3 adds up to eight steps of one pixel.
  cv.Sobel(source, gx, cv.CV_32F, 1, 0, 3, 1 / 8);
  cv.Sobel(source, gy, cv.CV_32F, 0, 1, 3, 1 / 8);
  const ours = gradient(picture, 5, 0);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const p = y * width + x;
      expect(ours.gx[p]).toBeCloseTo(gx.data32F[p], 3);
      expect(ours.gy[p]).toBeCloseTo(gy.data32F[p], 3);
      expect(ours.magnitude[p]).toBeCloseTo(Math.hypot(gx.data32F[p], gy.data32F[p]), 3);
    }
}, 60_000);

test('an edge of a few levels stands out of the noise, and is placed to a tenth of a pixel', () => {
  const next = random(2);
  // A step of 4 levels under a Gaussian, at an angle of 20°.
  const turn = (20 * Math.PI) / 180;
  const [nx, ny] = [Math.cos(turn), Math.sin(turn)];
  const smooth = plane(120, 90, (x, y) => 200 + 4 / (1 + Math.exp(-(nx * (x - 60.3) + ny * (y - 45)) / 0.8)) + (next() - 0.5) * 0.1); // prettier-ignore
  const points = edgels(gradient(smooth, 9, 0.12));
  const strong = Array.from({ length: points.count }, (_, i) => i).filter((i) => points.weight[i] > 0.5);
  expect(strong.length).toBeGreaterThan(60);
  for (const i of strong) {
    expect(Math.abs(nx * (points.x[i] - 60.3) + ny * (points.y[i] - 45))).toBeLessThan(0.35);
    expect(Math.abs(points.angle[i] - turn)).toBeLessThan(0.15);
  }
  const off = strong.map((i) => nx * (points.x[i] - 60.3) + ny * (points.y[i] - 45));
  expect(Math.abs(off.reduce((s, v) => s + v, 0) / off.length)).toBeLessThan(0.1);
});

test('strength is told against the surroundings: the same step weighs less among other edges', () => {
  const step = (x: number) => (x < 60 ? 50 : 70);
  const alone = edgels(gradient(plane(120, 80, step), 9, 0.12));
  const among = edgels(gradient(plane(120, 80, (x, y) => step(x) + (Math.floor(y / 3) % 2) * 40), 9, 0.12)); // prettier-ignore
  const weightAt = (e: ReturnType<typeof edgels>) =>
    Math.max(...Array.from({ length: e.count }, (_, i) => (Math.abs(e.x[i] - 59.5) < 1.5 && Math.abs(Math.cos(e.angle[i])) > 0.8 ? e.weight[i] : 0))); // prettier-ignore
  expect(weightAt(alone)).toBeGreaterThan(0.8);
  expect(weightAt(among)).toBeLessThan(weightAt(alone) - 0.1);
});

test('an even plane has no edges', () => {
  expect(
    edgels(
      gradient(
        plane(40, 30, () => 77),
        9,
        0.12,
      ),
    ).count,
  ).toBe(0);
});
