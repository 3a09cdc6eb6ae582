import { cutBySimd } from '../kernels/finishing';
import { cellMomentsBySimd, mostCellRows } from '../kernels/sauvola';
import { accelerated } from '../kernels/simd';
import { boxMean, gaussian } from '../raster/blur';
import { GridRows } from '../raster/gridRows';
import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';

export interface LocalThresholdOptions {
  /** Pixels per inch; the window is 7.7 mm. */
  dpi: number;
  /** Weight of the local contrast; default 0.25. */
  k?: number;
  /** The threshold is kept within these levels; the higher one may differ over the page. */
  least: number;
  most: number | Plane;
}

/**
 * Threshold between ink and paper over a page, on a coarse grid: Sauvola and Pietikäinen (Pattern Recognition 33 (2000)) with R = 128, from the exact
 * sums of small cells, kept within bounds and smoothed, so that it can also steer a soft tone curve.
 *
 * @param grey one channel, paper even.
 */
export function localThreshold(grey: Raster, { dpi, k = 0.25, least, most }: LocalThresholdOptions): Plane {
  const { width, height } = grey;
  const window = Math.max(15, dpi * 0.305);
  const cell = Math.max(1, Math.floor(window / 15));
  const [across, down] = [Math.ceil(width / cell), Math.ceil(height / cell)];
  const { mean, square } = cellMoments(grey, cell, across, down);
  const radius = Math.max(1, Math.round(window / cell / 2));
  const m = boxMean(mean, radius).data;
  const q = boxMean(square, radius).data;
  const threshold = createPlane(across, down);
  const mosts = typeof most === 'number' ? null : new GridRows(most, across, down);
  for (let y = 0, i = 0; y < down; y++) {
    const row = mosts?.row(y);
    for (let x = 0; x < across; x++, i++) {
      const deviation = Math.sqrt(Math.max(0, q[i] - m[i] * m[i]));
      const bound = row ? row[x] : (most as number);
      threshold.data[i] = Math.max(least, Math.min(bound, m[i] * (1 + k * (deviation / 128 - 1))));
    }
  }
  return gaussian(threshold, radius / 3);
}

interface Moments {
  mean: Plane;
  square: Plane;
}

/** Mean and mean square of square cells, cut at the right and the lower border. */
function cellMoments(grey: Raster, cell: number, across: number, down: number): Moments {
  return accelerated(
    (kernels) => cellMomentsBySimd(kernels, grey, cell, across, down),
    () => cellMomentsPlain(grey, cell, across, down),
    cell <= mostCellRows,
  );
}

function cellMomentsPlain(grey: Raster, cell: number, across: number, down: number): Moments {
  const { width, height, data } = grey;
  const mean = createPlane(across, down);
  const square = createPlane(across, down);
  for (let j = 0; j < down; j++) {
    const y1 = Math.min(height, (j + 1) * cell);
    for (let i = 0; i < across; i++) {
      const x1 = Math.min(width, (i + 1) * cell);
      let s = 0;
      let q = 0;
      for (let y = j * cell; y < y1; y++)
        for (let p = y * width + i * cell, end = y * width + x1; p < end; p++) {
          const v = data[p];
          s += v;
          q += v * v;
        }
      const n = (y1 - j * cell) * (x1 - i * cell);
      mean.data[j * across + i] = s / n;
      square.data[j * across + i] = q / n;
    }
  }
  return { mean, square };
}

/** Black (0) up to the threshold, white (255) above; the threshold lies on a coarse grid. */
export function cutAt(grey: Raster, threshold: Plane): Raster {
  const rows = new GridRows(threshold, grey.width, grey.height);
  return accelerated(
    (kernels) => cutBySimd(kernels, grey, rows),
    () => cutPlain(grey, rows),
  );
}

function cutPlain({ width, height, data }: Raster, threshold: GridRows): Raster {
  const target = createRaster(width, height, 1);
  for (let y = 0, p = 0; y < height; y++) {
    const row = threshold.row(y);
    for (let x = 0; x < width; x++, p++) target.data[p] = data[p] <= row[x] ? 0 : 255;
  }
  return target;
}
