import { canSample, warpBySimd } from '../kernels/sample';
import { simd } from '../kernels/simd';
import { createRaster, type Raster } from '../raster/raster';
import type { Homography } from './homography';

const tile = 32;

/**
 * Samples a photo through a homography, bilinear, in 32×32 tiles of the target so that sideways pages stay in the cache.
 * Points outside the photo repeat its border.
 *
 * @param toPhoto takes target pixels to photo pixels (centres at whole numbers).
 * @returns RGB, or grey for a grey photo.
 */
export function warp(photo: Raster, toPhoto: Homography, width: number, height: number): Raster {
  const kernels = canSample(photo) ? simd() : null;
  return kernels ? warpBySimd(kernels, photo, toPhoto, width, height) : warpPlain(photo, toPhoto, width, height);
}

function warpPlain(photo: Raster, toPhoto: Homography, width: number, height: number): Raster {
  const channels = photo.channels === 1 ? 1 : 3;
  const target = createRaster(width, height, channels);
  const out = target.data;
  const { data, channels: stride, width: pw, height: ph } = photo;
  const [h0, h1, h2, h3, h4, h5, h6, h7, h8] = toPhoto;
  const row = pw * stride;
  for (let ty = 0; ty < height; ty += tile) {
    for (let tx = 0; tx < width; tx += tile) {
      const yEnd = Math.min(height, ty + tile);
      const xEnd = Math.min(width, tx + tile);
      for (let y = ty; y < yEnd; y++) {
        let q = (y * width + tx) * channels;
        for (let x = tx; x < xEnd; x++) {
          const w = 1 / (h6 * x + h7 * y + h8);
          let sx = (h0 * x + h1 * y + h2) * w;
          let sy = (h3 * x + h4 * y + h5) * w;
          if (!(sx > 0)) sx = 0;
          else if (sx > pw - 1) sx = pw - 1;
          if (!(sy > 0)) sy = 0;
          else if (sy > ph - 1) sy = ph - 1;
          const x0 = sx | 0;
          const y0 = sy | 0;
          const fx = sx - x0;
          const fy = sy - y0;
          const p = y0 * row + x0 * stride;
          const right = x0 < pw - 1 ? stride : 0;
          const below = y0 < ph - 1 ? row : 0;
          const w11 = fx * fy;
          const w10 = fx - w11;
          const w01 = fy - w11;
          const w00 = 1 - fx - w01;
          for (let c = 0; c < channels; c++) {
            const i = p + c;
            out[q++] = data[i] * w00 + data[i + right] * w10 + data[i + below] * w01 + data[i + below + right] * w11;
          }
        }
      }
    }
  }
  return target;
}
