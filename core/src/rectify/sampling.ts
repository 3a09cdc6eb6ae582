import type { Raster } from '../raster/raster';

/**
 * Between a photo's pixels: *bilinear*, or *cubic* by the 4×4 pixels about a point, which keeps fine print sharper (Keys, "Cubic convolution interpolation for digital image
 * processing", IEEE TASSP 29 (1981), a = −½).
 */
export type Sampling = 'bilinear' | 'cubic';

/** What pages are made by; what is only looked at goes by bilinear, which takes less than half the time. */
export const pageSampling: Sampling = 'cubic';

/** Writes the colour at a point of the photo; points outside repeat its border. */
export type PointSampler = (x: number, y: number, out: Raster['data'], at: number) => void;

/** The plain twin of the kernels' sampling: RGB of a colour photo, or grey. */
export function pointSampler(photo: Raster, sampling: Sampling): PointSampler {
  const { data, channels: stride, width, height } = photo;
  const channels = stride === 1 ? 1 : 3;
  const row = width * stride;
  const wx = new Float64Array(4);
  const wy = new Float64Array(4);
  return (x, y, out, at) => {
    const sx = x > 0 ? (x < width - 1 ? x : width - 1) : 0;
    const sy = y > 0 ? (y < height - 1 ? y : height - 1) : 0;
    const x0 = sx | 0;
    const y0 = sy | 0;
    const fx = sx - x0;
    const fy = sy - y0;
    const p = y0 * row + x0 * stride;
    // Beside the photo's border there are no four by four.
    if (sampling === 'cubic' && x0 > 0 && y0 > 0 && x0 < width - 2 && y0 < height - 2) {
      cubicWeights(fx, wx);
      cubicWeights(fy, wy);
      for (let c = 0; c < channels; c++) {
        let v = 0;
        for (let j = 0, q = p + c - row - stride; j < 4; j++, q += row)
          v += wy[j] * (wx[0] * data[q] + wx[1] * data[q + stride] + wx[2] * data[q + 2 * stride] + wx[3] * data[q + 3 * stride]);
        out[at + c] = v < 0 ? 0 : v > 255 ? 255 : v;
      }
      return;
    }
    const right = x0 < width - 1 ? stride : 0;
    const below = y0 < height - 1 ? row : 0;
    const w11 = fx * fy;
    const w10 = fx - w11;
    const w01 = fy - w11;
    const w00 = 1 - fx - w01;
    for (let c = 0, i = p; c < channels; c++, i++)
      out[at + c] = data[i] * w00 + data[i + right] * w10 + data[i + below] * w01 + data[i + below + right] * w11;
  };
}

/** Weights of the pixels at −1, 0, 1 and 2 for a point at t, 0 … 1. */
export function cubicWeights(t: number, out: Float64Array): void {
  const u = t * t;
  const v = u * t;
  out[0] = -0.5 * v + u - 0.5 * t;
  out[1] = 1.5 * v - 2.5 * u + 1;
  out[2] = -1.5 * v + 2 * u + 0.5 * t;
  out[3] = 0.5 * v - 0.5 * u;
}
