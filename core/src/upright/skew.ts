import { boxMean } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import type { Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';

/** How a page's lines of print run. */
export interface Skew {
  /** Degrees clockwise by which they are off from running level (or upright, on a page that lies on its side), −15 … 15. */
  degrees: number;
  /** How much more the lines stand out at this angle than over the whole range; 0 where there is no print. */
  strength: number;
}

/** Long side of the picture in which lines are looked for: lines of small print are 8 px apart there. */
const workingEdgePx = 900;
const mostDegrees = 15;
/** Ink is so much darker than what lies round it, levels; fewer points of it are no text. */
const leastInk = 14;
const leastPoints = 400;
const surroundPx = 10;

/** From this strength on lines were seen: clean print has 18 to 500, print in the middle of development photographs 5 to 70, noise and plain desks up to 3. Planks and tiles have lines too. */
export const skewSeenFrom = 4;

/** Dark points of a page, px from its middle, with how dark they are, levels. */
export interface Ink {
  xs: Float32Array;
  ys: Float32Array;
  inks: Float32Array;
  /** Size of the picture that they were looked for in. */
  width: number;
  height: number;
}

/** The ink on a page; null where it is too little to be text. */
export function inkOf(page: Raster): Ink | null {
  const luma = lumaPlane(shrinkToEdge(page, workingEdgePx));
  const { width, height } = luma;
  const around = boxMean(luma, surroundPx).data;
  const [xs, ys, inks] = [0, 1, 2].map(() => new Float32Array(width * height));
  let n = 0;
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const ink = around[p] - luma.data[p];
      if (ink < leastInk) continue;
      xs[n] = x - (width - 1) / 2;
      ys[n] = y - (height - 1) / 2;
      inks[n++] = Math.min(ink, 80);
    }
  if (n < leastPoints) return null;
  return { xs: xs.subarray(0, n), ys: ys.subarray(0, n), inks: inks.subarray(0, n), width, height };
}

/**
 * Angle of the lines of print: the one at which sums of the ink along sheared rows differ most from row to row.
 * Method: Postl, ICPR 1986; the sum of squared differences of neighbouring rows after Bloomberg, Kopec and Dasari, "Measuring document image skew and
 * orientation", SPIE 2422 (1995).
 *
 * @param page flattened, or photographed squarely; any size.
 */
export function textSkew(page: Raster): Skew {
  const ink = inkOf(page);
  if (!ink) return { degrees: 0, strength: 0 };
  const { xs, ys, inks } = ink;
  const level = sharpest(xs, ys, inks);
  // A page on its side has its lines upright: turned by a quarter they run level.
  const upright = sharpest(ys, xs.map((x) => -x), inks); // prettier-ignore
  return upright.strength > level.strength ? upright : level;
}

function sharpest(xs: Float32Array, ys: Float32Array, inks: Float32Array): Skew {
  const reach = ys.reduce((most, y, i) => Math.max(most, Math.abs(y) + 0.3 * Math.abs(xs[i])), 0);
  const contrast = rowContrast(reach);
  const moved = new Float32Array(ys.length);
  const score = (degrees: number) => {
    const slope = Math.tan((degrees * Math.PI) / 180);
    for (let i = 0; i < moved.length; i++) moved[i] = ys[i] - xs[i] * slope;
    return contrast(moved, inks);
  };
  const coarse: number[] = [];
  for (let d = -mostDegrees; d <= mostDegrees; d += 0.5) coarse.push(score(d));
  const best = coarse.indexOf(Math.max(...coarse)) * 0.5 - mostDegrees;
  let degrees = best;
  let top = -Infinity;
  for (let d = Math.max(-mostDegrees, best - 0.6); d <= Math.min(mostDegrees, best + 0.6); d += 0.05) {
    const s = score(d);
    if (s > top) [top, degrees] = [s, d];
  }
  const usual = coarse.slice().sort((a, b) => a - b)[coarse.length >> 1];
  return { degrees: Math.round(degrees * 100) / 100, strength: usual > 0 ? top / usual - 1 : 0 };
}

/** Sum of squared differences of neighbouring rows of ink, each point between two of them; rows up to `reach` px above and below the middle. */
export function rowContrast(reach: number): (ys: Float32Array, inks: Float32Array) => number {
  const middle = Math.ceil(reach) + 2;
  const rows = new Float64Array(2 * middle + 2);
  return (ys, inks) => {
    rows.fill(0);
    for (let i = 0; i < ys.length; i++) {
      const at = Math.max(0, Math.min(2 * middle, ys[i] + middle));
      const row = at | 0;
      const share = inks[i] * (at - row);
      rows[row] += inks[i] - share;
      rows[row + 1] += share;
    }
    let sum = 0;
    for (let r = 1; r < rows.length; r++) sum += (rows[r] - rows[r - 1]) ** 2;
    return sum;
  };
}
