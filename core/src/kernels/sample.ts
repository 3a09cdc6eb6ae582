import { createRaster, type Raster } from '../raster/raster';
import type { Sampling } from '../rectify/sampling';
import type { Simd } from './simd';

/** Whether the kernels can read a photo: in colour, and with a neighbour to every pixel. */
export const canSample = ({ channels, width, height }: Raster) => channels !== 1 && width > 1 && height > 1;

/** The photo in linear memory with a band of the target behind it; then each band is made and fetched. */
function inBands(
  simd: Simd,
  photo: Raster,
  width: number,
  height: number,
  bandRows: number,
  scratchBytes: number,
  make: (at: { from: number; to: number; scratch: number; y: number; rows: number }) => void,
): Raster {
  const target = createRaster(width, height, 3);
  const [from, to, scratch] = simd.layout(photo.data.length, 3 * width * bandRows, scratchBytes);
  simd.bytes.set(photo.data, from);
  for (let y = 0; y < height; y += bandRows) {
    const rows = Math.min(bandRows, height - y);
    make({ from, to, scratch, y, rows });
    target.data.set(simd.bytes.subarray(to, to + 3 * width * rows), 3 * width * y);
  }
  return target;
}

/** Rows of a band: as high as the kernel's tiles. */
const tile = 32;

/** A photo sampled through a homography. */
export function warpBySimd(
  simd: Simd,
  photo: Raster,
  toPhoto: readonly number[],
  width: number,
  height: number,
  sampling: Sampling,
): Raster {
  return inBands(
    simd,
    photo,
    width,
    height,
    tile,
    0,
    ({ from, to, y, rows }) =>
    simd.run.warpRows(
      from, photo.width, photo.height, photo.channels, Number(sampling === 'cubic'), to, width, y, y + rows, ...toPhoto,
    ), // prettier-ignore
  );
}

/** A photo sampled at positions between the points of a grid, whose cells are `cellPx` wide and high. */
export function unrollBySimd(
  simd: Simd,
  photo: Raster,
  grid: { xs: Float32Array; ys: Float32Array; across: number; cellPx: number },
  width: number,
  height: number,
  sampling: Sampling,
): Raster {
  const { xs, ys, across, cellPx } = grid;
  const pointBytes = 8 * across;
  return inBands(simd, photo, width, height, cellPx, 2 * pointBytes, ({ from, to, scratch, y, rows }) => {
    const first = (y / cellPx) * across;
    simd.floats.set(xs.subarray(first, first + 2 * across), scratch / 4);
    simd.floats.set(ys.subarray(first, first + 2 * across), (scratch + pointBytes) / 4);
    simd.run.unrollRows(
      from, photo.width, photo.height, photo.channels, Number(sampling === 'cubic'), to, width, cellPx, rows, scratch, scratch + pointBytes, across,
    ); // prettier-ignore
  });
}
