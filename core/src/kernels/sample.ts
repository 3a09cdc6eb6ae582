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
  const [top, end] = rowsNeeded(toPhoto, width, height, photo.height);
  const { width: across, channels, data } = photo;
  const part: Raster = { ...photo, height: end - top, data: data.subarray(top * across * channels, end * across * channels) };
  const [a, b, c, d, e, f, g, h, i] = toPhoto;
  const toPart = [a, b, c, d - top * g, e - top * h, f - top * i, g, h, i];
  return inBands(
    simd,
    part,
    width,
    height,
    tile,
    0,
    ({ from, to, y, rows }) =>
      simd.run.warpRows(from, across, part.height, channels, Number(sampling === 'cubic'), to, width, y, y + rows, ...toPart), // prettier-ignore
  );
}

/** The photo's rows, from the first one to before the last one, between which a homography takes its samples, with two to spare. */
function rowsNeeded(toPhoto: readonly number[], width: number, height: number, most: number): [top: number, end: number] {
  const [, , , d, e, f, g, h, i] = toPhoto;
  const corners = [[0, 0], [width - 1, 0], [0, height - 1], [width - 1, height - 1]]; // prettier-ignore
  const depths = corners.map(([x, y]) => g * x + h * y + i);
  // A horizon within the page: any row may be needed.
  if (!depths.every((w) => w > 0) && !depths.every((w) => w < 0)) return [0, most];
  const rows = corners.map(([x, y], k) => (d * x + e * y + f) / depths[k]);
  const top = Math.max(0, Math.min(most - 2, Math.floor(Math.min(...rows)) - 2));
  return [top, Math.min(most, Math.max(top + 2, Math.ceil(Math.max(...rows)) + 3))];
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
