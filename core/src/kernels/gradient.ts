import type { Gradient } from '../find/gradient';
import type { Plane } from '../raster/raster';
import type { Simd } from './simd';

/** Rows of the source worked on at a time: what stays in the second-level cache. */
const bandRows = 48;

/** Sobel derivatives (per pixel) of a plane and their length, into arrays as large as it; the border stays as it is. */
export function sobelBySimd(
  simd: Simd,
  { width, height, data }: Plane,
  gx: Float32Array,
  gy: Float32Array,
  length: Float32Array,
): void {
  const row = 4 * width;
  const [from, x, y, m] = simd.layout((bandRows + 2) * row, bandRows * row, bandRows * row, bandRows * row);
  const { floats, run } = simd;
  for (let top = 1; top < height - 1; top += bandRows) {
    const rows = Math.min(bandRows, height - 1 - top);
    floats.set(data.subarray((top - 1) * width, (top + rows + 1) * width), from / 4);
    for (let j = 0; j < rows; j++) {
      const here = from + (j + 1) * row;
      run.sobelRow(here - row, here, here + row, x + j * row, y + j * row, m + j * row, width);
      // What was written beyond the row's last inner pixel, or lies there from another row.
      for (const at of [x, y, m]) floats[(at + j * row) / 4] = floats[(at + j * row) / 4 + width - 1] = 0;
    }
    gx.set(floats.subarray(x / 4, x / 4 + rows * width), top * width);
    gy.set(floats.subarray(y / 4, y / 4 + rows * width), top * width);
    length.set(floats.subarray(m / 4, m / 4 + rows * width), top * width);
  }
}

/** What may be an edge point (see the kernel) two pixels and more inside a plane's border: indices, ascending. */
export function peaksBySimd(simd: Simd, { width, height, gx, gy, magnitude, floor }: Gradient): Int32Array {
  const row = 4 * width;
  const found = new Int32Array(width * height);
  let count = 0;
  const [m, x, y, places] = simd.layout((bandRows + 2) * row, bandRows * row, bandRows * row, row);
  const { floats, ints, run } = simd;
  for (let top = 2; top < height - 2; top += bandRows) {
    const rows = Math.min(bandRows, height - 2 - top);
    floats.set(magnitude.subarray((top - 1) * width, (top + rows + 1) * width), m / 4);
    floats.set(gx.subarray(top * width, (top + rows) * width), x / 4);
    floats.set(gy.subarray(top * width, (top + rows) * width), y / 4);
    for (let j = 0; j < rows; j++) {
      const here = m + (j + 1) * row;
      const peaks = run.peaksRow(here - row, here, here + row, x + j * row, y + j * row, floor, places, 2, width - 2);
      for (let k = 0, first = (top + j) * width; k < peaks; k++) found[count++] = first + ints[places / 4 + k];
    }
  }
  return found.subarray(0, count);
}
