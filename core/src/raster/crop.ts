import { createRaster, type Box, type Plane, type Raster } from './raster';

export type { Box };

export function crop({ width, channels, data }: Raster, box: Box): Raster {
  const target = createRaster(box.width, box.height, channels);
  for (let y = 0; y < box.height; y++) {
    const from = ((box.y + y) * width + box.x) * channels;
    target.data.set(data.subarray(from, from + box.width * channels), y * box.width * channels);
  }
  return target;
}

/** A coarse grid over a picture, read through a part of it: the values are those that it has there, to the last bit. */
export const within = (grid: Plane, picture: { width: number; height: number }, box: Box): Plane => ({
  ...grid,
  part: { ...box, of: { width: picture.width, height: picture.height } },
});
