import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { createRaster, type Raster } from '../raster/raster';

/**
 * Standard deviation of a picture's noise, in its own levels: the difference of two Laplacians (Immerkær, "Fast noise variance estimation", Computer
 * Vision and Image Understanding 64 (1996)), by the median of its absolute value instead of the mean, so that print does not count as noise.
 *
 * @param grey one channel.
 */
export function noiseLevel(grey: Raster): number {
  const { width, height, data } = grey;
  const counts = new Uint32Array(2048);
  let n = 0;
  for (let y = 1; y < height - 1; y += 3) {
    for (let x = 1, p = y * width + 1; x < width - 1; x += 3, p += 3) {
      const corners = data[p - width - 1] + data[p - width + 1] + data[p + width - 1] + data[p + width + 1];
      const sides = data[p - width] + data[p - 1] + data[p + 1] + data[p + width];
      const v = Math.abs(corners - 2 * sides + 4 * data[p]);
      counts[v > 2047 ? 2047 : v]++;
      n++;
    }
  }
  if (!n) return 0;
  let seen = 0;
  let median = 0;
  while (seen + counts[median] < n / 2) seen += counts[median++];
  // Within the step that holds the median.
  const exact = median + (n / 2 - seen) / Math.max(1, counts[median]) - 0.5;
  return Math.max(0, exact) / 0.6745 / 6;
}

/** One channel blurred by as much as its noise asks for; clean pages stay as they are. */
export function soften(grey: Raster, noise: number): Raster {
  if (noise < 2.2) return grey;
  const smooth = gaussian(lumaPlane(grey), Math.min(1.6, 0.35 + noise / 9));
  const target = createRaster(grey.width, grey.height, 1);
  for (let i = 0; i < smooth.data.length; i++) target.data[i] = smooth.data[i];
  return target;
}
