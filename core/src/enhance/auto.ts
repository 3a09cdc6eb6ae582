import type { Raster } from '../raster/raster';
import type { Filter } from './filters';
import { estimateLight, isAllPicture, type Light } from './light';
import { strokesOn, type Strokes } from './strokes';

export interface Choice {
  filter: Exclude<Filter, 'original' | 'ink' | 'picture'>;
  /** What would be lost by another filter, in a few words. */
  why: string;
}

/** Share of the page from which there are coloured areas to lose. */
const colouredAreas = 0.004;
/** Coloured strokes from which there is something to lose, px. */
const strokesPx = 60;
/**
 * A board: pens of several colours with a good part of what is written, large for what they are written on, and no coloured areas. Of the development photographs boards have marks of 0.028 to 0.051 of
 * the height, 0.24 to 0.83 of them in colour; sheets written by hand at most 0.025, cards larger ones in one colour. The more pens, the smaller the marks may be.
 */
const boardMarks = [Infinity, Infinity, 0.027, 0.018];
const boardColour = 0.2;
/** The filter that suits a page, by what another one would lose. Black and white is never picked: it always loses something. */
export function chooseFilter(page: Raster, light: Light = estimateLight(page)): Choice {
  if (page.channels === 1) return { filter: 'grey', why: 'no colour in it' };
  if (light.dark) return { filter: 'even-light', why: 'a dark page' };
  if (isAllPicture(light)) return { filter: 'even-light', why: 'a picture all over' };
  if (light.coloured > colouredAreas) return { filter: 'even-light', why: 'coloured areas' };
  if (light.tint > 1.02) return { filter: 'even-light', why: 'tinted paper' };
  const strokes = strokesOn(page, light);
  if (isBoard(strokes)) return { filter: 'board', why: 'large pens in several colours' };
  if (strokes.coloured > strokesPx) return { filter: 'even-light', why: 'coloured pen or stamp' };
  return { filter: 'grey', why: 'no colour to lose' };
}

const isBoard = ({ hues, colouredShare, height }: Strokes) =>
  colouredShare > boardColour && height > boardMarks[Math.min(hues, boardMarks.length - 1)];
