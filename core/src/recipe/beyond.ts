import { lightEdgePx, paperAround } from '../enhance/light';
import { GridRows } from '../raster/gridRows';
import type { Point, Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';

/** Where a place on the page, in shares of its width and height, lies in the photo, px. */
export type ToPhoto = (u: number, v: number) => Point;

/** Edge of the cells at whose corners the photo is asked, px of the page. */
const cellPx = 16;

/**
 * Paints what of a page lies beyond the photo as plain as the paper beside it; else it would be the photo's last pixels, drawn out to stripes. In place.
 *
 * @param photo size in px.
 */
export function paintBeyond(page: Raster, photo: Pick<Raster, 'width' | 'height'>, toPhoto: ToPhoto): void {
  const { width, height, channels, data } = page;
  const colours = channels === 1 ? 1 : 3;
  // How far inside the photo a place lies, px; negative beyond it.
  const inside = ([x, y]: Point) => Math.min(x, y, photo.width - 1 - x, photo.height - 1 - y) + 0.5;
  const at = (x: number, y: number) => inside(toPhoto((x + 0.5) / width, (y + 0.5) / height));
  let papers: GridRows[] | null = null;
  for (let top = 0; top < height; top += cellPx)
    for (let left = 0; left < width; left += cellPx) {
      const corners = [at(left, top), at(left + cellPx, top), at(left, top + cellPx), at(left + cellPx, top + cellPx)];
      if (corners.every((v) => v >= 0)) continue;
      const all = corners.every((v) => v < 0);
      papers ??= papersOf(page, at);
      for (let y = top; y < Math.min(height, top + cellPx); y++) {
        const rows = papers.map((paper) => paper.row(y, left, Math.min(width, left + cellPx)));
        for (let x = left, p = (y * width + left) * channels; x < Math.min(width, left + cellPx); x++, p += channels)
          if (all || at(x, y) < 0) for (let c = 0; c < colours; c++) data[p + c] = rows[c][x];
      }
    }
}

function papersOf(page: Raster, at: (x: number, y: number) => number): GridRows[] {
  const small = shrinkToEdge(page, lightEdgePx);
  const scale = page.width / small.width;
  const beyond = new Uint8Array(small.width * small.height);
  for (let y = 0, i = 0; y < small.height; y++)
    for (let x = 0; x < small.width; x++, i++) beyond[i] = Number(at((x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5) < 0);
  return paperAround(small, beyond).map((plane) => new GridRows(plane, page.width, page.height));
}
