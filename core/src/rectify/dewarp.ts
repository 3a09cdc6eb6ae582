import { canSample, unrollBySimd } from '../kernels/sample';
import { accelerated } from '../kernels/simd';
import { assertRaster, createRaster, type Raster } from '../raster/raster';
import { resizeArea } from '../raster/resize';
import type { RectifySize } from './rectify';
import { pageSampling, pointSampler } from './sampling';
import type { Surface } from './surface';
import { turnedBack, type Turn } from './turn';

/** Grid on which the surface is asked where it is seen; between its points positions are interpolated, px of the target. */
const cellPx = 16;

/**
 * The flattened page from the surface that it lies on, sampled by cubic convolution. Where the photo holds more than the target asks for, it is shrunk by area first.
 *
 * @param turn quarter turns clockwise that make the page upright.
 * @throws RangeError when the size is not at least 1×1.
 */
export function dewarp(photo: Raster, surface: Pick<Surface, 'toPhoto'>, size: RectifySize, turn: Turn = 0): Raster {
  assertRaster(photo);
  const { width, height } = size;
  if (!(width >= 1) || !(height >= 1)) throw new RangeError(`A page needs at least 1×1 pixels, received ${width}×${height}`);
  const across = Math.ceil(width / cellPx) + 1;
  const down = Math.ceil(height / cellPx) + 1;
  const xs = new Float32Array(across * down);
  const ys = new Float32Array(across * down);
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const [u, v] = turnedBack([(i * cellPx + 0.5) / width, (j * cellPx + 0.5) / height], turn);
      const [x, y] = surface.toPhoto(u, v);
      xs[j * across + i] = x;
      ys[j * across + i] = y;
    }
  const shrink = stepOf(xs, ys, across, down) / cellPx;
  let source = photo;
  if (shrink > 1.3) {
    const w = Math.max(1, Math.round(photo.width / shrink));
    const h = Math.max(1, Math.round(photo.height / shrink));
    source = resizeArea(photo, w, h);
    for (let i = 0; i < xs.length; i++) {
      xs[i] = ((xs[i] + 0.5) * w) / photo.width - 0.5;
      ys[i] = ((ys[i] + 0.5) * h) / photo.height - 0.5;
    }
  }
  const grid = { xs, ys, across, cellPx };
  return accelerated(
    (kernels) => unrollBySimd(kernels, source, grid, width, height, pageSampling),
    () => unrollPlain(source, grid, width, height),
    canSample(source),
  );
}

interface PositionGrid {
  xs: Float32Array;
  ys: Float32Array;
  across: number;
  cellPx: number;
}

function unrollPlain(source: Raster, { xs, ys, across, cellPx }: PositionGrid, width: number, height: number): Raster {
  const down = xs.length / across;
  const channels = source.channels === 1 ? 1 : 3;
  const target = createRaster(width, height, channels);
  const out = target.data;
  const sample = pointSampler(source, pageSampling);
  for (let cy = 0; cy < down - 1; cy++)
    for (let cx = 0; cx < across - 1; cx++) {
      const c = cy * across + cx;
      const yEnd = Math.min(height, (cy + 1) * cellPx);
      const xEnd = Math.min(width, (cx + 1) * cellPx);
      for (let y = cy * cellPx; y < yEnd; y++) {
        const t = (y - cy * cellPx) / cellPx;
        const x0 = xs[c] + (xs[c + across] - xs[c]) * t;
        const y0 = ys[c] + (ys[c + across] - ys[c]) * t;
        const dx = (xs[c + 1] + (xs[c + across + 1] - xs[c + 1]) * t - x0) / cellPx;
        const dy = (ys[c + 1] + (ys[c + across + 1] - ys[c + 1]) * t - y0) / cellPx;
        let q = (y * width + cx * cellPx) * channels;
        for (let x = cx * cellPx, k = 0; x < xEnd; x++, k++) {
          sample(x0 + dx * k, y0 + dy * k, out, q);
          q += channels;
        }
      }
    }
  return target;
}

/** Median distance in the photo between neighbours on the grid, the lesser of both directions. */
function stepOf(xs: Float32Array, ys: Float32Array, across: number, down: number): number {
  const along = (step: number, skip: (i: number) => boolean) => {
    const lengths: number[] = [];
    for (let i = 0; i + step < across * down; i += 3)
      if (!skip(i)) lengths.push(Math.hypot(xs[i + step] - xs[i], ys[i + step] - ys[i]));
    return lengths.sort((a, b) => a - b)[lengths.length >> 1] ?? 1;
  };
  return Math.min(
    along(1, (i) => i % across === across - 1),
    along(across, () => false),
  );
}
