import { gaussian } from '../raster/blur';
import { createRaster, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { sharpness } from './sharpness';

/** Words of print: dark bars, upright, level and slanting, on paper. */
function print(contrast = 190, noise = 0): Raster {
  const picture = createRaster(260, 260, 1);
  const next = random(3);
  picture.data.fill(230);
  const bar = (x0: number, y0: number, dx: number, dy: number, long: number, thick: number) => {
    for (let t = 0; t < long; t += 0.5)
      for (let s = 0; s < thick; s += 0.5) {
        const x = Math.round(x0 + dx * t - dy * s);
        const y = Math.round(y0 + dy * t + dx * s);
        if (x >= 0 && y >= 0 && x < 260 && y < 260) picture.data[y * 260 + x] = 230 - contrast;
      }
  };
  for (let k = 0; k < 60; k++) {
    const a = (k % 4) * (Math.PI / 4);
    bar(20 + (k % 10) * 23, 20 + Math.floor(k / 10) * 38, Math.cos(a), Math.sin(a), 16, 9);
  }
  for (let i = 0; i < picture.data.length; i++) picture.data[i] += (next() + next() - 1) * noise;
  return picture;
}
function blurred(picture: Raster, sigma: number): Raster {
  const { width, height, data } = picture;
  const plane = gaussian({ width, height, data: Float32Array.from(data) }, sigma);
  return { width, height, channels: 1, data: Uint8ClampedArray.from(plane.data) };
}

// Slope over step of an ideal edge under a Gaussian of σ is 1 / (σ√(2π)): the peak of the line spread function, ISO 12233's e-SFR differentiated.
test.each([1.5, 2, 2.5])('a step blurred by σ = %f px is measured as such', (sigma) => {
  const { slope } = sharpness(blurred(print(), sigma))!;
  const ideal = 1 / (sigma * Math.sqrt(2 * Math.PI));
  // A central difference over two pixels sees a little less than the peak; a step cut at ±4 px a little more.
  expect(slope / ideal).toBeGreaterThan(0.85);
  expect(slope / ideal).toBeLessThan(1.25);
});

test('it falls with blur, whatever the contrast', () => {
  for (const contrast of [70, 190]) {
    const slopes = [0.5, 1, 2, 3].map((s) => sharpness(blurred(print(contrast, 4), s))!.slope);
    expect([...slopes].sort((a, b) => b - a)).toEqual(slopes);
  }
  const pale = sharpness(blurred(print(70), 1.5))!.slope;
  expect(Math.abs(pale / sharpness(blurred(print(190), 1.5))!.slope - 1)).toBeLessThan(0.1);
});

test('a hand that moved blurs one direction only, and that one counts', () => {
  const moved = createRaster(260, 260, 1);
  const still = print();
  for (let y = 0; y < 260; y++)
    for (let x = 0; x < 260; x++) {
      let sum = 0;
      for (let k = -4; k <= 4; k++) sum += still.data[y * 260 + Math.max(0, Math.min(259, x + k))];
      moved.data[y * 260 + x] = sum / 9;
    }
  expect(sharpness(moved)!.slope).toBeLessThan(0.6 * sharpness(still)!.slope);
});

test('far out of focus is not taken for empty', () => {
  const { slope } = sharpness(blurred(print(), 7))!;
  // A step that fills the whole window of ±4 px has a slope of 1/8 of itself: nothing blurred measures lower at full size. Sharp is from 0.22.
  expect(slope).toBeLessThan(0.15);
});

test('an empty page is neither sharp nor blurred', () => {
  const empty = createRaster(200, 200, 1);
  empty.data.fill(220);
  expect(sharpness(empty)).toBeNull();
});
