import { canSample, warpBySimd } from '../kernels/sample';
import { accelerated } from '../kernels/simd';
import { createRaster, type Raster } from '../raster/raster';
import type { Homography } from './homography';
import { pointSampler, type Sampling } from './sampling';

const tile = 32;

/**
 * Samples a photo through a homography in 32×32 tiles of the target so that sideways pages stay in the cache.
 * Points outside the photo repeat its border.
 *
 * @param toPhoto takes target pixels to photo pixels (centres at whole numbers).
 * @returns RGB, or grey for a grey photo.
 */
export function warp(photo: Raster, toPhoto: Homography, width: number, height: number, sampling: Sampling = 'bilinear'): Raster {
  return accelerated(
    (kernels) => warpBySimd(kernels, photo, toPhoto, width, height, sampling),
    () => warpPlain(photo, toPhoto, width, height, sampling),
    canSample(photo),
  );
}

function warpPlain(photo: Raster, toPhoto: Homography, width: number, height: number, sampling: Sampling): Raster {
  const channels = photo.channels === 1 ? 1 : 3;
  const target = createRaster(width, height, channels);
  const out = target.data;
  const sample = pointSampler(photo, sampling);
  const [h0, h1, h2, h3, h4, h5, h6, h7, h8] = toPhoto;
  for (let ty = 0; ty < height; ty += tile) {
    for (let tx = 0; tx < width; tx += tile) {
      const yEnd = Math.min(height, ty + tile);
      const xEnd = Math.min(width, tx + tile);
      for (let y = ty; y < yEnd; y++) {
        let q = (y * width + tx) * channels;
        for (let x = tx; x < xEnd; x++) {
          const w = 1 / (h6 * x + h7 * y + h8);
          sample((h0 * x + h1 * y + h2) * w, (h3 * x + h4 * y + h5) * w, out, q);
          q += channels;
        }
      }
    }
  }
  return target;
}
