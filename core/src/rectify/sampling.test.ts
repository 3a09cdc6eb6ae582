import { createRaster, type Raster } from '../raster/raster';
import { noisePicture } from '../testing/pictures';
import { cubicWeights, pointSampler } from './sampling';

const weights = (t: number) => {
  const w = new Float64Array(4);
  cubicWeights(t, w);
  return [...w];
};

/** Keys' kernel as his paper has it (equation 15, a = −½), from memory. */
function kernel(s: number): number {
  const x = Math.abs(s);
  if (x < 1) return 1.5 * x ** 3 - 2.5 * x ** 2 + 1;
  return x < 2 ? -0.5 * x ** 3 + 2.5 * x ** 2 - 4 * x + 2 : 0;
}

test('weights are the published kernel’s, and add up to one', () => {
  for (let t = 0; t <= 1; t += 0.1) {
    const w = weights(t);
    [-1, 0, 1, 2].forEach((at, i) => expect(w[i]).toBeCloseTo(kernel(t - at), 12));
    expect(w.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
  }
  expect(weights(0)).toEqual([0, 1, 0, 0]);
});

const quadratic = (x: number, y: number) => 20 + 2 * (x - 6) ** 2 + 2 * (y - 6) ** 2;

function at(photo: Raster, sampling: 'bilinear' | 'cubic', x: number, y: number): number[] {
  const out = new Uint8ClampedArray(3);
  pointSampler(photo, sampling)(x, y, out, 0);
  return [...out];
}

test('cubic convolution reproduces quadratics (Keys 1981: error of third order), bilinear does not', () => {
  const photo = createRaster(13, 13, 1);
  for (let y = 0; y < 13; y++) for (let x = 0; x < 13; x++) photo.data[y * 13 + x] = quadratic(x, y);
  const bias = (sampling: 'bilinear' | 'cubic') => {
    const off: number[] = [];
    for (let y = 2; y < 10; y += 0.37)
      for (let x = 2; x < 10; x += 0.41) off.push(at(photo, sampling, x, y)[0] - quadratic(x, y));
    return off.reduce((a, b) => a + b, 0) / off.length;
  };
  expect(Math.abs(bias('cubic'))).toBeLessThan(0.08);
  // Chords lie above the curve: by (f″x + f″y) / 12 = 0.67 on average.
  expect(bias('bilinear')).toBeCloseTo(0.67, 1);
});

test('at a pixel it is that pixel; beside the border and outside it repeats what is there', () => {
  const photo = noisePicture(9, 7, 3, 4);
  const pixel = (x: number, y: number) => [...photo.data.slice((y * 9 + x) * 3, (y * 9 + x) * 3 + 3)];
  for (const sampling of ['bilinear', 'cubic'] as const) {
    for (const [x, y] of [[0, 0], [4, 3], [8, 6], [1, 5]] as const) expect(at(photo, sampling, x, y)).toEqual(pixel(x, y)); // prettier-ignore
    expect(at(photo, sampling, -40, 99)).toEqual(pixel(0, 6));
    expect(at(photo, sampling, NaN, 2)).toEqual(pixel(0, 2));
  }
});

test('fine print keeps more of its contrast', () => {
  // Lines of two pixels and gaps of two, looked at a quarter of a pixel beside.
  const photo = createRaster(40, 12, 1);
  for (let y = 0; y < 12; y++) for (let x = 0; x < 40; x++) photo.data[y * 40 + x] = x % 4 < 2 ? 60 : 190;
  const swing = (sampling: 'bilinear' | 'cubic') => {
    const values = Array.from({ length: 24 }, (_, i) => at(photo, sampling, 8 + i + 0.5, 6)[0]);
    return Math.max(...values) - Math.min(...values);
  };
  expect(swing('cubic')).toBeGreaterThan(swing('bilinear') + 10);
});
