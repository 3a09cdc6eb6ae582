import { lumaPlane } from '../raster/colour';
import type { Raster } from '../raster/raster';
import { resizeArea } from '../raster/resize';

/** Half length of the stretch across an edge in which its step is measured, px. */
const reach = 4;
/** Directions across edges: to the right, down, and the two diagonals. */
const directions = [
  [1, 0],
  [0, 1],
  [1, 1],
  [1, -1],
] as const;
const leastEdges = 40;
/** An edge counts when its step is this share of the picture's contrast: blur makes weak edges of thin strokes. */
const strongShare = 0.35;

export interface Sharpness {
  /**
   * Slope at edges over their step, per px: the reciprocal of the edge's width. About 0.5 for an edge as sharp as pixels allow,
   * 1 / (σ√2π) for one blurred by a Gaussian of σ px.
   */
  slope: number;
  /** Edges that were measured. */
  edges: number;
}

/**
 * How sharp the print in a picture is, relative to its contrast: the median of the strong edges' slopes over their local step in each of
 * four directions, and of those the least, since a moved hand blurs one direction only.
 * After the edge width of Marziliano et al., ICIP 2002, and its use in Narvekar and Karam, IEEE TIP 20(9), 2011.
 *
 * @returns null where there are too few edges to say: an empty page is neither sharp nor blurred.
 */
export function sharpness(picture: Raster): Sharpness | null {
  // Far out of focus no edge is steep enough to be one, until the picture is looked at smaller.
  for (const shrink of [1, 2, 4]) {
    const width = Math.floor(picture.width / shrink);
    const height = Math.floor(picture.height / shrink);
    if (Math.min(width, height) < 48) break;
    const seen = edgeSlope(shrink === 1 ? picture : resizeArea(picture, width, height));
    if (seen) return { slope: seen.slope / shrink, edges: seen.edges };
  }
  return null;
}

function edgeSlope(picture: Raster): Sharpness | null {
  const { width, height } = picture;
  const luma = lumaPlane(picture).data;
  const strong = Math.max(24, strongShare * contrastOf(luma));
  let least = Infinity;
  let edges = 0;
  let seen = 0;
  for (const [dx, dy] of directions) {
    const unit = dx && dy ? Math.SQRT2 : 1;
    const s = dy * width + dx;
    // Along a diagonal a step is longer, so fewer reach as far.
    const n = dx && dy ? 3 : reach;
    const bins = new Uint32Array(256);
    let count = 0;
    for (let y = reach + 1; y < height - reach - 1; y++) {
      for (let x = reach + 1; x < width - reach - 1; x++) {
        const p = y * width + x;
        const d = luma[p + s] - luma[p - s];
        const size = d < 0 ? -d : d;
        if (size < 8) continue;
        const before = luma[p] - luma[p - 2 * s];
        const after = luma[p + 2 * s] - luma[p];
        if (size < (before < 0 ? -before : before) || size <= (after < 0 ? -after : after)) continue;
        let low = 255;
        let high = 0;
        for (let k = -n, q = p - n * s; k <= n; k++, q += s) {
          const v = luma[q];
          if (v < low) low = v;
          if (v > high) high = v;
        }
        const step = high - low;
        if (step < strong) continue;
        bins[Math.min(255, ((size / step / 2 / unit) * 400) | 0)]++;
        count++;
      }
    }
    edges += count;
    if (count < leastEdges) continue;
    let above = 0;
    let b = 255;
    while (b > 0 && (above += bins[b]) < 0.5 * count) b--;
    least = Math.min(least, (b + 0.5) / 400);
    seen++;
  }
  return seen >= 2 ? { slope: least, edges } : null;
}

/** 1st to 99th percentile, of every seventh pixel. */
function contrastOf(luma: Float32Array): number {
  const bins = new Uint32Array(256);
  let n = 0;
  for (let i = 0; i < luma.length; i += 7, n++) bins[luma[i] | 0]++;
  let low = 0;
  let high = 255;
  for (let seen = bins[0]; seen < 0.01 * n;) seen += bins[++low];
  for (let seen = bins[255]; seen < 0.01 * n;) seen += bins[--high];
  return Math.max(0, high - low);
}
