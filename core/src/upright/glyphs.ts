import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { marksOf, type Mark } from '../raster/marks';
import { createRaster, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { sauvola } from '../enhance/sauvola';

/** Side of a view, cells. */
export const viewCells = 20;
/** Long side of the picture in which marks are looked for, px: x-heights of small print are then about 10 px. */
const workingEdgePx = 1300;
/** A view is this many times as wide as the mark that it is centred on, so that its neighbours show too. */
const surround = 2.2;
const smallestPx = 6;
const largestPx = 70;

/**
 * Views of the letter-sized marks on a flattened page: each mark with its surroundings as 20×20 cells, 0 paper to 1 ink. Letters, their parts
 * and short words will do; rules, frames and pictures are left out by their size.
 *
 * @param most views at most. However few of them are taken, they are spread over the page.
 */
export function* glyphViews(page: Raster, most = 90): Generator<Float32Array> {
  const grey = gaussian(lumaPlane(shrinkToEdge(page, workingEdgePx)), 0.7);
  const smooth = createRaster(grey.width, grey.height, 1);
  let bright = 0;
  for (let i = 0; i < grey.data.length; i += 7) if (grey.data[i] > 118) bright++;
  // Light print on a dark page is looked at as its negative.
  const dark = bright < grey.data.length / 7 / 2 && isDark(grey.data);
  const from = grey.data;
  const to = smooth.data;
  if (dark) for (let i = 0; i < from.length; i++) to[i] = 255 - from[i];
  else to.set(from);
  const ink = sauvola(smooth, { window: 41, k: 0.2, range: 128 });
  const on = new Uint8Array(ink.data.length);
  for (let i = 0; i < on.length; i++) on[i] = ink.data[i] ? 0 : 1;
  const boxes = marksOf(on, ink.width, ink.height).filter(({ x0, y0, x1, y1, area }) => {
    const w = x1 - x0 + 1;
    const h = y1 - y0 + 1;
    const long = Math.max(w, h);
    return (
      long >= smallestPx &&
      long <= largestPx &&
      Math.min(w, h) >= 3 &&
      area >= 14 &&
      area < 0.85 * w * h &&
      long < 4 * Math.min(w, h)
    );
  });
  // Steps of the golden section fill the list evenly from the first one on (Weyl's sequence); marks that come twice are passed over.
  const seen = new Set<number>();
  for (let at = 0; seen.size < Math.min(most, boxes.length); at = (at + golden) % 1) {
    const i = Math.floor(at * boxes.length);
    if (seen.has(i)) continue;
    seen.add(i);
    yield view(smooth, boxes[i]);
  }
}

const golden = (Math.sqrt(5) - 1) / 2;

/** Whether most of a page is dark with lighter marks on it, rather than paper in dim light: then the bright part is the smaller one. */
function isDark(values: Float32Array): boolean {
  const sample = Float32Array.from({ length: Math.ceil(values.length / 31) }, (_, i) => values[31 * i]).sort();
  const at = (share: number) => sample[Math.floor(share * (sample.length - 1))];
  return at(0.98) - at(0.5) > 1.5 * (at(0.5) - at(0.02));
}

function view(grey: Raster, { x0, y0, x1, y1 }: Mark): Float32Array {
  const side = Math.max(x1 - x0 + 1, y1 - y0 + 1) * surround;
  const left = (x0 + x1) / 2 - side / 2;
  const top = (y0 + y1) / 2 - side / 2;
  const cell = side / viewCells;
  const out = new Float32Array(viewCells * viewCells);
  const { width, height, data } = grey;
  const n = Math.max(1, Math.round(cell));
  for (let j = 0; j < viewCells; j++)
    for (let i = 0; i < viewCells; i++) {
      let sum = 0;
      for (let v = 0; v < n; v++)
        for (let u = 0; u < n; u++) {
          const x = Math.round(left + (i + (u + 0.5) / n) * cell);
          const y = Math.round(top + (j + (v + 0.5) / n) * cell);
          sum += x < 0 || y < 0 || x >= width || y >= height ? 255 : data[y * width + x];
        }
      out[j * viewCells + i] = sum / (n * n);
    }
  // From the paper's own brightness about the mark to its darkest.
  const sorted = out.slice().sort();
  const paper = sorted[Math.floor(0.85 * sorted.length)];
  const span = Math.max(12, paper - sorted[4]);
  for (let i = 0; i < out.length; i++) out[i] = Math.max(0, Math.min(1, (paper - out[i]) / span));
  return out;
}

/** A view turned clockwise by a quarter. */
export function turnedView(cells: Float32Array): Float32Array {
  const n = viewCells;
  const out = new Float32Array(n * n);
  for (let y = 0; y < n; y++) for (let x = 0; x < n; x++) out[y * n + x] = cells[(n - 1 - x) * n + y];
  return out;
}

/** For tests and training: a page turned clockwise by quarters. */
export function turnedPage(page: Raster, quarters: number): Raster {
  let out = page;
  for (let k = 0; k < quarters; k++) {
    const { width: w, height: h, channels, data } = out;
    const next = createRaster(h, w, channels);
    for (let y = 0; y < w; y++)
      for (let x = 0; x < h; x++)
        for (let c = 0; c < channels; c++) next.data[(y * h + x) * channels + c] = data[((h - 1 - x) * w + y) * channels + c];
    out = next;
  }
  return out;
}
