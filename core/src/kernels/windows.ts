import { createPlane, type Plane } from '../raster/raster';
import type { Simd } from './simd';

/**
 * Running maximum (sign 1) or minimum (−1) over a square window of 2·radius + 1. A window as long as a power of two is the greater of two half as long;
 * any other is the greater of two that overlap. Rows and columns differ only in how far apart the two lie.
 */
export function extremeBySimd(simd: Simd, { width, height, data }: Plane, radius: number, sign: 1 | -1): Plane {
  const stride = Math.ceil((width + 2 * radius) / 4) * 4;
  const rows = height + 2 * radius;
  const count = stride * rows;
  // What is read behind the last row is never written to the result.
  const [at] = simd.layout(4 * count + 4 * (stride + 1) * (2 * radius + 4));
  const { floats, run } = simd;
  const first = at / 4;
  floats.fill(-sign * Infinity, first, first + count);
  for (let y = 0; y < height; y++) floats.set(data.subarray(y * width, (y + 1) * width), first + (y + radius) * stride + radius);
  const window = 2 * radius + 1;
  for (const step of [1, stride]) {
    let length = 1;
    for (; 2 * length <= window; length *= 2) run.extremePairs(at, at + 4 * step * length, at, count, sign);
    if (length < window) run.extremePairs(at, at + 4 * step * (window - length), at, count, sign);
  }
  const target = createPlane(width, height);
  for (let y = 0; y < height; y++) target.data.set(floats.subarray(first + y * stride, first + y * stride + width), y * width);
  return target;
}

/** Mean over a square window of 2·radius + 1, cut at the borders. */
export function boxMeanBySimd(simd: Simd, { width, height, data }: Plane, radius: number): Plane {
  const ring = 2 * radius + 2;
  const rowBytes = Math.ceil((4 * width) / 64) * 64;
  const [across, sums, perColumn, row] = simd.layout(rowBytes * Math.min(ring, height), 8 * width + 32, 4 * width, 4 * width);
  const { floats, run } = simd;
  new Float64Array(floats.buffer, sums, width + 4).fill(0);
  for (let x = 0; x < width; x++) floats[perColumn / 4 + x] = 1 / (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
  const place = (y: number) => across + rowBytes * (y % Math.min(ring, height));
  const enter = (y: number) => {
    if (y >= height) return;
    floats.set(data.subarray(y * width, (y + 1) * width), row / 4);
    run.runningSums(row, place(y), width, radius);
    run.addFloats(place(y), sums, width, 1);
  };
  const target = createPlane(width, height);
  for (let y = 0; y < radius; y++) enter(y);
  for (let y = 0; y < height; y++) {
    const leave = y - radius - 1;
    if (leave >= 0) run.addFloats(place(leave), sums, width, -1);
    enter(y + radius);
    run.scaleRow(sums, perColumn, 1 / (Math.min(height - 1, y + radius) - Math.max(0, leave + 1) + 1), row, width);
    target.data.set(floats.subarray(row / 4, row / 4 + width), y * width);
  }
  return target;
}
