import { crop } from '../raster/crop';
import type { Point, Quad, Raster } from '../raster/raster';
import { homography, project } from '../rectify/homography';
import { sharpness } from './sharpness';

/** Side of the windows that are looked at, px, and how many. */
const windowPx = 224;
const mostWindows = 7;
const grid = 7;

/**
 * How sharp a page's print is in its photo: the median over the windows with the most contrast, so that an empty half of a page does not count.
 *
 * @returns slope at edges per px of the photo (see `sharpness`); null where there is no print to tell by.
 */
export function pageSharpness(photo: Raster, quad: Quad): number | null {
  const H = homography([[0, 0], [1, 0], [1, 1], [0, 1]], quad); // prettier-ignore
  const windows: { x: number; y: number; spread: number }[] = [];
  const size = Math.min(windowPx, photo.width, photo.height);
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      const [cx, cy]: Point = project(H, [0.08 + (0.84 * (i + 0.5)) / grid, 0.08 + (0.84 * (j + 0.5)) / grid]);
      const x = Math.round(cx - size / 2);
      const y = Math.round(cy - size / 2);
      if (x < 0 || y < 0 || x + size > photo.width || y + size > photo.height) continue;
      windows.push({ x, y, spread: spreadOf(photo, x, y, size) });
    }
  windows.sort((a, b) => b.spread - a.spread);
  const slopes: number[] = [];
  for (const { x, y } of windows.slice(0, mostWindows)) {
    const seen = sharpness(crop(photo, { x, y, width: size, height: size }));
    if (seen) slopes.push(seen.slope);
  }
  if (!slopes.length) return null;
  return slopes.sort((a, b) => a - b)[slopes.length >> 1];
}

function spreadOf({ width, channels, data }: Raster, x0: number, y0: number, size: number): number {
  const green = channels === 1 ? 0 : 1;
  let [n, s, q] = [0, 0, 0];
  for (let y = y0; y < y0 + size; y += 3)
    for (let x = x0; x < x0 + size; x += 3) {
      const v = data[(y * width + x) * channels + green];
      n++;
      s += v;
      q += v * v;
    }
  return q / n - (s / n) ** 2;
}
