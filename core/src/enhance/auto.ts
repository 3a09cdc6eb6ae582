import { GridRows } from '../raster/gridRows';
import type { Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import type { Filter } from './enhance';
import { estimateLight, type Light } from './light';

export interface Choice {
  filter: Exclude<Filter, 'original' | 'ink' | 'board'>;
  /** What would be lost by another filter, in a few words. */
  why: string;
}

/** Share of the page from which there are coloured areas to lose. */
const colouredAreas = 0.004;
/** Coloured strokes on the copy that is looked at: px of all of them from which there is something to lose, and of one from which it is no noise. */
const strokesPx = 60;
const strokePx = 25;
/** Chroma of a stroke, as a share of the paper's brightness. The colour noise of dim, blurred and recompressed photos of plain print stays below .17. */
const strokeChroma = 0.2;
/** A desk that shows along the sides is not looked at, share of the longer side. */
const marginShare = 0.012;
/** A page with next to no plain paper is a picture. */
const pictureShare = 0.85;
/** Strokes are looked at on a copy of this size: the colour noise of dim photographs is gone there, a pen's line is not. */
const strokesEdgePx = 1200;

/** The filter that suits a page, by what another one would lose. Black and white is never picked: it always loses something. */
export function chooseFilter(page: Raster, light: Light = estimateLight(page)): Choice {
  if (page.channels === 1) return { filter: 'grey', why: 'no colour in it' };
  if (light.dark) return { filter: 'even-light', why: 'a dark page' };
  let pictured = 0;
  for (const v of light.pictures.data) pictured += v;
  if (pictured > pictureShare * light.pictures.data.length) return { filter: 'picture', why: 'a picture all over' };
  if (light.coloured > colouredAreas) return { filter: 'even-light', why: 'coloured areas' };
  if (light.tint > 1.02) return { filter: 'even-light', why: 'tinted paper' };
  if (strokesOn(page, light) > strokesPx) return { filter: 'even-light', why: 'coloured pen or stamp' };
  return { filter: 'grey', why: 'no colour to lose' };
}

/** Pixels of coloured strokes: pen and stamps are thin, so areas alone do not tell. Only marks that hang together count. */
function strokesOn(page: Raster, light: Light): number {
  const { data, channels, width, height } = shrinkToEdge(page, strokesEdgePx);
  const margin = Math.round(marginShare * Math.max(width, height));
  const paper = new GridRows(light.paper, width, height);
  const [br, bg, bb] = light.balance;
  const on = new Uint8Array(width * height);
  for (let y = margin; y < height - margin; y++) {
    const row = paper.row(y);
    for (let x = margin, p = (y * width + x) * channels; x < width - margin; x++, p += channels) {
      const r = data[p] * br;
      const g = data[p + 1] * bg;
      const b = data[p + 2] * bb;
      if (Math.max(r, g, b) - Math.min(r, g, b) > strokeChroma * Math.max(24, row[x])) on[y * width + x] = 1;
    }
  }
  let coloured = 0;
  const stack: number[] = [];
  for (let start = 0; start < on.length; start++) {
    if (!on[start]) continue;
    let area = 0;
    on[start] = 0;
    stack.push(start);
    while (stack.length) {
      const p = stack.pop()!;
      area++;
      // The margin keeps every neighbour within the picture.
      for (const q of [p - width - 1, p - width, p - width + 1, p - 1, p + 1, p + width - 1, p + width, p + width + 1])
        if (on[q]) {
          on[q] = 0;
          stack.push(q);
        }
    }
    if (area >= strokePx) coloured += area;
  }
  return coloured;
}
