import { accelerated } from '../kernels/simd';
import { extremeBySimd } from '../kernels/windows';
import { createPlane, type Plane } from '../raster/raster';

/** Grey closing with a square window: what is darker than its surroundings and narrower than 2·radius+1 is filled up. */
export function closing(source: Plane, radius: number): Plane {
  return erode(dilate(source, radius), radius);
}

/** Grey opening: what is brighter than its surroundings and narrower than that is taken away. */
export function opening(source: Plane, radius: number): Plane {
  return dilate(erode(source, radius), radius);
}

/** Strokes are narrower than this share of a page's longer side. */
const inkShare = 0.035;

/** Radius of the window that takes strokes away. */
export const wideAsInk = ({ width, height }: { width: number; height: number }): number =>
  Math.max(2, Math.round((inkShare / 2) * Math.max(width, height)));

/** The greatest of a square window of 2·radius + 1 round each place. */
export const dilate = (source: Plane, radius: number): Plane => extreme(source, radius, 1);

/** The least of one. */
export const erode = (source: Plane, radius: number): Plane => extreme(source, radius, -1);

/** Running maximum (sign 1) or minimum (−1), by rows then columns. */
function extreme(source: Plane, radius: number, sign: 1 | -1): Plane {
  return accelerated(
    (kernels) => extremeBySimd(kernels, source, radius, sign),
    () => extremePlain(source, radius, sign),
  );
}

function extremePlain(source: Plane, radius: number, sign: 1 | -1): Plane {
  return turnedOver(alongRows(turnedOver(alongRows(source, radius, sign)), radius, sign));
}

/**
 * Three comparisons a value for any radius: running extremes from the left and from the right within blocks as long as the window, of which any window
 * takes the end of one and the start of the next. Method: van Herk, Pattern Recognition Letters 13 (1992); Gil and Werman, PAMI 15 (1993).
 */
function alongRows({ width, height, data }: Plane, radius: number, sign: 1 | -1): Plane {
  const target = createPlane(width, height);
  const out = target.data;
  const block = 2 * radius + 1;
  const length = Math.ceil((width + 2 * radius) / block) * block;
  const line = new Float32Array(length).fill(-Infinity);
  const fromLeft = new Float32Array(length);
  const fromRight = new Float32Array(length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) line[x + radius] = sign * data[row + x];
    for (let start = 0; start < length; start += block) {
      let most = -Infinity;
      for (let i = start; i < start + block; i++) {
        if (line[i] > most) most = line[i];
        fromLeft[i] = most;
      }
      most = -Infinity;
      for (let i = start + block - 1; i >= start; i--) {
        if (line[i] > most) most = line[i];
        fromRight[i] = most;
      }
    }
    for (let x = 0; x < width; x++) {
      const a = fromRight[x];
      const b = fromLeft[x + 2 * radius];
      out[row + x] = sign * (a > b ? a : b);
    }
  }
  return target;
}

/** Rows become columns. */
function turnedOver({ width, height, data }: Plane): Plane {
  const target = createPlane(height, width);
  const out = target.data;
  for (let y = 0; y < height; y++) for (let x = 0, p = y * width; x < width; x++, p++) out[x * height + y] = data[p];
  return target;
}
