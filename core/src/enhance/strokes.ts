import { GridRows } from '../raster/gridRows';
import { marksOf } from '../raster/marks';
import type { Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import type { Light } from './light';

/** What is drawn and written on a page. */
export interface Strokes {
  /** Pixels of coloured strokes on the copy that was looked at, of marks that hang together only. */
  coloured: number;
  /** How many different pens: hues that have their share of the colour. */
  hues: number;
  /** Share of what is written that is coloured. */
  colouredShare: number;
  /** Height of the middling mark, share of the page's shorter side. */
  height: number;
}

/** Strokes are looked at on a copy of this size: the colour noise of dim photographs is gone there, a pen's line is not. */
const workingEdgePx = 1200;
/** A mark of fewer px is noise. */
const leastPx = 25;
/** Chroma of a stroke, as a share of the paper's brightness. The colour noise of dim, blurred and recompressed photos of plain print stays below .17. */
const leastChroma = 0.2;
/** Ink is darker than this share of the paper. */
const inkBelow = 0.78;
/** A desk that shows along the sides is not looked at, share of the longer side. */
const marginShare = 0.012;
/** A hue with less of the colour than this is another one's rim. */
const hueShare = 0.03;
/** Parts of the colour circle that are told apart, and how many on either side of a pen's own are still its: 35 degrees. */
const circle = 36;
const reach = 3;

/** Looks at the strokes on a page: pens and stamps are thin, so areas alone do not tell of them. */
export function strokesOn(page: Raster, light: Light): Strokes {
  const { data, channels, width, height } = shrinkToEdge(page, workingEdgePx);
  const margin = Math.round(marginShare * Math.max(width, height));
  const paper = new GridRows(light.paper, width, height);
  const [br, bg, bb] = light.balance;
  const colour = new Uint8Array(width * height);
  const drawn = new Uint8Array(width * height);
  const hues = new Float64Array(circle);
  let inks = 0;
  for (let y = margin; y < height - margin; y++) {
    const row = paper.row(y);
    for (let x = margin, p = (y * width + x) * channels; x < width - margin; x++, p += channels) {
      const r = data[p] * br;
      const g = data[p + 1] * bg;
      const b = data[p + 2] * bb;
      const most = Math.max(r, g, b);
      const chroma = most - Math.min(r, g, b);
      const coloured = chroma > leastChroma * Math.max(24, row[x]);
      if (!coloured && 0.299 * r + 0.587 * g + 0.114 * b > inkBelow * row[x]) continue;
      drawn[y * width + x] = 1;
      inks++;
      if (!coloured) continue;
      colour[y * width + x] = 1;
      const sixth = most === r ? (g - b) / chroma + 6 : most === g ? (b - r) / chroma + 2 : (r - g) / chroma + 4;
      hues[Math.floor((sixth * circle) / 6) % circle]++;
    }
  }
  const coloured = marksOf(colour, width, height).reduce((sum, { area }) => sum + (area >= leastPx ? area : 0), 0);
  const heights = marksOf(drawn, width, height)
    .filter(({ area }) => area >= leastPx)
    .map(({ y0, y1 }) => y1 - y0 + 1)
    .sort((a, b) => a - b);
  const all = hues.reduce((a, b) => a + b, 0);
  return {
    coloured,
    hues: pensOf(hues, hueShare * all),
    colouredShare: inks ? all / inks : 0,
    height: (heights[heights.length >> 1] ?? 0) / Math.min(width, height),
  };
}

/** How many pens wrote so many pixels of each hue: one after the other, the strongest first, takes what is near it. */
function pensOf(hues: Float64Array, least: number): number {
  const left = hues.slice();
  for (let pens = 0; ; pens++) {
    const most = left.indexOf(Math.max(...left));
    let taken = 0;
    for (let k = -reach; k <= reach; k++) {
      const at = (most + k + circle) % circle;
      taken += left[at];
      left[at] = 0;
    }
    if (!taken || taken <= least) return pens;
  }
}
