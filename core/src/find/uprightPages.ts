import type { Point, Quad, Raster } from '../raster/raster';
import { homography } from '../rectify/homography';
import { trueRatio } from '../rectify/proportions';
import { warp } from '../rectify/warp';
import { resizeArea } from '../raster/resize';
import { textOrientation } from '../upright/textOrientation';
import type { Outline } from './outline';

/** Long side of the page that is read, px. */
const readEdgePx = 1300;
/** From this shrinking on the photo is shrunk before the page is taken out of it: letters would come out ragged. */
const mostSharp = 1.6;
/** Smaller pages have too little on a part of them. */
const leastForParts = 500;
/** Below this confidence a page stays as it lies in the photo, and below the other one it is not even asked about. */
const sureFrom = 0.6;
const doubtFrom = 0.3;

/**
 * The outlines with their corners in the pages' own order, top left first, where the print tells it.
 *
 * @param photo the photo, or a smaller copy of it; @param scale its size relative to the outlines'; @param surely leaves out those whose print does not tell.
 */
export function uprightPages(photo: Raster, outlines: readonly Outline[], scale = 1, surely = false): Outline[] {
  return outlines.flatMap((outline) => {
    const quad = outline.quad.map(([x, y]): Point => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5]) as unknown as Quad;
    const { turn, confidence } = textOrientation(flatParts(photo, quad));
    if (confidence >= sureFrom) return turned(outline, turn / 90);
    if (surely) return [];
    return turn && confidence >= doubtFrom ? { ...outline, perhapsTurn: turn } : outline;
  });
}

/** The outline that begins with another corner: after `quarters` turns clockwise the page is upright. */
function turned(outline: Outline, quarters: number): Outline {
  const round = <T>(list: readonly T[]): T[] =>
    list.map((_, i) => list[(i + list.length - (quarters * list.length) / 4) % list.length]);
  const { quad, polygon, evidence } = outline;
  return {
    ...outline,
    quad: round(quad) as unknown as Quad,
    ...(polygon && { polygon: round(polygon) }),
    ...(evidence && { evidence: round(evidence) }),
  };
}

/** The flattened page in three by three parts, those in the middle first: few pages need all of them to tell which way is up. */
function* flatParts(photo: Raster, quad: Quad): Generator<Raster> {
  const side = (a: number, b: number) => Math.hypot(quad[a][0] - quad[b][0], quad[a][1] - quad[b][1]);
  const long = Math.max(side(0, 1), side(1, 2), side(2, 3), side(3, 0));
  const shrink = Math.max(1, long / readEdgePx);
  const small =
    shrink > mostSharp ? resizeArea(photo, Math.round(photo.width / shrink), Math.round(photo.height / shrink)) : photo;
  const fx = small.width / photo.width;
  const fy = small.height / photo.height;
  const corners = quad.map(([x, y]): Point => [(x + 0.5) * fx - 0.5, (y + 0.5) * fy - 0.5]);
  const ratio = trueRatio(quad, photo);
  const edge = Math.min(readEdgePx, long);
  const width = Math.max(8, Math.round(ratio >= 1 ? edge : edge * ratio));
  const height = Math.max(8, Math.round(ratio >= 1 ? edge / ratio : edge));
  const [a, b, c, d, e, f, g, h, i] = homography([[0, 0], [width - 1, 0], [width - 1, height - 1], [0, height - 1]], corners); // prettier-ignore
  const parts = long > leastForParts ? [4, 3, 5, 1, 7, 0, 8, 2, 6] : [-1];
  for (const part of parts) {
    const x = part < 0 ? 0 : Math.floor(((part % 3) * width) / 3);
    const y = part < 0 ? 0 : Math.floor((Math.floor(part / 3) * height) / 3);
    const w = part < 0 ? width : Math.ceil(width / 3);
    const t = part < 0 ? height : Math.ceil(height / 3);
    yield warp(small, [a, b, a * x + b * y + c, d, e, d * x + e * y + f, g, h, g * x + h * y + i], w, t);
  }
}
