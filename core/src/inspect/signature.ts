import { boxMean } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import type { Plane, Point, Quad, Raster } from '../raster/raster';
import { homography } from '../rectify/homography';
import { warp } from '../rectify/warp';

const width = 24;
const height = 32;
/** Cells of the detail for one of the coarse values, each way. */
const fine = 4;
const detailWidth = width * fine;
const detailHeight = height * fine;
/** Below this standard deviation (luma levels) a page counts as having nothing on it. */
const blankSpread = 2.5;

/** What a page looks like, with its own light and contrast taken out: enough to tell one sheet from the next. */
export interface Signature {
  /** 24×32 values of mean 0 and deviation 1. */
  values: Float32Array;
  /** 96×128 values: where words and lines stand, as what they differ from their surroundings by, relative to these. */
  detail: Float32Array;
  blank: boolean;
}

/** @param quad the page's corners in the frame's pixels. */
export function pageSignature(frame: Raster, quad: Quad): Signature {
  const finer = 2;
  const reach = 2 * fine * finer;
  const [w, h] = [detailWidth * finer, detailHeight * finer];
  // A little more than the page is left out at its edges, where the outline trembles.
  const corners: Point[] = [[-reach, -reach], [w - 1 + reach, -reach], [w - 1 + reach, h - 1 + reach], [-reach, h - 1 + reach]]; // prettier-ignore
  const detail = halved(lumaPlane(warp(frame, homography(corners, quad), w, h)));
  const { data } = halved(halved(detail));
  // The slow change of light across the page is no mark of it: a plane is taken out.
  let mean = 0;
  let gx = 0;
  let gy = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = data[y * width + x];
      mean += v;
      gx += v * (x - (width - 1) / 2);
      gy += v * (y - (height - 1) / 2);
    }
  const n = width * height;
  mean /= n;
  gx /= (n * (width * width - 1)) / 12;
  gy /= (n * (height * height - 1)) / 12;
  const values = new Float32Array(n);
  let square = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = data[y * width + x] - mean - gx * (x - (width - 1) / 2) - gy * (y - (height - 1) / 2);
      values[y * width + x] = v;
      square += v * v;
    }
  const spread = Math.sqrt(square / n);
  for (let i = 0; i < n; i++) values[i] /= Math.max(1e-6, spread);
  const around = boxMean(detail, 6).data;
  for (let i = 0; i < detail.data.length; i++) detail.data[i] = detail.data[i] / Math.max(8, around[i]) - 1;
  return { values, detail: detail.data, blank: spread < blankSpread };
}

/** −1..1, about 1 for pages that look alike from afar: the best correlation within a shift of one cell. Two blank pages are alike. */
export function likeness(a: Signature, b: Signature): number {
  if (a.blank || b.blank) return a.blank && b.blank ? 1 : 0;
  let best = -1;
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      let sum = 0;
      let count = 0;
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y++)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x++) {
          sum += a.values[y * width + x] * b.values[(y + dy) * width + x + dx];
          count++;
        }
      best = Math.max(best, sum / count);
    }
  return best;
}

const likeFrom = 0.6;
const blockCells = 16;
const mostShift = 2;
/** A block of the page has print on it from this deviation on. */
const inkSpread = 0.025;
/** Of the demo's fifteen sheets the same one had at least 0.75 of its printed blocks alike, other desk and turn included, another at most 0.60. */
const blockLikeFrom = 0.74;
const sameShare = 0.68;
/** Below it a block has other words in it. */
const otherBelow = 0.8;

/**
 * How two signatures' sheets are related: one and the same is alike from afar, and nearly everywhere when looked at block by block; another copy of a form is so too, but not in
 * the blocks that were filled in otherwise.
 */
export type Kinship = 'same' | 'copy' | 'other';

export function kinship(a: Signature, b: Signature): Kinship {
  if (a.blank || b.blank) return a.blank && b.blank ? 'same' : 'other';
  if (likeness(a, b) < likeFrom) return 'other';
  let printed = 0;
  let alike = 0;
  let least = 1;
  for (let y = 0; y < detailHeight; y += blockCells)
    for (let x = 0; x < detailWidth; x += blockCells) {
      const c = blockLikeness(a.detail, b.detail, x, y);
      if (c === null) continue;
      least = Math.min(least, c);
      printed++;
      if (c >= blockLikeFrom) alike++;
    }
  if (alike < sameShare * printed) return 'other';
  return least < otherBelow ? 'copy' : 'same';
}

/** Where on the page there is most print, as shares of its width and height; the middle of an empty page. */
export function busiestSpot({ detail, blank }: Signature): readonly [u: number, v: number] {
  if (blank) return [0.5, 0.5];
  let best = 0;
  let at: readonly [number, number] = [0.5, 0.5];
  for (let y = blockCells / 2; y <= detailHeight - 1.5 * blockCells; y += blockCells / 2)
    for (let x = blockCells / 2; x <= detailWidth - 1.5 * blockCells; x += blockCells / 2) {
      let square = 0;
      for (let j = 0; j < blockCells; j++)
        for (let p = (y + j) * detailWidth + x, end = p + blockCells; p < end; p++) square += detail[p] ** 2;
      if (square <= best) continue;
      best = square;
      at = [(x + blockCells / 2) / detailWidth, (y + blockCells / 2) / detailHeight];
    }
  return at;
}

/** Best correlation of a block within a shift of two cells; null where neither has print. At the page's edge it is taken as much further in, so that it can be shifted every way. */
function blockLikeness(a: Float32Array, b: Float32Array, x: number, y: number): number | null {
  const x0 = Math.max(mostShift, Math.min(detailWidth - blockCells - mostShift, x));
  const y0 = Math.max(mostShift, Math.min(detailHeight - blockCells - mostShift, y));
  const n = blockCells * blockCells;
  const spreadOf = (v: Float32Array, dx: number, dy: number) => {
    let sum = 0;
    let square = 0;
    for (let y = y0 + dy; y < y0 + dy + blockCells; y++)
      for (let p = y * detailWidth + x0 + dx, end = p + blockCells; p < end; p++) {
        sum += v[p];
        square += v[p] * v[p];
      }
    return { mean: sum / n, deviation: Math.sqrt(Math.max(0, square / n - (sum / n) ** 2)) };
  };
  const here = spreadOf(a, 0, 0);
  if (here.deviation < inkSpread && spreadOf(b, 0, 0).deviation < inkSpread) return null;
  let best = -1;
  for (let dy = -mostShift; dy <= mostShift; dy++) {
    for (let dx = -mostShift; dx <= mostShift; dx++) {
      const there = spreadOf(b, dx, dy);
      let product = 0;
      for (let j = 0; j < blockCells; j++)
        for (let p = (y0 + j) * detailWidth + x0, end = p + blockCells, o = dy * detailWidth + dx; p < end; p++)
          product += a[p] * b[p + o];
      best = Math.max(best, (product / n - here.mean * there.mean) / Math.max(1e-6, here.deviation * there.deviation));
    }
  }
  return best;
}

/** Means of 2×2. */
function halved({ width: w, data }: Plane): Plane {
  const small = { width: w >> 1, height: data.length / w / 2, data: new Float32Array(data.length >> 2) };
  for (let y = 0, q = 0; y < small.height; y++)
    for (let x = 0, p = 2 * y * w; x < small.width; x++, p += 2, q++)
      small.data[q] = (data[p] + data[p + 1] + data[p + w] + data[p + w + 1]) / 4;
  return small;
}
