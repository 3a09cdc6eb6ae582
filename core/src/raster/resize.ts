import { boxBySimd, mostRows, shrinkBySimd, type Coverage } from '../kernels/shrink';
import { accelerated } from '../kernels/simd';
import { createRaster, type Raster } from './raster';

/**
 * Shrinks by averaging all source pixels that a target pixel covers, fractions included (area filter).
 * A raster already within `maxEdge` comes back as it is.
 */
export function shrinkToEdge(source: Raster, maxEdge: number): Raster {
  const scale = maxEdge / Math.max(source.width, source.height);
  if (scale >= 1) return source;
  return resizeArea(source, Math.max(1, Math.round(source.width * scale)), Math.max(1, Math.round(source.height * scale)));
}

/** Area-averaging resize to a smaller size; alpha is dropped, so RGBA comes out as RGB. */
export function resizeArea(source: Raster, width: number, height: number): Raster {
  const factor = source.width / width;
  const whole = Number.isInteger(factor) && height * factor === source.height;
  // Each source column belongs to the target column of its left edge; a share of it may spill into the next one.
  const shares = () => [coverage(source.height, height), coverage(source.width, width)] as const;
  return accelerated(
    (kernels) => (whole ? boxBySimd(kernels, source, factor) : shrinkBySimd(kernels, source, width, height, ...shares())),
    () => shrinkPlain(source, width, height, ...shares()),
    source.channels !== 1 && source.height < mostRows * height,
  );
}

/** A grey raster with every `step` × `step` pixels as one, whatever remains at the right and the bottom left out: several times as fast as the general way. */
export function shrinkGreyBy(grey: Raster, step: number): Raster {
  if (step === 1) return grey;
  const { width, height, data } = grey;
  const copy = createRaster(Math.floor(width / step), Math.floor(height / step), 1);
  const sums = new Int32Array(copy.width);
  const share = 1 / (step * step);
  for (let y = 0, to = 0; y < copy.height; y++) {
    sums.fill(0);
    for (let row = y * step; row < (y + 1) * step; row++)
      for (let x = 0, p = row * width; x < copy.width; x++) {
        let sum = 0;
        for (const end = p + step; p < end; p++) sum += data[p];
        sums[x] += sum;
      }
    for (let x = 0; x < copy.width; x++) copy.data[to++] = sums[x] * share;
  }
  return copy;
}

function shrinkPlain(source: Raster, width: number, height: number, rows: Coverage, columns: Coverage): Raster {
  const stride = source.channels;
  const data = source.data;
  const sourceWidth = source.width;
  const channels = stride === 1 ? 1 : 3;
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const target = createRaster(width, height, channels);
  const out = target.data;
  const { first, last, firstWeight, lastWeight } = columns;
  const sums = new Float32Array(sourceWidth * channels);
  const norm = (width * height) / (sourceWidth * source.height);
  for (let y = 0; y < height; y++) {
    sums.fill(0);
    const rowFrom = rows.first[y];
    const rowTo = rows.last[y];
    for (let sy = rowFrom; sy <= rowTo; sy++) {
      const weight = sy === rowFrom ? rows.firstWeight[y] : sy === rowTo ? rows.lastWeight[y] : 1;
      if (weight === 0) continue;
      let p = sy * sourceWidth * stride;
      if (channels === 1) for (let x = 0; x < sourceWidth; x++, p++) sums[x] += weight * data[p];
      else
        for (let q = 0; q < sums.length; q += 3, p += stride) {
          sums[q] += weight * data[p];
          sums[q + 1] += weight * data[p + 1];
          sums[q + 2] += weight * data[p + 2];
        }
    }
    let to = y * width * channels;
    for (let x = 0; x < width; x++) {
      const a = first[x];
      const b = last[x];
      let q = a * channels;
      let w = firstWeight[x];
      let r = sums[q] * w;
      let g = sums[q + green] * w;
      let bl = sums[q + blue] * w;
      for (let sx = a + 1; sx < b; sx++) {
        q += channels;
        r += sums[q];
        g += sums[q + green];
        bl += sums[q + blue];
      }
      if (b > a) {
        q += channels;
        w = lastWeight[x];
        r += sums[q] * w;
        g += sums[q + green] * w;
        bl += sums[q + blue] * w;
      }
      out[to++] = r * norm;
      if (channels === 3) {
        out[to++] = g * norm;
        out[to++] = bl * norm;
      }
    }
  }
  return target;
}

function coverage(sourceLength: number, targetLength: number): Coverage {
  const step = sourceLength / targetLength;
  const first = new Int32Array(targetLength);
  const last = new Int32Array(targetLength);
  const firstWeight = new Float32Array(targetLength);
  const lastWeight = new Float32Array(targetLength);
  for (let i = 0; i < targetLength; i++) {
    const from = i * step;
    const to = Math.min(sourceLength, (i + 1) * step);
    first[i] = Math.min(sourceLength - 1, Math.floor(from));
    last[i] = Math.max(first[i], Math.min(sourceLength - 1, Math.ceil(to - 1e-6) - 1));
    firstWeight[i] = first[i] === last[i] ? to - from : first[i] + 1 - from;
    lastWeight[i] = first[i] === last[i] ? 0 : to - last[i];
  }
  return { first, last, firstWeight, lastWeight };
}
