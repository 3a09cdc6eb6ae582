import { wholeQuad, type Quad, type Raster } from '../raster/raster';
import { resizeArea } from '../raster/resize';
import { rotatedQuad } from '../rectify/rotated';
import { skewSeenFrom, textSkew } from '../upright/skew';
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

/**
 * The whole photo as a page: its outline begins with the top left as its print is read, and lies so that the print runs level. Where no print tells the way up the photo
 * stays as it is: planks and tiles have lines too.
 */
export function wholeAsRead(photo: Raster): Quad {
  const quad = wholeQuad(photo);
  const factor = Math.max(1, Math.max(photo.width, photo.height) / workingEdgePx);
  const small = resizeArea(photo, Math.max(1, Math.round(photo.width / factor)), Math.max(1, Math.round(photo.height / factor)));
  const level = rotatedQuad(quad, skewToTakeOut(small), photo.width / photo.height);
  const [read] = uprightPages(small, [{ quad: level, confidence: 0 }], small.width / photo.width, true);
  return read?.quad ?? quad;
}
