import { assertRaster, type Point, type Quad, type Raster } from '../raster/raster';
import { resizeArea } from '../raster/resize';
import type { Turn } from './turn';
import { homography } from './homography';
import { pageSampling } from './sampling';
import { warp } from './warp';

export interface RectifySize {
  /** Size of the finished page in pixels, after the turn. */
  width: number;
  height: number;
}

/**
 * The flattened page: the outline's corners become the picture's corners. A side of the quad becomes the outer edge of the first pixels.
 * Where the photo holds more than the target asks for, it is shrunk by area first, so that fine print does not alias.
 *
 * @param turn quarter turns clockwise that make the page upright.
 * @throws RangeError when the size is not at least 1×1 or three corners lie on a line.
 */
export function rectify(photo: Raster, quad: Quad, size: RectifySize, turn: Turn = 0): Raster {
  assertRaster(photo);
  const { width, height } = size;
  if (!(width >= 1) || !(height >= 1)) throw new RangeError(`A page needs at least 1×1 pixels, received ${width}×${height}`);
  // After a quarter turn clockwise the page's bottom-left corner is at the top left.
  const corners = [0, 1, 2, 3].map((i) => quad[(i + 4 - turn / 90) % 4]);
  const target: Point[] = [
    [-0.5, -0.5],
    [width - 0.5, -0.5],
    [width - 0.5, height - 0.5],
    [-0.5, height - 0.5],
  ];
  const side = (a: number, b: number) => Math.hypot(corners[a][0] - corners[b][0], corners[a][1] - corners[b][1]);
  const shrink = Math.min(Math.min(side(0, 1), side(2, 3)) / width, Math.min(side(1, 2), side(3, 0)) / height);
  if (shrink > 1.3) {
    const smallWidth = Math.max(1, Math.round(photo.width / shrink));
    const smallHeight = Math.max(1, Math.round(photo.height / shrink));
    const fx = smallWidth / photo.width;
    const fy = smallHeight / photo.height;
    const small = corners.map(([x, y]): Point => [(x + 0.5) * fx - 0.5, (y + 0.5) * fy - 0.5]);
    return warp(resizeArea(photo, smallWidth, smallHeight), homography(target, small), width, height, pageSampling);
  }
  return warp(photo, homography(target, corners), width, height, pageSampling);
}

/** Photo pixels per inch of paper along the quad's sides: what the photo really holds, the least of both directions. */
export function effectiveDpi(quad: Quad, widthMm: number, heightMm: number): number {
  const side = (a: number, b: number) => Math.hypot(quad[a][0] - quad[b][0], quad[a][1] - quad[b][1]);
  const across = ((side(0, 1) + side(2, 3)) / 2 / widthMm) * 25.4;
  const down = ((side(1, 2) + side(3, 0)) / 2 / heightMm) * 25.4;
  return Math.min(across, down);
}
