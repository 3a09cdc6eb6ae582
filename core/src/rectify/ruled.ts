import type { Point, Quad } from '../raster/raster';
import { homography, project } from './homography';
import { trueRatio, type View } from './proportions';
import type { Surface } from './surface';

/** A page that is drawn between its sides, whatever they are like. */
export type RuledSurface = Pick<Surface, 'ratio' | 'toPhoto'> & { bend: 'ruled' };

/**
 * The page between four sides of any shape: the homography of the corners, and on it how far the sides lie from straight ones, blended between opposite sides (Coons,
 * "Surfaces for computer-aided design of space forms", MIT 1967).
 *
 * @param sides from corner to corner, clockwise from the top-left, each with the same number of points.
 */
export function ruledSurface(sides: readonly (readonly Point[])[], view: View): RuledSurface {
  const quad = sides.map((side) => side[0]) as unknown as Quad;
  const square: Quad = [[0, 0], [1, 0], [1, 1], [0, 1]]; // prettier-ignore
  const toPhoto = homography(square, quad);
  const toPage = homography(quad, square);
  const last = sides[0].length - 1;
  // How far each side's points lie from where they would be on a straight one; the lower and the left side run backwards.
  const offsets = sides.map((side, i) =>
    side.map((point, k): Point => {
      const [x, y] = project(toPage, point);
      const [a, b] = [square[i], square[(i + 1) % 4]];
      return [x - a[0] - ((b[0] - a[0]) * k) / last, y - a[1] - ((b[1] - a[1]) * k) / last];
    }),
  );
  const along = (side: number, t: number): Point => {
    const at = Math.max(0, Math.min(1, t)) * last;
    const k = Math.min(last - 1, Math.floor(at));
    const [p, q] = [offsets[side][k], offsets[side][k + 1]];
    return [p[0] + (q[0] - p[0]) * (at - k), p[1] + (q[1] - p[1]) * (at - k)];
  };
  return {
    bend: 'ruled',
    ratio: trueRatio(quad, view),
    toPhoto(u, v) {
      const [top, right, bottom, left] = [along(0, u), along(1, v), along(2, 1 - u), along(3, 1 - v)];
      const off = (c: 0 | 1) => top[c] * (1 - v) + bottom[c] * v + left[c] * (1 - u) + right[c] * u;
      return project(toPhoto, [u + off(0), v + off(1)]);
    },
  };
}
