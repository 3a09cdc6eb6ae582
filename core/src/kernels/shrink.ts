import { createRaster, type Raster } from '../raster/raster';
import type { Simd } from './simd';

/** For each target cell: the first and last source cell it covers, and how much of those two. */
export interface Coverage {
  first: Int32Array;
  last: Int32Array;
  firstWeight: Float32Array;
  lastWeight: Float32Array;
}

/** Source bytes copied at a time: what stays in the second-level cache. */
const stripBytes = 256 * 1024;

/** Sums of whole rows are kept in 16 bits. */
export const mostRows = 256;

/** Area shrink of RGB or RGBA to RGB. */
export function shrinkBySimd(
  simd: Simd,
  source: Raster,
  width: number,
  height: number,
  rows: Coverage,
  columns: Coverage,
): Raster {
  const { channels: stride, data, width: sourceWidth } = source;
  const rowBytes = sourceWidth * stride;
  const target = createRaster(width, height, 3);
  const norm = (width * height) / (sourceWidth * source.height);
  const most = rows.last.reduce((n, last, y) => Math.max(n, last - rows.first[y] + 1), 1);
  const strip = Math.max(most, Math.floor(stripBytes / rowBytes));
  const [from, sums, first, last, firstWeight, lastWeight, to] = simd.layout(
    strip * rowBytes, 4 * rowBytes, 4 * width, 4 * width, 4 * width, 4 * width, 3 * width * strip,
  ); // prettier-ignore
  simd.ints.set(columns.first, first / 4);
  simd.ints.set(columns.last, last / 4);
  simd.floats.set(columns.firstWeight, firstWeight / 4);
  simd.floats.set(columns.lastWeight, lastWeight / 4);
  for (let y = 0; y < height;) {
    // As many target rows as the strip of the source holds.
    const begin = rows.first[y];
    let end = y + 1;
    while (end < height && rows.last[end] - begin < strip) end++;
    simd.bytes.set(data.subarray(begin * rowBytes, (rows.last[end - 1] + 1) * rowBytes), from);
    for (let j = y; j < end; j++) {
      const top = from + (rows.first[j] - begin) * rowBytes;
      const bottom = from + (rows.last[j] - begin) * rowBytes;
      simd.run.shrinkRow(
        top + rowBytes, Math.max(0, rows.last[j] - rows.first[j] - 1), top, rows.firstWeight[j], bottom, rows.lastWeight[j], sourceWidth, stride,
        sums, first, last, firstWeight, lastWeight, norm, to + 3 * width * (j - y), width,
      ); // prettier-ignore
    }
    target.data.set(simd.bytes.subarray(to, to + 3 * width * (end - y)), 3 * width * y);
    y = end;
  }
  return target;
}

/** Shrink of RGB or RGBA by a whole number to RGB. */
export function boxBySimd(simd: Simd, source: Raster, factor: number): Raster {
  const { channels: stride, data, width: sourceWidth } = source;
  const rowBytes = sourceWidth * stride;
  const target = createRaster(sourceWidth / factor, source.height / factor, 3);
  const { width, height } = target;
  const band = Math.max(1, Math.floor(stripBytes / rowBytes / factor));
  const [from, sums, to] = simd.layout(band * factor * rowBytes, 2 * rowBytes, 3 * width * band);
  for (let y = 0; y < height; y += band) {
    const rows = Math.min(band, height - y);
    simd.bytes.set(data.subarray(y * factor * rowBytes, (y + rows) * factor * rowBytes), from);
    for (let j = 0; j < rows; j++)
      simd.run.boxRow(from + j * factor * rowBytes, sourceWidth, stride, factor, sums, to + 3 * width * j, width);
    target.data.set(simd.bytes.subarray(to, to + 3 * width * rows), 3 * width * y);
  }
  return target;
}
