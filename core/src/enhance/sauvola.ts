import { mostWindow, sauvolaBySimd } from '../kernels/sauvola';
import { accelerated } from '../kernels/simd';
import { createRaster, type Raster } from '../raster/raster';

export interface SauvolaOptions {
  /** Window side in px, odd; default 61 (about 8 mm at 200 dpi). */
  window?: number;
  /** Weight of the local contrast; default 0.25. */
  k?: number;
  /** Dynamic range of the standard deviation; default 128. */
  range?: number;
  /** The threshold is kept within these, 0..255; default 0 and 255. */
  least?: number;
  most?: number;
}

const f32 = Math.fround;

/**
 * Adaptive threshold T = m·(1 + k·(s/R − 1)): Sauvola and Pietikäinen, "Adaptive document image binarization", Pattern Recognition 33 (2000).
 * Local mean m and deviation s by sliding column sums over windows cut at the borders.
 *
 * @param grey one channel.
 * @returns one channel, 0 (ink) or 255 (paper).
 */
export function sauvola(grey: Raster, options: SauvolaOptions = {}): Raster {
  const { window = 61, k = 0.25, range = 128, least = 0, most = 255 } = options;
  if (grey.channels !== 1) throw new RangeError(`Sauvola works on one channel, received ${grey.channels}`);
  const rule = { radius: window >> 1, k, range, least, most };
  return accelerated(
    (kernels) => sauvolaBySimd(kernels, grey, rule),
    () => sauvolaPlain(grey, rule),
    window <= mostWindow,
  );
}

function sauvolaPlain(
  grey: Raster,
  { radius, k, range, least, most }: Required<Omit<SauvolaOptions, 'window'>> & { radius: number },
) {
  const { width, height, data } = grey;
  const less = f32(1 - k);
  const weight = f32((k / range) ** 2);
  const sums = new Float64Array(width);
  const squares = new Float64Array(width);
  const target = createRaster(width, height, 1);
  const add = (row: number, sign: number) => {
    for (let x = 0, p = row * width; x < width; x++, p++) {
      const v = data[p];
      sums[x] += sign * v;
      squares[x] += sign * v * v;
    }
  };
  for (let y = 0; y < Math.min(radius, height); y++) add(y, 1);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) add(y + radius, 1);
    if (y - radius - 1 >= 0) add(y - radius - 1, -1);
    const rows = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
    let s = 0;
    let q = 0;
    for (let x = 0; x < Math.min(radius, width); x++) {
      s += sums[x];
      q += squares[x];
    }
    for (let x = 0, p = y * width; x < width; x++, p++) {
      if (x + radius < width) {
        s += sums[x + radius];
        q += squares[x + radius];
      }
      if (x - radius - 1 >= 0) {
        s -= sums[x - radius - 1];
        q -= squares[x - radius - 1];
      }
      const n = rows * (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
      // Without root and division, in single precision as the kernel: v ≤ T where max(0, A)² ≤ (k / R)²·S²·(n·Q − S²), A = n²·v − n·(1 − k)·S.
      const v = data[p];
      const sum = f32(s);
      const a = f32(f32(f32(n * n) * v) - f32(f32(n * less) * sum));
      const ss = f32(sum * sum);
      const spread = f32(f32(n * f32(q)) - ss);
      const over = Math.max(0, a);
      const under = f32(over * over) <= f32(f32(ss * weight) * spread);
      target.data[p] = v <= least || (under && v <= most) ? 0 : 255;
    }
  }
  return target;
}
