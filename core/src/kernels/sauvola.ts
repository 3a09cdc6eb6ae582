import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import type { Simd } from './simd';

/** Sums of squares over a window are kept in 32 bits. */
export const mostWindow = 255;

export interface SauvolaRule {
  radius: number;
  k: number;
  range: number;
  least: number;
  most: number;
}

/** Rows that are cut at a time. */
const atOnce = 4;

/** Sauvola's threshold applied to one channel: as its twin, bit by bit. */
export function sauvolaBySimd(simd: Simd, grey: Raster, { radius, k, range, least, most }: SauvolaRule): Raster {
  const { width, height, data } = grey;
  const target = createRaster(width, height, 1);
  // The rows of the windows, with those entering and those leaving, stay in a ring. The kernel wants nought behind each.
  const ring = 2 * radius + 1 + 2 * atOnce;
  const rowBytes = width + 8;
  const columnBytes = 16 * (2 * radius + 9 + width);
  const [rows, none, sums, squares, s, q, table, to] = simd.layout(
    rowBytes * ring, rowBytes, 4 * rowBytes, 4 * rowBytes, columnBytes, columnBytes, 64, atOnce * rowBytes,
  ); // prettier-ignore
  const { bytes, ints, floats, run } = simd;
  bytes.fill(0, rows, to);
  const place = (y: number) => (y < 0 || y >= height ? none : rows + (y % ring) * rowBytes);
  const bring = (y: number) => {
    if (y < height) bytes.set(data.subarray(y * width, (y + 1) * width), place(y));
  };
  for (let y = 0; y < radius; y++) {
    bring(y);
    run.slideColumns(place(y), none, sums, squares, width);
  }
  const first = 16 * (radius + 1);
  for (let y0 = 0; y0 < height; y0 += atOnce) {
    for (let i = 0; i < atOnce; i++) {
      const y = y0 + i;
      bring(y + radius);
      ints[table / 4 + i] = place(y + radius);
      ints[table / 4 + 4 + i] = place(y - radius - 1);
      ints[table / 4 + 8 + i] = place(y);
      floats[table / 4 + 12 + i] = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
    }
    run.sauvolaRows(
      table, sums, squares, s + first, q + first, to, rowBytes, width, radius, 1 - k, (k / range) ** 2, least, most,
    ); // prettier-ignore
    for (let i = 0; i < Math.min(atOnce, height - y0); i++)
      target.data.set(bytes.subarray(to + i * rowBytes, to + i * rowBytes + width), (y0 + i) * width);
  }
  return target;
}

/** Cells whose columns' sums of squares still fit 32 bits. */
export const mostCellRows = 256;

/** Mean and mean square of square cells, cut at the right and the lower border. */
export function cellMomentsBySimd(
  simd: Simd,
  { width, height, data }: Raster,
  cell: number,
  across: number,
  down: number,
): { mean: Plane; square: Plane } {
  const mean = createPlane(across, down);
  const square = createPlane(across, down);
  const [rows, none, sums, squares] = simd.layout(width * cell, width, 4 * width, 4 * width);
  const { bytes, ints, run } = simd;
  bytes.fill(0, none, none + width);
  for (let j = 0; j < down; j++) {
    const n = Math.min(cell, height - j * cell);
    bytes.set(data.subarray(j * cell * width, (j * cell + n) * width), rows);
    ints.fill(0, sums / 4, sums / 4 + width);
    ints.fill(0, squares / 4, squares / 4 + width);
    for (let k = 0; k < n; k++) run.slideColumns(rows + k * width, none, sums, squares, width);
    for (let i = 0; i < across; i++) {
      const x1 = Math.min(width, (i + 1) * cell);
      let s = 0;
      let q = 0;
      for (let x = i * cell; x < x1; x++) {
        s += ints[sums / 4 + x];
        q += ints[squares / 4 + x];
      }
      const count = n * (x1 - i * cell);
      mean.data[j * across + i] = s / count;
      square.data[j * across + i] = q / count;
    }
  }
  return { mean, square };
}
