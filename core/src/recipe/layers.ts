import { lumaPlane } from '../raster/colour';
import { GridRows } from '../raster/gridRows';
import { createRaster, type Plane, type Raster } from '../raster/raster';
import { upsample2x } from '../raster/upsample2x';
import { shrinkToEdge } from '../raster/resize';
import { percentiles } from '../enhance/levels';
import { closing, erode } from '../enhance/morphology';

/** A page as three pictures over each other (mixed raster content, ISO/IEC 16485). */
export interface Layers {
  /** One channel in the page's own dots, or twice as many where these are coarse: 0 where there is ink, else 255. */
  mask: Raster;
  /** What lies under the ink, and what colours the ink has, both with fewer dots. */
  background: Raster;
  ink: Raster;
}

/** Dots per inch of what lies under the ink, and of its colours: pictures on a page are looked at, print is read. */
const backgroundDpi = 100;
const inkDpi = 25;
/** What is wider is no stroke, mm. */
const widestMm = 4.5;
/** Ink is darker than this share of the way from what lies round it to the darkest near by, and by so many levels at least. */
const inkFrom = 0.42;
const leastLevels = 22;
/** The darkest is looked for so far round, mm. */
const nearMm = 1;
/** Below this the mask has twice the page's dots, as *Ink* has. */
const fineDpi = 240;
/** A page of which the middle is darker has light print, which this does not part from its ground. */
const darkBelow = 120;

/**
 * Parts a finished page into its ink and what lies under it, so that print stays sharp in its own dots where all else is compressed.
 *
 * @returns null for a dark page: its print is light.
 */
export function layersOf(page: Raster, dpi: number): Layers | null {
  const { width, height } = page;
  const luma = lumaPlane(page);
  const small = shrinkToEdge(page, Math.max(24, Math.round((Math.max(width, height) * backgroundDpi) / dpi)));
  const smallLuma = lumaPlane(small);
  const [middle] = percentiles(smallLuma.data, [0.5]);
  if (middle < darkBelow) return null;
  const radius = Math.max(1, Math.round((((widestMm / 25.4) * dpi * small.width) / width - 1) / 2));
  const around = closing(smallLuma, radius);
  const darkest = erode(smallLuma, Math.max(1, Math.round(((nearMm / 25.4) * dpi * small.width) / width)));
  const below: Plane = { ...around, data: around.data.map((v, i) => v - Math.max(leastLevels, inkFrom * (v - darkest.data[i]))) };
  const grey: Raster = { width, height, channels: 1, data: Uint8ClampedArray.from(luma.data) };
  const mask = darkerThan(below, grey);
  return {
    mask: dpi < fineDpi ? darkerThan(below, upsample2x(grey)) : mask,
    background: meanOf(page, mask, 255, Math.max(1, Math.round(dpi / backgroundDpi))),
    ink: meanOf(page, mask, 0, Math.max(1, Math.round(dpi / inkDpi))),
  };
}

/** 0 where a picture is darker than a threshold on a smaller grid, else 255. */
function darkerThan(below: Plane, { width, height, data }: Raster): Raster {
  const mask = createRaster(width, height, 1);
  const rows = new GridRows(below, width, height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = rows.row(y);
    for (let x = 0; x < width; x++, i++) mask.data[i] = data[i] < row[x] ? 0 : 255;
  }
  return mask;
}

/**
 * The page in blocks of `step` dots, each the mean of those that are ink, or of those that are not. Next to the edge between both a dot is a mixture of them: it
 * counts only where there is no other, and the darker the ink is, the more. Blocks without any take what their neighbours have.
 */
function meanOf({ width, height, channels, data }: Raster, { data: mask }: Raster, wanted: 0 | 255, step: number): Raster {
  const used = channels === 1 ? 1 : 3;
  const green = used === 1 ? 0 : 1;
  const [w, h] = [Math.ceil(width / step), Math.ceil(height / step)];
  const out = createRaster(w, h, used);
  const known = new Uint8Array(w * h);
  // Of each block of a row of them: its dots' sum in each channel and their weight, of those that are sure and of the mixtures.
  const sums = new Float64Array(w * 2 * (used + 1));
  for (let by = 0; by < h; by++) {
    sums.fill(0);
    const bottom = Math.min(height, (by + 1) * step);
    for (let y = by * step; y < bottom; y++)
      for (let bx = 0, x = 0; bx < w; bx++)
        for (const right = Math.min(width, x + step); x < right; x++) {
          const i = y * width + x;
          if (mask[i] !== wanted) continue;
          const inside = (x === 0 || mask[i - 1] === wanted) && (x === width - 1 || mask[i + 1] === wanted) && (y === 0 || mask[i - width] === wanted) && (y === height - 1 || mask[i + width] === wanted); // prettier-ignore
          // Of paper there is more beside it.
          if (wanted && !inside) continue;
          const p = i * channels;
          const dark = 256 - data[p + green];
          // Thin strokes have no dot that is ink alone: their darkest come nearest.
          const weight = wanted ? 1 : dark * dark * dark;
          const to = (bx * 2 + (inside ? 0 : 1)) * (used + 1);
          for (let c = 0; c < used; c++) sums[to + c] += weight * data[p + c];
          sums[to + used] += weight;
        }
    for (let bx = 0; bx < w; bx++) {
      const sure = bx * 2 * (used + 1);
      const from = sums[sure + used] ? sure : sure + used + 1;
      const weight = sums[from + used];
      if (!weight) continue;
      known[by * w + bx] = 1;
      for (let c = 0; c < used; c++) out.data[(by * w + bx) * used + c] = sums[from + c] / weight;
    }
  }
  spread(out, known);
  return out;
}

/** Blocks of which nothing is known take the mean of those beside them, ring by ring. */
function spread({ width, height, channels, data }: Raster, known: Uint8Array): void {
  let open: number[] = [];
  known.forEach((k, i) => k || open.push(i));
  if (open.length === known.length) return;
  while (open.length) {
    const next: number[] = [];
    const filled: number[] = [];
    for (const i of open) {
      const x = i % width;
      const y = (i - x) / width;
      let n = 0;
      const sums = [0, 0, 0];
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const j = ny * width + nx;
          if (!known[j]) continue;
          n++;
          for (let c = 0; c < channels; c++) sums[c]! += data[j * channels + c];
        }
      if (!n) {
        next.push(i);
        continue;
      }
      for (let c = 0; c < channels; c++) data[i * channels + c] = sums[c]! / n;
      filled.push(i);
    }
    for (const i of filled) known[i] = 1;
    open = next;
  }
}
