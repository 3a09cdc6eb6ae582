import { blueNoise, noiseSide } from './blueNoise';

/** Mean power of a pattern between two radii of its discrete Fourier transform, cycles per pattern. */
function power(pattern: Float32Array, from: number, to: number): number {
  const n = noiseSide;
  let sum = 0;
  let count = 0;
  for (let v = 0; v <= n / 2; v++)
    for (let u = 0; u <= n / 2; u++) {
      const radius = Math.hypot(u, v);
      if (radius < from || radius >= to) continue;
      let [re, im] = [0, 0];
      for (let y = 0; y < n; y++)
        for (let x = 0; x < n; x++) {
          const angle = (-2 * Math.PI * (u * x + v * y)) / n;
          const value = pattern[y * n + x] - 127.5;
          re += value * Math.cos(angle);
          im += value * Math.sin(angle);
        }
      sum += re * re + im * im;
      count++;
    }
  return sum / count;
}

test('each threshold once, so that every tone has as many dots as it has white', () => {
  const levels = [...blueNoise()].sort((a, b) => a - b);
  levels.forEach((level, i) => expect(level).toBeCloseTo(((i + 0.5) / levels.length) * 255, 3));
});

test('next to no power in low frequencies: no clusters to be seen (what makes noise blue, Ulichney, Proc. IEEE 76 (1988))', () => {
  expect(power(blueNoise(), 1, 6)).toBeLessThan(0.05 * power(blueNoise(), 24, 28));
}, 30_000);
