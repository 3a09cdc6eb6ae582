import { blurBySimd, blurPlaneBySimd, shortTaps } from '../kernels/blur';
import { accelerated } from '../kernels/simd';
import { boxMeanBySimd } from '../kernels/windows';
import { createPlane, createRaster, type Plane, type Raster } from './raster';

/** From this σ on three running means are as good as a Gaussian and take the same time for any width. */
const wideSigma = 2.5;

/** Separable Gaussian blur: a kernel cut at 3 σ with edges repeated, or from σ 2.5 on running means with windows cut at the edges. */
export function gaussian(source: Plane, sigma: number): Plane {
  if (sigma <= 0) return source;
  if (sigma >= wideSigma) return widthsFor(sigma).reduce((plane, width) => boxMean(plane, (width - 1) / 2), source);
  const kernel = gaussianKernel(sigma);
  return accelerated(
    (kernels) => blurPlaneBySimd(kernels, source, kernel),
    () => (kernel.length === 4 ? sevenTaps(source, kernel) : taps(source, kernel)),
  );
}

/** One half of a Gaussian from its middle outwards, cut at 3 σ; with its mirror image the weights add up to 1. */
export function gaussianKernel(sigma: number): Float32Array {
  const radius = Math.max(1, Math.ceil(sigma * 3));
  const kernel = Float32Array.from({ length: radius + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)));
  const sum = kernel.reduce((s, v, i) => s + (i ? 2 : 1) * v, 0);
  return kernel.map((v) => v / sum);
}

/** Odd widths of three boxes that together have the variance σ²: Kovesi, "Fast almost-Gaussian filtering", DICTA 2010. */
function widthsFor(sigma: number): number[] {
  const n = 3;
  const ideal = Math.sqrt((12 * sigma * sigma) / n + 1);
  const lower = Math.floor((ideal - 1) / 2) * 2 + 1;
  const lowers = Math.round((12 * sigma * sigma - n * lower * lower - 4 * n * lower - 3 * n) / (-4 * lower - 4));
  return Array.from({ length: n }, (_, i) => (i < lowers ? lower : lower + 2));
}

function taps(source: Plane, kernel: Float32Array): Plane {
  const { width, height, data } = source;
  const radius = kernel.length - 1;
  const across = new Float32Array(width * height);
  const padded = new Float32Array(width + 2 * radius);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = -radius; x < width + radius; x++) padded[x + radius] = data[row + (x < 0 ? 0 : x >= width ? width - 1 : x)];
    for (let x = 0; x < width; x++) {
      let v = kernel[0] * padded[x + radius];
      for (let k = 1; k <= radius; k++) v += kernel[k] * (padded[x + radius - k] + padded[x + radius + k]);
      across[row + x] = v;
    }
  }
  const target = createPlane(width, height);
  const out = target.data;
  for (let y = 0; y < height; y++) {
    const to = y * width;
    for (let k = 0; k <= radius; k++) {
      const above = Math.max(0, y - k) * width;
      const below = Math.min(height - 1, y + k) * width;
      const weight = k === 0 ? kernel[0] / 2 : kernel[k];
      for (let x = 0; x < width; x++) out[to + x] += weight * (across[above + x] + across[below + x]);
    }
  }
  return target;
}

/** σ up to 1, the finder's: unrolled, three times as fast. */
function sevenTaps(source: Plane, kernel: Float32Array): Plane {
  const { width, height, data } = source;
  const [k0, k1, k2, k3] = kernel;
  const across = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const last = row + width - 1;
    let a = data[row];
    let b = a;
    let c = a;
    let d = a;
    let e = data[Math.min(last, row + 1)];
    let f = data[Math.min(last, row + 2)];
    for (let p = row; p <= last; p++) {
      const g = p + 3 <= last ? data[p + 3] : data[last];
      across[p] = k0 * d + k1 * (c + e) + k2 * (b + f) + k3 * (a + g);
      a = b;
      b = c;
      c = d;
      d = e;
      e = f;
      f = g;
    }
  }
  const target = createPlane(width, height);
  const out = target.data;
  for (let y = 0; y < height; y++) {
    const m3 = Math.max(0, y - 3) * width;
    const m2 = Math.max(0, y - 2) * width;
    const m1 = Math.max(0, y - 1) * width;
    const p1 = Math.min(height - 1, y + 1) * width;
    const p2 = Math.min(height - 1, y + 2) * width;
    const p3 = Math.min(height - 1, y + 3) * width;
    const m0 = y * width;
    for (let x = 0; x < width; x++)
      out[m0 + x] =
        k0 * across[m0 + x] +
        k1 * (across[m1 + x] + across[p1 + x]) +
        k2 * (across[m2 + x] + across[p2 + x]) +
        k3 * (across[m3 + x] + across[p3 + x]);
  }
  return target;
}

