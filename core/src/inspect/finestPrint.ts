import { boxMean } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { createPlane, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';

const workingEdgePx = 700;

/**
 * Where on a page the smallest print stands: the window with the most frequent changes between dark and light, relative to their
 * strength, so that small grey print wins over a large black title.
 *
 * @param size of the window in the page's pixels.
 * @returns the window's centre as shares of the page's width and height.
 */
export function finestPrint(page: Raster, size: readonly [number, number]): [number, number] {
  const small = shrinkToEdge(page, workingEdgePx);
  const { width, height, data } = lumaPlane(small);
  const local = boxMean({ width, height, data }, 6).data;
  const change = createPlane(width, height);
  // Pixels within the border are left out: it is the page's edge, not print.
  const border = Math.round(0.03 * Math.max(width, height));
  for (let y = border; y < height - border; y++) {
    for (let x = border; x < width - border; x++) {
      const p = y * width + x;
      const across = Math.abs(data[p] - data[p - 1]) > 0.05 * local[p] + 2 ? 1 : 0;
      const down = Math.abs(data[p] - data[p - width]) > 0.05 * local[p] + 2 ? 1 : 0;
      // Print changes both ways; rules and frames one way only.
      change.data[p] = across * down;
    }
  }
  const scale = small.width / page.width;
  const half = Math.max(2, Math.round((Math.min(size[0], size[1]) * scale) / 2));
  const density = boxMean(change, half).data;
  let best = 0;
  let at: [number, number] = [0.5, 0.4];
  for (let y = half; y < height - half; y += 2) {
    for (let x = half; x < width - half; x += 2) {
      if (density[y * width + x] <= best) continue;
      best = density[y * width + x];
      at = [(x + 0.5) / width, (y + 0.5) / height];
    }
  }
  return at;
}
