import { crop, type Box } from '../raster/crop';
import type { Quad, Raster } from '../raster/raster';
import { sharpness } from './sharpness';
import { windowsOver } from './windowsOver';

/** How many windows are looked at closely. */
const mostWindows = 7;

/**
 * How sharp a page's print is in its photo: the median over the windows with the most contrast, so that an empty half of a page does not count.
 *
 * @returns slope at edges per px of the photo (see `sharpness`); null where there is no print to tell by.
 */
export function pageSharpness(photo: Raster, quad: Quad): number | null {
  const windows = windowsOver(photo, quad).map((box) => ({ box, spread: spreadOf(photo, box) }));
  windows.sort((a, b) => b.spread - a.spread);
  const slopes: number[] = [];
  for (const { box } of windows.slice(0, mostWindows)) {
    const seen = sharpness(crop(photo, box));
    if (seen) slopes.push(seen.slope);
  }
  if (!slopes.length) return null;
  return slopes.sort((a, b) => a - b)[slopes.length >> 1];
}

function spreadOf({ width, channels, data }: Raster, { x: x0, y: y0, width: size }: Box): number {
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
