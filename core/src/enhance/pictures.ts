import { gaussian } from '../raster/blur';
import { createPlane, type Plane, type Raster } from '../raster/raster';
import { median, percentiles } from './levels';
import { extreme } from './morphology';

/**
 * Adds areas that are far darker than the paper near them: printed blocks and photographs. A shadow on white paper leaves more than two fifths of
 * the light, black ink reflects less (common practice: shadows of hands and phones take one or two stops off one of several lights).
 */
export function darkAreas(top: Plane, mask: Uint8Array): void {
  const { width, height, data } = top;
  const reach = Math.round(Math.max(width, height) / 10);
  const envelope = gaussian(extreme(top, reach, 1), reach / 4).data;
  const dark = createPlane(width, height);
  for (let i = 0; i < data.length; i++) dark.data[i] = data[i] < 0.4 * envelope[i] ? 1 : 0;
  const grown = extreme(dark, 5, 1).data;
  for (let i = 0; i < mask.length; i++) if (grown[i] > 0.5) mask[i] = 1;
}

const logs = Float32Array.from({ length: 256 }, (_, v) => Math.log(v + 8));

/** 1 where the colour differs clearly from the page's own paper colour over an area (not thin strokes). */
export function colouredAreas(small: Raster, luma: Plane): Uint8Array {
  const { width, height, channels, data } = small;
  const n = width * height;
  const mask = new Uint8Array(n);
  if (channels === 1) return mask;
  const bright = percentiles(luma.data, [0.6])[0];
  const reds = new Float32Array(n);
  const blues = new Float32Array(n);
  let count = 0;
  for (let i = 0, p = 0; i < n; i++, p += channels) {
    if (luma.data[i] < bright) continue;
    reds[count] = logs[data[p]] - logs[data[p + 1]];
    blues[count++] = logs[data[p + 2]] - logs[data[p + 1]];
  }
  const red = median(reds.subarray(0, count)) ?? 0;
  const blue = median(blues.subarray(0, count)) ?? 0;
  const chroma = createPlane(width, height);
  for (let i = 0, p = 0; i < n; i++, p += channels) {
    const r = logs[data[p]] - logs[data[p + 1]] - red;
    const b = logs[data[p + 2]] - logs[data[p + 1]] - blue;
    chroma.data[i] = r * r + b * b > 0.22 * 0.22 ? 1 : 0;
  }
  const opened = extreme(extreme(chroma, 3, -1), 3, 1);
  const grown = extreme(extreme(extreme(opened, 7, 1), 7, -1), 4, 1);
  for (let i = 0; i < n; i++) mask[i] = grown.data[i] > 0.5 ? 1 : 0;
  return mask;
}