/** A picture whose channels are blurred by a Gaussian cut at 3 σ, edges repeated, in numbers of 1/64 level. */
export function gaussianPicture(picture: Raster, sigma: number): Raster {
  const kernel = gaussianKernel(sigma);
  return accelerated(
    (kernels) => blurBySimd(kernels, picture, kernel),
    () => blurPlain(picture, kernel),
  );
}

/** The kernels' numbers exactly: a product is rounded as soon as it is made. */
function blurPlain({ width, height, channels, data }: Raster, kernel: Float32Array): Raster {
  const weights = shortTaps(kernel);
  const radius = weights.length - 1;
  const product = (v: number, k: number) => (v * weights[k] + 16384) >> 15;
  const line = width * channels;
  const across = new Int16Array(line * height);
  for (let y = 0; y < height; y++)
    for (let c = 0; c < channels; c++) {
      const at = (x: number) => 64 * data[y * line + Math.max(0, Math.min(width - 1, x)) * channels + c];
      for (let x = 0; x < width; x++) {
        let v = product(at(x), 0);
        for (let k = 1; k <= radius; k++) v += product(at(x - k) + at(x + k), k);
        across[y * line + x * channels + c] = v;
      }
    }
  const target = createRaster(width, height, channels);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < line; x++) {
      const at = (row: number) => across[Math.max(0, Math.min(height - 1, row)) * line + x];
      let v = product(at(y), 0);
      for (let k = 1; k <= radius; k++) v += product(at(y - k) + at(y + k), k);
      target.data[y * line + x] = (v + 32) >> 6;
    }
  return target;
}

/** Mean over a (2·radius+1)² window, cut at the borders, by running sums. */
export function boxMean(source: Plane, radius: number): Plane {
  return accelerated(
    (kernels) => boxMeanBySimd(kernels, source, radius),
    () => boxMeanPlain(source, radius),
  );
}

function boxMeanPlain(source: Plane, radius: number): Plane {
  const { width, height, data } = source;
  const across = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x <= Math.min(radius - 1, width - 1); x++) sum += data[row + x];
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += data[row + x + radius];
      if (x - radius - 1 >= 0) sum -= data[row + x - radius - 1];
      across[row + x] = sum;
    }
  }
  const perColumn = Float32Array.from(
    { length: width },
    (_, x) => 1 / (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1),
  );
  const target = createPlane(width, height);
  const out = target.data;
  // Doubles: running sums of floats would drift down the picture.
  const sums = new Float64Array(width);
  for (let y = 0; y <= Math.min(radius - 1, height - 1); y++) for (let x = 0; x < width; x++) sums[x] += across[y * width + x];
  for (let y = 0; y < height; y++) {
    const enter = y + radius < height ? (y + radius) * width : -1;
    const leave = y - radius - 1 >= 0 ? (y - radius - 1) * width : -1;
    const perRow = 1 / (Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1);
    const to = y * width;
    if (enter >= 0 && leave >= 0)
      for (let x = 0; x < width; x++) {
        const s = sums[x] + across[enter + x] - across[leave + x];
        sums[x] = s;
        out[to + x] = s * perRow * perColumn[x];
      }
    else
      for (let x = 0; x < width; x++) {
        const s = sums[x] + (enter >= 0 ? across[enter + x] : 0) - (leave >= 0 ? across[leave + x] : 0);
        sums[x] = s;
        out[to + x] = s * perRow * perColumn[x];
      }
  }
  return target;
}
