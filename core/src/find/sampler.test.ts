import { labOf } from '../raster/colour';
import { createRaster } from '../raster/raster';
import { noisePicture } from '../testing/pictures';
import { labSampler, lightSampler, planeSampler, sampledBy, type Sampler } from './sampler';

/** One place, with a step of `along` px to the right along the side. */
function at(sample: Sampler, x: number, y: number, along = 1): number {
  const out = new Float32Array(1);
  sample({ x, y, stepX: 0, stepY: 1, count: 1, alongX: along, alongY: 0 }, out);
  return out[0];
}

const encode = (linear: number) => 255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055);

test('a photo’s sampler takes the mean of five pixels along the side, also near its border', () => {
  const photo = noisePicture(60, 40, 3, 5);
  const mean = (xs: readonly number[], y: number, c: number) =>
    xs.reduce((sum, x) => sum + photo.data[(y * 60 + x) * 3 + c], 0) / xs.length;
  const lab = (xs: readonly number[], y: number, channel: number) =>
    labOf(mean(xs, y, 0), mean(xs, y, 1), mean(xs, y, 2), channel);
  for (const channel of [0, 1, 2]) {
    const sample = labSampler(photo, channel, 1);
    expect(at(sample, 30.2, 20.4)).toBeCloseTo(lab([28, 29, 30, 31, 32], 20, channel), 3);
    // What lies outside does not count.
    expect(at(sample, 1.2, 0)).toBeCloseTo(lab([0, 1, 2, 3], 0, channel), 3);
    expect(at(sample, 59, 39)).toBeCloseTo(lab([57, 58, 59], 39, channel), 3);
  }
});

test('in three rows it is the mean of fifteen', () => {
  const photo = noisePicture(60, 40, 1, 9);
  const levels = [19, 20, 21].flatMap((y) => [28, 29, 30, 31, 32].map((x) => photo.data[y * 60 + x]));
  const mean = levels.reduce((a, b) => a + b, 0) / 15;
  expect(at(labSampler(photo, 0, 1, 3), 30, 20)).toBeCloseTo(labOf(mean, mean, mean, 0), 3);
});

test('a row of places is the places one by one, turned as it may be', () => {
  const photo = noisePicture(90, 70, 4, 2);
  const places = { x: 30, y: 20, stepX: 0.53, stepY: 0.4, count: 40, alongX: -1.2, alongY: 1.6 };
  for (const sample of [lightSampler(photo, 1.3), labSampler(photo, 2, 2)]) {
    const row = new Float32Array(40);
    sample(places, row);
    for (const k of [0, 17, 39]) {
      const alone = new Float32Array(1);
      sample({ ...places, x: 30 + k * 0.53, y: 20 + k * 0.4, count: 1 }, alone);
      expect(row[k]).toBeCloseTo(alone[0], 4);
    }
  }
});

test('far out on a very wide picture the same is read', () => {
  const strip = createRaster(70_000, 30, 1);
  strip.data.fill(119);
  for (const sample of [labSampler(strip, 0, 1), lightSampler(strip, 1)])
    expect(at(sample, 69_990, 15)).toBeCloseTo(at(sample, 20, 15), 5);
});

test('samplers say nothing outside the picture, and the middle of a grey is its lightness', () => {
  const grey = createRaster(40, 30, 1);
  grey.data.fill(119);
  expect(at(labSampler(grey, 0, 1), 20, 15)).toBeCloseTo(50, 0);
  expect(at(labSampler(grey, 1, 1), 20, 15)).toBeCloseTo(0, 1);
  expect(at(lightSampler(grey, 1), 20, 15)).toBeCloseTo(18.4, 0);
  for (const [x, y] of [[-3, 15], [40, 15], [20, -1], [20, 30]]) expect(at(labSampler(grey, 0, 1), x, y)).toBeNaN(); // prettier-ignore
  expect(at(labSampler(grey, 0, 1), 0, 0)).toBeCloseTo(50, 0);
  const plane = { width: 5, height: 3, data: Float32Array.from({ length: 15 }, (_, i) => i) };
  expect(at(planeSampler(plane), 2, 1)).toBe(7);
  expect(at(planeSampler(plane), 5, 1)).toBeNaN();
});

test('a lens’s blur moves an edge to the dark side in L*, not in linear light', () => {
  // A step at 50.3 in light, blurred by a logistic curve of about 1.6 px.
  const photo = createRaster(100, 20, 3);
  for (let x = 0; x < 100; x++)
    for (let y = 0; y < 20; y++) {
      const inside = 1 / (1 + Math.exp(-(x - 50.3)));
      photo.data.fill(encode(0.05 + 0.75 * inside), (y * 100 + x) * 3, (y * 100 + x) * 3 + 3);
    }
  const steepest = (sample: Sampler) => {
    const row = new Float32Array(40);
    sample({ x: 30, y: 10, stepX: 1, stepY: 0, count: 40, alongX: 0, alongY: 1 }, row);
    let [sum, weight] = [0, 0];
    for (let k = 1; k < 39; k++) {
      const slope = Math.max(0, row[k + 1] - row[k - 1]);
      sum += slope * (30 + k);
      weight += slope;
    }
    return sum / weight;
  };
  expect(Math.abs(steepest(lightSampler(photo, 1)) - 50.3)).toBeLessThan(0.05);
  expect(steepest(labSampler(photo, 0, 1))).toBeLessThan(50);
});

test('a function can be asked place by place', () => {
  const row = new Float32Array(3);
  sampledBy((x, y) => x + 10 * y)({ x: 1, y: 2, stepX: 1, stepY: 0.5, count: 3, alongX: 0, alongY: 0 }, row);
  expect([...row]).toEqual([21, 27, 33]);
});
