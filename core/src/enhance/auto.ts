import type { Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import type { Filter } from './enhance';
import { estimateLight, type Light } from './light';

export interface Choice {
  filter: Exclude<Filter, 'original' | 'ink' | 'board'>;
  /** What would be lost by another filter, in a few words. */
  why: string;
}

/** Shares of the page from which there is colour to lose: over areas, and in thin strokes. */
const colouredAreas = 0.004;
const colouredStrokes = 0.003;
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
  if (strokesShare(page, light) > colouredStrokes) return { filter: 'even-light', why: 'coloured pen or stamp' };
  return { filter: 'grey', why: 'no colour to lose' };
}

/** Share of pixels with clear chroma after white balance: coloured pen and stamps are thin, so areas alone do not tell. */
function strokesShare(page: Raster, light: Light): number {
  const { data, channels, width, height } = shrinkToEdge(page, strokesEdgePx);
  const [br, bg, bb] = light.balance;
  let coloured = 0;
  for (let p = 0; p < data.length; p += channels) {
    const r = data[p] * br;
    const g = data[p + 1] * bg;
    const b = data[p + 2] * bb;
    const top = Math.max(r, g, b);
    if (top - Math.min(r, g, b) > 0.28 * top && top > 40) coloured++;
  }
  return coloured / (width * height);
}
