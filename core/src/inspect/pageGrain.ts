import { lumaPlane } from '../raster/colour';
import { crop } from '../raster/crop';
import type { Quad, Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { windowsOver } from './windowsOver';

/** Pixels an inch at which noise is as coarse as the strokes of small print, whatever a phone has smeared and however near it was. */
const strokeDpi = 100;
/** Side of the cells whose deviation is taken, px at that resolution. */
const cellPx = 5;
/** Of a window's cells, by level: paper. */
const paperShare = 0.95;
/** Of all cells, by deviation: plain ground even on a page full of print. */
const plainShare = 0.15;
/** What paper comes to on a finished page, levels. */
const paperLevel = 224;

/**
 * Noise of a page's photo that is as coarse as its strokes: a low percentile of the deviation in small cells of the photo shrunk to a hundredth of an inch a pixel, as a part of the brightness of the paper round them.
 *
 * @returns standard deviation, levels of paper evened to 224; null where no window of the page lies in the photo.
 */
export function pageGrain(photo: Raster, quad: Quad, photoDpi: number): number | null {
  const deviations: number[] = [];
  for (const box of windowsOver(photo, quad)) {
    const { width, height, data } = lumaPlane(shrinkToEdge(crop(photo, box), Math.round((box.width * strokeDpi) / photoDpi)));
    const cells: { mean: number; deviation: number }[] = [];
    // A step of two cells is enough to go by.
    for (let y0 = 0; y0 + cellPx <= height; y0 += 2 * cellPx)
      for (let x0 = 0; x0 + cellPx <= width; x0 += 2 * cellPx) {
        let s = 0;
        let q = 0;
        for (let y = y0; y < y0 + cellPx; y++)
          for (let x = x0; x < x0 + cellPx; x++) {
            const v = data[y * width + x];
            s += v;
            q += v * v;
          }
        const n = cellPx * cellPx;
        cells.push({ mean: s / n, deviation: Math.sqrt(Math.max(0, q / n - (s / n) ** 2)) });
      }
    if (!cells.length) continue;
    cells.sort((a, b) => a.mean - b.mean);
    const paper = Math.max(1, cells[Math.floor(paperShare * cells.length)].mean);
    for (const { deviation } of cells) deviations.push((paperLevel * deviation) / paper);
  }
  return deviations.sort((a, b) => a - b)[Math.floor(plainShare * deviations.length)] ?? null;
}
