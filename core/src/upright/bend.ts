import type { Raster } from '../raster/raster';
import { inkOf, rowContrast, type Ink } from './skew';

/** How the lines of print of a page run. */
export interface LineBend {
  /** How far below where it would run level the line through a place lies there, in shares of the page's height; the place in shares of its width and height. */
  at: (u: number, v: number) => number;
  /** How far lines bend away from straight ones at most, share of the page's height. */
  most: number;
  /** How much more the lines stand out along their bends than along straight ones; 1 where they are straight. */
  gain: number;
}

/** Bends up to this share of the width are looked for, in steps of about a line's height; slopes up to this one. */
const mostBend = 0.06;
const bendStep = 0.0035;
const mostSlope = 0.09;
const slopeStep = 0.006;
/** How much more of the bend a page's foot has than its middle, as the first look tries it; less or turned round where negative. */
const bendChanges = [-1, -0.5, 0.5, 1];
/** One point of the ink in so many is enough for the first look. */
const sparse = 6;
/** The first look is at rows of so many px: the finer they are, the closer one has to be to see them stand out. */
const coarseRow = 3;
/** Steps of the first look and of the last, px. */
const coarseSteps = [8, 4, 2];
const fineSteps = [2, 1, 0.5, 0.25];

/**
 * How lines of print bend on a page that lies the right way up: the displacement, a slope, a parabola and a cubic across the page that change evenly down it, under which the rows
 * of ink stand out most (the measure of Bloomberg, Kopec and Dasari that `textSkew` takes for the angle; polynomials for the lines as in Wu and Agam, "Document image
 * de-warping for text/graphics recognition", SSPR 2002).
 *
 * @returns null where there is too little print to tell.
 */
export function textBend(page: Raster): LineBend | null {
  const ink = inkOf(page);
  if (!ink) return null;
  const { width, height } = ink;
  const [quick, careful] = [bendScore(ink, sparse, coarseRow), bendScore(ink, 2, 1)];
  const slopes = range(mostSlope, slopeStep).map((slope) => (slope * width) / 2);
  const bends = range(mostBend, bendStep).map((bend) => bend * width);
  const all = [0, 1, 2, 3, 4, 5];
  const straight = climb(careful, best(quick, slopes.map((slope) => [slope, 0, 0, 0, 0, 0])), [0, 3], fineSteps); // prettier-ignore
  const bentBy = (changes: readonly number[], leans: readonly number[]) =>
    best(quick, changes.flatMap((change) => bends.flatMap((bend) => leans.map((lean) => [lean, bend, 0, 0, change * bend, 0])))); // prettier-ignore
  const even = bentBy([0], slopes);
  const near = slopes.filter((slope) => Math.abs(slope - even[0]) < 3.5 * (slopes[1] - slopes[0]));
  // A sheet that is bent at its head only has a peak of its own, which no climb reaches from one that is bent alike all the way down.
  const starts = [even, ...bendChanges.map((change) => bentBy([change], near))].map((start) =>
    climb(quick, start, all, coarseSteps),
  );
  const bent = best(careful, [best(quick, starts), climb(quick, straight, all, coarseSteps)].map((start) => climb(careful, start, all, fineSteps))); // prettier-ignore
  const [a, b, c, d, e, f] = bent;
  // Beside the print nothing tells of bends. Above and below it they go on as they change within it, as those of a sheet that is bent one way do, up to what they are at most within it.
  const [left, right] = extent(ink.xs, width);
  const [upper, lower] = extent(ink.ys, height);
  const along = (middle: number, change: number) => {
    const most = Math.max(Math.abs(middle + change * upper), Math.abs(middle + change * lower));
    return (y: number) => Math.max(-most, Math.min(most, middle + change * y));
  };
  const [slope, bow, twist] = [along(a, d), along(b, e), along(c, f)];
  const bendAt = (t: number, y: number) => {
    const x = Math.max(left, Math.min(right, t));
    return bow(y) * parabola(x) + twist(y) * cubic(x);
  };
  let most = 0;
  for (const y of [upper, (upper + lower) / 2, lower])
    for (let share = 0; share <= 1; share += 0.125) {
      const chord = bendAt(left, y) * (1 - share) + bendAt(right, y) * share;
      most = Math.max(most, Math.abs(bendAt(left + (right - left) * share, y) - chord));
    }
  return {
    at: (u, v) => (slope(2 * v - 1) * (2 * u - 1) + bendAt(2 * u - 1, 2 * v - 1)) / height,
    most: most / height,
    gain: careful(bent) / careful(straight),
  };
}

/** Between which places, −1 to 1, nearly all of the ink lies. */
function extent(places: Float32Array, size: number): [number, number] {
  const sorted = places.slice().sort();
  return [0.02, 0.98].map((share) => (2 * sorted[Math.floor(share * (sorted.length - 1))]) / size) as [number, number];
}

const range = (most: number, step: number) => Array.from({ length: 2 * Math.floor(most / step) + 1 }, (_, i) => (i - Math.floor(most / step)) * step); // prettier-ignore

const parabola = (t: number) => t * t - 1 / 3;
const cubic = (t: number) => t * t * t - 0.6 * t;

type Score = (p: readonly number[]) => number;

const best = (score: Score, tries: readonly (readonly number[])[]) => tries.map((p) => [score(p), p] as const).reduce((a, b) => (b[0] > a[0] ? b : a))[1]; // prettier-ignore

/** Steps one parameter at a time as long as that makes it better. */
function climb(score: Score, start: readonly number[], free: readonly number[], steps: readonly number[]): readonly number[] {
  let found = start;
  let top = score(found);
  for (const step of steps)
    for (let better = true; better;) {
      better = false;
      for (const k of free)
        for (const sign of [-1, 1]) {
          const p = found.slice();
          p[k] += sign * step;
          const s = score(p);
          if (s <= top) continue;
          [top, found, better] = [s, p, true];
        }
    }
  return found;
}

/** Contrast of the rows under a displacement: slope, parabola and cubic in the middle of the page, px, and what each gains from there to its bottom. */
function bendScore({ xs, ys, inks, width, height }: Ink, every: number, row: number): Score {
  const n = Math.ceil(xs.length / every);
  const [t, p2, p3, s, y, w] = Array.from({ length: 6 }, () => new Float32Array(n));
  for (let i = 0, k = 0; k < n; i += every, k++) {
    t[k] = (2 * xs[i]) / width;
    p2[k] = parabola(t[k]);
    p3[k] = cubic(t[k]);
    s[k] = (2 * ys[i]) / height;
    y[k] = ys[i] / row;
    w[k] = inks[i];
  }
  const contrast = rowContrast((0.6 * height) / row);
  const moved = new Float32Array(n);
  return ([a, b, c, d, e, f]) => {
    for (let k = 0; k < n; k++) moved[k] = y[k] - ((a + d * s[k]) * t[k] + (b + e * s[k]) * p2[k] + (c + f * s[k]) * p3[k]) / row;
    return contrast(moved, w);
  };
}
