import type { Point } from '../raster/raster';

/** Quarter turns clockwise, in degrees. */
export type Turn = 0 | 90 | 180 | 270;

/** The place on the page as photographed of a place on the page as turned; both in shares of width and height. */
export function turnedBack([u, v]: Point, turn: Turn): Point {
  if (turn === 90) return [v, 1 - u];
  if (turn === 180) return [1 - u, 1 - v];
  if (turn === 270) return [1 - v, u];
  return [u, v];
}

/** The place on the page as it is shown, turned and perhaps mirrored, of a place on the page as photographed. */
export function asShown(point: Point, turn: Turn, mirror = false): Point {
  const [u, v] = turnedBack(point, ((360 - turn) % 360) as Turn);
  return [mirror ? 1 - u : u, v];
}

/** The other way round. */
export function asPhotographed([u, v]: Point, turn: Turn, mirror = false): Point {
  return turnedBack([mirror ? 1 - u : u, v], turn);
}
