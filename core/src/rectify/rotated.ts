import type { Point, Quad } from '../raster/raster';
import { homography, project } from './homography';

/**
 * An outline turned by an angle about the page's middle, in the page's own plane.
 *
 * @param degrees clockwise as the page is seen; @param ratio the page's width over its height.
 */
export function rotatedQuad(quad: Quad, degrees: number, ratio: number): Quad {
  const corners: Point[] = [[0, 0], [ratio, 0], [ratio, 1], [0, 1]]; // prettier-ignore
  const toPhoto = homography(corners, quad);
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return corners.map(([x, y]) => {
    const [dx, dy] = [x - ratio / 2, y - 0.5];
    return project(toPhoto, [ratio / 2 + c * dx - s * dy, 0.5 + s * dx + c * dy]);
  }) as unknown as Quad;
}
