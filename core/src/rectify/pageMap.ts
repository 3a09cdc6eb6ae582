import type { Box, Point, Quad } from '../raster/raster';
import { homography, project } from './homography';
import { asPhotographed, asShown, type Turn } from './turn';

/**
 * Where a page's places lie in its photo, and the other way round. Places on the page are shares of its width and height as it is shown, its turn and mirror included; places in the
 * photo are pixels, whose centres lie at whole numbers.
 */
export interface PageMap {
  toPhoto: (place: Point) => Point;
  /** Places beside the page come out below 0 or above 1. */
  toPage: (point: Point) => Point;
  /** The outline in the photo of a part of the page (shares), clockwise from its top left, each side in as many steps as a bent page needs. */
  outlineOf: (box: Box) => Point[];
  /** Photo pixels per millimetre of paper at a place: the mean of both directions. */
  scaleAt: (place: Point) => number;
}

export interface PageMapOptions {
  /** The page's corners in photo px, top left first, as photographed. */
  quad: Quad;
  /** Where a place on the page as photographed is seen, where a lens or the page bends it; default what its corners say. */
  bent?: ((u: number, v: number) => Point) | null;
  turn: Turn;
  mirror?: boolean;
  /** Size on paper as it is shown, mm. */
  widthMm: number;
  heightMm: number;
}

const corners: readonly Point[] = [[0, 0], [1, 0], [1, 1], [0, 1]]; // prettier-ignore
/** Newton's steps until a place is found again; four or five do on any page. */
const mostSteps = 12;
/** Nearer than this it is found, photo px. */
const nearPx = 1e-4;
/** Step of the derivatives, share of the page. */
const delta = 1e-4;
/** Steps on each side of an outline. */
const sideSteps = 24;

/**
 * The map of a page. Forward it is the homography of the corners, or the surface; back the homography's inverse, from which Newton's method goes on where the page is bent.
 *
 * @throws RangeError when three corners lie on a line.
 */
export function pageMap({ quad, bent = null, turn, mirror = false, widthMm, heightMm }: PageMapOptions): PageMap {
  const forward = homography(corners, quad);
  const back = homography(quad, corners);
  const seen = (u: number, v: number): Point => (bent ? bent(u, v) : project(forward, [u, v]));
  const toPhoto = (place: Point) => seen(...asPhotographed(place, turn, mirror));
  const toPage = (point: Point): Point => {
    let [u, v] = project(back, point);
    for (let step = 0; bent && step < mostSteps; step++) {
      const [x, y] = seen(u, v);
      const [ex, ey] = [point[0] - x, point[1] - y];
      if (Math.hypot(ex, ey) < nearPx) break;
      const [ax, ay] = seen(u + delta, v);
      const [bx, by] = seen(u, v + delta);
      const [xu, yu, xv, yv] = [(ax - x) / delta, (ay - y) / delta, (bx - x) / delta, (by - y) / delta];
      const determinant = xu * yv - xv * yu;
      if (!determinant) break;
      // No step longer than a fifth of the page: beside it a surface may run anywhere.
      const du = (ex * yv - ey * xv) / determinant;
      const dv = (ey * xu - ex * yu) / determinant;
      const short = Math.min(1, 0.2 / Math.max(Math.abs(du), Math.abs(dv)));
      [u, v] = [u + short * du, v + short * dv];
    }
    return asShown([u, v], turn, mirror);
  };
  return {
    toPhoto,
    toPage,
    outlineOf({ x, y, width, height }) {
      const around: Point[] = [[x, y], [x + width, y], [x + width, y + height], [x, y + height]]; // prettier-ignore
      const steps = bent ? sideSteps : 1;
      return around.flatMap((from, i) => {
        const to = around[(i + 1) % 4];
        return Array.from({ length: steps }, (_, k) =>
          toPhoto([from[0] + ((to[0] - from[0]) * k) / steps, from[1] + ((to[1] - from[1]) * k) / steps]),
        );
      });
    },
    scaleAt([u, v]) {
      const length = (a: Point, b: Point) => Math.hypot(b[0] - a[0], b[1] - a[1]);
      const half = delta / 2;
      const across = length(toPhoto([u - half, v]), toPhoto([u + half, v])) / (delta * widthMm);
      const down = length(toPhoto([u, v - half]), toPhoto([u, v + half])) / (delta * heightMm);
      return (across + down) / 2;
    },
  };
}
