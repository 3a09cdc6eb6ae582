import { wholeQuad, type Point, type Quad, type Raster } from '../raster/raster';
import { resizeArea } from '../raster/resize';
import { homography, project } from '../rectify/homography';
import { rectify } from '../rectify/rectify';
import { rotatedQuad } from '../rectify/rotated';
import { textBend } from '../upright/bend';
import { skewSeenFrom, textSkew } from '../upright/skew';
import type { Outline } from './outline';
import { uprightPages } from './uprightPages';

/** Smaller skews are not worth the blur of turning; larger ones than this lie at the end of what is looked for. */
const leastSkew = 0.3;
const mostSkew = 14.5;
/** Long side of the copy that is looked at, px. */
const workingEdgePx = 1900;

/** How far a page's outline has to be turned so that its print runs level, degrees clockwise; 0 where it does, or where there is none to tell by. */
export function skewToTakeOut(page: Raster): number {
  const { degrees, strength } = textSkew(page);
  return strength >= skewSeenFrom && Math.abs(degrees) >= leastSkew && Math.abs(degrees) <= mostSkew ? degrees : 0;
}

/** Bends from this share of the height on, along which the lines stand out by so much more, are taken out. */
const leastBend = 0.004;
const leastGain = 1.2;
/** Points on each side of a bent outline. */
const sidePoints = 20;

/**
 * The whole photo as a page: its outline begins with the top left as its print is read, and lies so that the print runs level; where its lines bend, as in a book
 * photographed closer than its edges, it bends with them. It holds all of the photo. Where no print tells the way up the photo stays as it is: planks and tiles have lines too.
 */
export function wholeAsRead(photo: Raster): Pick<Outline, 'quad' | 'polygon'> {
  const quad = wholeQuad(photo);
  const small = smallCopy(photo);
  const level = rotatedQuad(quad, skewToTakeOut(small), photo.width / photo.height);
  const [read] = uprightPages(small, [{ quad: level, confidence: 0 }], small.width / photo.width, true);
  return read ? withItsLines(small, read.quad, small.width / photo.width) : { quad };
}

const smallCopy = (photo: Raster): Raster => {
  const factor = Math.max(1, Math.max(photo.width, photo.height) / workingEdgePx);
  return resizeArea(photo, Math.max(1, Math.round(photo.width / factor)), Math.max(1, Math.round(photo.height / factor)));
};

/** An outline that begins with the page's top left, bent as the lines of print within it are; null where they are straight. */
export function bentAsItsLines(photo: Raster, quad: Quad): { quad: Quad; polygon: Point[] } | null {
  const small = smallCopy(photo);
  const { quad: corners, polygon } = withItsLines(small, quad, small.width / photo.width);
  return polygon ? { quad: corners, polygon } : null;
}

/** An outline in photo pixels, bent as the lines within it are and so far out that it holds all that it held. Looked at on a copy of the photo of `scale` times its size. */
export function withItsLines(small: Raster, quad: Quad, scale: number): Pick<Outline, 'quad' | 'polygon'> {
  const onSmall = quad.map(([x, y]): Point => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5]) as unknown as Quad;
  const [across, down] = [distance(quad[0], quad[1]), distance(quad[0], quad[3])];
  const width = Math.max(1, Math.round((across / Math.max(across, down)) * workingEdgePx * 0.5));
  const bend = textBend(rectify(small, onSmall, { width, height: Math.max(1, Math.round((width * down) / across)) }));
  if (!bend || bend.most < leastBend || bend.gain < leastGain) return { quad };
  const us = Array.from({ length: sidePoints + 1 }, (_, i) => i / sidePoints);
  // So far out that nothing of the photo is lost.
  const top = -Math.max(...us.map((u) => bend.at(u, 0)));
  const bottom = 1 - Math.min(...us.map((u) => bend.at(u, 1)));
  const toPhoto = homography([[0, 0], [1, 0], [1, 1], [0, 1]], quad); // prettier-ignore
  const at = (u: number, v: number) => project(toPhoto, [u, (v ? bottom : top) + bend.at(u, v)]);
  const between = (a: Point, b: Point) => us.slice(0, -1).map((t): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
  const corners: Quad = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)];
  const polygon = [
    ...us.slice(0, -1).map((u) => at(u, 0)),
    ...between(corners[1], corners[2]),
    ...us.slice(0, -1).map((u) => at(1 - u, 1)),
    ...between(corners[3], corners[0]),
  ];
  return { quad: corners, polygon };
}

const distance = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);
