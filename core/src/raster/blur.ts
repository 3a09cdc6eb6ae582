import { createPlane, type Plane } from './raster';

/** Separable Gaussian blur with edges repeated; kernel cut at 3 σ. */
export function gaussian(source: Plane, sigma: number): Plane {
  if (sigma <= 0) return source;
  const radius = Math.max(1, Math.ceil(sigma * 3));
  const kernel = new Float32Array(radius * 2 + 1);
  let sum = 0;
  for (let i = -radius; i <= radius; i++) sum += kernel[i + radius] = Math.exp(-(i * i) / (2 * sigma * sigma));
  for (let i = 0; i < kernel.length; i++) kernel[i] = kernel[i] / sum;
  const { width, height, data } = source;
  const across = new Float32Array(width * height);
  const padded = new Float32Array(width + 2 * radius);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = -radius; x < width + radius; x++) padded[x + radius] = data[row + (x < 0 ? 0 : x >= width ? width - 1 : x)];
    for (let x = 0; x < width; x++) {
      let v = kernel[radius] * padded[x + radius];
      for (let k = 1; k <= radius; k++) v += kernel[radius + k] * (padded[x + radius - k] + padded[x + radius + k]);
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
      const weight = k === 0 ? kernel[radius] / 2 : kernel[radius + k];
      for (let x = 0; x < width; x++) out[to + x] += weight * (across[above + x] + across[below + x]);
    }
  }
  return target;
}

/** Mean over a (2·radius+1)² window, cut at the borders, by running sums. */
export function boxMean(source: Plane, radius: number): Plane {
  const { width, height } = source;
  const across = createPlane(width, height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x <= Math.min(radius - 1, width - 1); x++) sum += source.data[row + x];
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += source.data[row + x + radius];
      if (x - radius - 1 >= 0) sum -= source.data[row + x - radius - 1];
      across.data[row + x] = sum / (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
    }
  }
  const target = createPlane(width, height);
  const sums = new Float64Array(width);
  for (let y = 0; y <= Math.min(radius - 1, height - 1); y++)
    for (let x = 0; x < width; x++) sums[x] = sums[x] + across.data[y * width + x];
  for (let y = 0; y < height; y++) {
    const enter = y + radius < height ? (y + radius) * width : -1;
    const leave = y - radius - 1 >= 0 ? (y - radius - 1) * width : -1;
    const count = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
    for (let x = 0; x < width; x++) {
      let s = sums[x];
      if (enter >= 0) s += across.data[enter + x];
      if (leave >= 0) s -= across.data[leave + x];
      sums[x] = s;
      target.data[y * width + x] = s / count;
    }
  }
  return target;
}
