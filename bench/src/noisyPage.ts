import { createRaster, type Raster } from '@libretto/core';

/** A picture to time kernels on: lines of print on paper that is lit from one side, with noise. */
export function noisyPage(width: number, height: number, channels: 1 | 3 | 4): Raster {
  const page = createRaster(width, height, channels);
  let state = 1;
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const print = y % 50 < 24 && (x * 7) % 31 < 12;
      const level = (print ? 40 : 235) * (0.6 + (0.4 * x) / width);
      for (let c = 0; c < channels; c++) {
        state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
        page.data[p++] = level + (state >>> 28);
      }
    }
  return page;
}
