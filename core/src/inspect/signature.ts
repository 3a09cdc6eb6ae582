import { boxMean } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import type { Plane, Point, Quad, Raster } from '../raster/raster';
import { homography } from '../rectify/homography';
import { warp } from '../rectify/warp';
import { blockCells, detailHeight, detailWidth, fine, height, width, type Signature } from './kinship';

/** Below this standard deviation (luma levels) a page counts as having nothing on it. */
const blankSpread = 2.5;

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

/** Means of 2×2. */
function halved({ width: w, data }: Plane): Plane {
  const small = { width: w >> 1, height: data.length / w / 2, data: new Float32Array(data.length >> 2) };
  for (let y = 0, q = 0; y < small.height; y++)
    for (let x = 0, p = 2 * y * w; x < small.width; x++, p += 2, q++)
      small.data[q] = (data[p] + data[p + 1] + data[p + w] + data[p + w + 1]) / 4;
  return small;
}
