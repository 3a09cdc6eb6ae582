import { GridRows } from '../raster/gridRows';
import type { Plane, Raster } from '../raster/raster';
import { paperLevel } from './evenLight';
import { cutAt } from './localThreshold';
import { sauvola } from './sauvola';
import { dropSpecks } from './specks';

/**
 * Black where the grey lies below its local threshold; specks that are too small for a stroke or a full stop go. Pictures are dithered (Floyd and
 * Steinberg, "An adaptive algorithm for spatial grey scale", Proc. SID 17 (1976)): cut at one threshold they would be soot.
 */
export function inkPage(even: Raster, threshold: Plane, dpi: number, pictures: Plane): Raster {
  const target = cutAt(even, threshold);
  dropSpecks(target, leastSpeckPx(dpi));
  if (pictures.data.some((v) => v > 0.5)) dither(even, target, pictures);
  return target;
}

/** Writes the tones of pictures into a black-and-white page as fine dots. */
function dither(even: Raster, target: Raster, pictures: Plane): void {
  const { width, height, data } = even;
  const rows = new GridRows(pictures, width, height);
  let now = new Float32Array(width + 2);
  let next = new Float32Array(width + 2);
  for (let y = 0; y < height; y++) {
    const inside = rows.row(y);
    next.fill(0);
    for (let x = 0, p = y * width; x < width; x++, p++) {
      if (inside[x] <= 0.5) continue;
      const wanted = Math.max(0, Math.min(255, ((data[p] / paperLevel - 0.18) / 0.7) * 255)) + now[x + 1];
      const v = wanted < 128 ? 0 : 255;
      target.data[p] = v;
      const error = wanted - v;
      now[x + 2] += (7 / 16) * error;
      next[x] += (3 / 16) * error;
      next[x + 1] += (5 / 16) * error;
      next[x + 2] += (1 / 16) * error;
    }
    [now, next] = [next, now];
  }
}

/** Of a page that is mostly dark: black and white as they are, whichever of them is the print. */
export function inkOfDark(grey: Raster, dpi: number): Raster {
  const bilevel = sauvola(grey, { window: Math.max(15, Math.round(dpi * 0.3) | 1), k: 0.25, range: 128 });
  dropSpecks(bilevel, leastSpeckPx(dpi));
  return bilevel;
}

/** A full stop of 6 point print is about 0.25 mm across (common practice); half of its area is a speck. */
const leastSpeckPx = (dpi: number) => Math.max(3, Math.round(0.031 * (dpi / 25.4) ** 2 * 2.6));
