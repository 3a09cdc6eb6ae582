import type { Point, Quad, Raster } from '../raster/raster';
import { homography, project } from '../rectify/homography';
import type { Box } from '../raster/crop';

/** Side of a window, px of the photo, and how many stand beside and below one another. */
const windowPx = 224;
const grid = 7;

/** Windows of the photo, all over a page, that lie within it. */
export function windowsOver(photo: Raster, quad: Quad): Box[] {
  const H = homography([[0, 0], [1, 0], [1, 1], [0, 1]], quad); // prettier-ignore
  const size = Math.min(windowPx, photo.width, photo.height);
  const windows: Box[] = [];
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      const [cx, cy]: Point = project(H, [0.08 + (0.84 * (i + 0.5)) / grid, 0.08 + (0.84 * (j + 0.5)) / grid]);
      const x = Math.round(cx - size / 2);
      const y = Math.round(cy - size / 2);
      if (x < 0 || y < 0 || x + size > photo.width || y + size > photo.height) continue;
      windows.push({ x, y, width: size, height: size });
    }
  return windows;
}
