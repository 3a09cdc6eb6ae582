import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import type { Point, Quad, Raster } from '../raster/raster';
import { homography } from '../rectify/homography';
import { warp } from '../rectify/warp';

const width = 24;
const height = 32;
/** Below this standard deviation (luma levels) a page counts as having nothing on it. */
const blankSpread = 2.5;

/** What a page looks like at 24×32, with its own light and contrast taken out: enough to tell one sheet from the next. */
export interface Signature {
  values: Float32Array;
  blank: boolean;
}

/** @param quad the page's corners in the frame's pixels. */
export function pageSignature(frame: Raster, quad: Quad): Signature {
  const corners: Point[] = [[-2, -2], [width + 1, -2], [width + 1, height + 1], [-2, height + 1]]; // prettier-ignore
  // Sampled finer and blurred first: lines of print would alias at this size and look different after the smallest shift.
  const fine = 4;
  const finer = corners.map(([x, y]): Point => [(x + 0.5) * fine - 0.5, (y + 0.5) * fine - 0.5]);
  const page = gaussian(lumaPlane(warp(frame, homography(finer, quad), width * fine, height * fine)), fine);
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data[y * width + x] = page.data[(y * fine + fine / 2) * width * fine + x * fine + fine / 2];
  // The slow change of light across the page is no mark of it: a plane is taken out.
  let mean = 0;
  let gx = 0;
  let gy = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = data[y * width + x];
      mean += v;
      gx += v * (x - (width - 1) / 2);
      gy += v * (y - (height - 1) / 2);
    }
  const n = width * height;
  mean /= n;
  gx /= (n * (width * width - 1)) / 12;
  gy /= (n * (height * height - 1)) / 12;
  const values = new Float32Array(n);
  let square = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = data[y * width + x] - mean - gx * (x - (width - 1) / 2) - gy * (y - (height - 1) / 2);
      values[y * width + x] = v;
      square += v * v;
    }
  const spread = Math.sqrt(square / n);
  for (let i = 0; i < n; i++) values[i] /= Math.max(1e-6, spread);
  return { values, blank: spread < blankSpread };
}

/** −1..1, about 1 for the same page: the best correlation within a shift of one cell. Two blank pages are alike. */
export function likeness(a: Signature, b: Signature): number {
  if (a.blank || b.blank) return a.blank && b.blank ? 1 : 0;
  let best = -1;
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      let sum = 0;
      let count = 0;
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y++)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x++) {
          sum += a.values[y * width + x] * b.values[(y + dy) * width + x + dx];
          count++;
        }
      best = Math.max(best, sum / count);
    }
  return best;
}
