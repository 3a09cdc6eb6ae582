import { gaussian } from '../raster/blur';
import { GridRows } from '../raster/gridRows';
import { marksOf, type Mark } from '../raster/marks';
import { createPlane, type Plane, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { percentiles } from './levels';
import type { Light } from './light';
import { closing } from './morphology';

/** Tinted rows and boxes are looked for on a copy of this size. */
const workingEdgePx = 800;
/** Print within them is narrower than twice this and one, px of the copy. */
const printPx = 2;
/** A tint leaves this share of the paper's light in its darkest channel; what leaves more is paper, what leaves less is a field that is kept anyway. */
const [darkest, palest] = [0.75, 0.965];
/** Narrower ones are left, share of the longer side: shadows of folds are as narrow. */
const leastSide = 0.009;
/** Nor are smaller ones kept, share of the page: bold words are as even. */
const leastArea = 0.004;
/** How much of its rectangle a tint fills, and how much half of it, from the 35th to the 85th percentile, differs: print is left in the darker part, and paper round a crooked one in the brighter. */
const leastFilled = 0.8;
const mostSpread = 0.035;
/** Inside each of its sides it is darker than outside by this, within a millimetre: shadows are not, and have no four straight sides. */
const leastStep = 0.022;

/** Colour of a tint that is more than grey: how much its channels differ, share of the paper. */
const leastColour = 0.045;

export interface Tints {
  /** 1 where they lie, on a copy of the page. */
  areas: Plane;
  /** Share of the page that those in colour cover. */
  coloured: number;
}

/** On the light's own copy, by luma alone, a tint may be so pale, and looks so much smaller and less filled. */
const [palestLuma, looserBy] = [0.985, 0.6];

/** Whether a closer look is worth its time: on most pages nothing is left once print is taken from the light's small copy. */
function mayHaveTints(smooth: Plane, { paper, pictures }: TintLight): boolean {
  const { width, height, data } = closing(smooth, printPx);
  const mask = new Uint8Array(data.length);
  for (let i = 0; i < mask.length; i++) {
    const share = data[i] / Math.max(1, paper.data[i]);
    if (share > darkest && share < palestLuma && pictures.data[i] <= 0.5) mask[i] = 1;
  }
  return marksOf(mask, width, height).some(
    ({ x0, y0, x1, y1, area }) =>
      Math.min(x1 - x0, y1 - y0) > 2 * printPx &&
      x0 > 0 &&
      y0 > 0 &&
      x1 < width - 1 &&
      y1 < height - 1 &&
      area > looserBy * leastArea * mask.length &&
      area > looserBy * leastFilled * (x1 - x0 + 1) * (y1 - y0 + 1),
  );
}

/**
 * Where rows and boxes are printed in a pale tint, which a tone curve that makes paper white would take for paper: upright rectangles of one even level with four sharp sides; null where there are
 * none.
 *
 * @param smooth the page's luma on the grid of its light.
 */
export function tintsOn(page: Raster, light: TintLight, smooth: Plane): Tints | null {
  if (!mayHaveTints(smooth, light)) return null;
  const small = shrinkToEdge(page, workingEdgePx);
  const { least, spread } = sharesOf(small, light);
  const { width, height, data } = least;
  const bare = closing(gaussian(least, 0.7), printPx);
  const mask = new Uint8Array(data.length);
  for (let i = 0; i < mask.length; i++) if (bare.data[i] > darkest && bare.data[i] < palest) mask[i] = 1;
  const side = leastSide * Math.max(width, height);
  const areas = createPlane(width, height);
  let [found, coloured] = [false, 0];
  for (const mark of marksOf(mask, width, height)) {
    const [across, down] = [mark.x1 - mark.x0 + 1, mark.y1 - mark.y0 + 1];
    if (Math.min(across, down) < side || mark.area < Math.max(leastArea * data.length, leastFilled * across * down)) continue;
    if (!isEven(bare, mark) || !hasSharpSides(bare, mark)) continue;
    found = true;
    if (middleOf(spread, mark) > leastColour) coloured += across * down;
    for (let y = mark.y0; y <= mark.y1; y++) areas.data.fill(1, y * width + mark.x0, y * width + mark.x1 + 1);
  }
  return found ? { areas, coloured: coloured / data.length } : null;
}

/** What is known of the light by then. */
type TintLight = Pick<Light, 'paper' | 'pictures' | 'balance' | 'own'>;

/** The share of the paper's light that is left in a page's darkest channel, and how much its channels differ; 1 and 0 in pictures. */
function sharesOf({ width, height, channels, data }: Raster, light: TintLight): { least: Plane; spread: Plane } {
  const [least, spread] = [createPlane(width, height), createPlane(width, height)];
  const papers = new GridRows(light.paper, width, height);
  const pictures = new GridRows(light.pictures, width, height);
  const [fr, fg, fb] = light.balance.map((v, c) => v / light.own[c]);
  for (let y = 0, i = 0, p = 0; y < height; y++) {
    const paper = papers.row(y);
    const picture = pictures.row(y);
    for (let x = 0; x < width; x++, i++, p += channels) {
      const r = data[p] * fr;
      const g = data[channels === 1 ? p : p + 1] * fg;
      const b = data[channels === 1 ? p : p + 2] * fb;
      const low = Math.min(r, g, b);
      const inPicture = picture[x] > 0.5;
      least.data[i] = inPicture ? 1 : low / Math.max(1, paper[x]);
      spread.data[i] = inPicture || channels === 1 ? 0 : (Math.max(r, g, b) - low) / Math.max(1, paper[x]);
    }
  }
  return { least, spread };
}

function levelsIn({ width, data }: Plane, { x0, y0, x1, y1 }: Mark): Float32Array {
  const levels = new Float32Array((x1 - x0 + 1) * (y1 - y0 + 1));
  for (let y = y0, i = 0; y <= y1; y++) for (let x = x0; x <= x1; x++, i++) levels[i] = 255 * data[y * width + x];
  return levels;
}

const middleOf = (plane: Plane, mark: Mark) => percentiles(levelsIn(plane, mark), [0.5])[0] / 255;

function isEven(plane: Plane, mark: Mark): boolean {
  const [low, high] = percentiles(levelsIn(plane, mark), [0.35, 0.85]);
  return high - low < 255 * mostSpread;
}

/** How far inside and outside of a side its levels are compared, px of the copy. */
const beside = 3;

function hasSharpSides(plane: Plane, { x0, y0, x1, y1 }: Mark): boolean {
  const { width, height } = plane;
  const row = (y: number) => middleOf(plane, { x0, x1, y0: y, y1: y, area: 0 });
  const column = (x: number) => middleOf(plane, { x0: x, x1: x, y0, y1, area: 0 });
  const [inX, inY] = [Math.min(beside, (x1 - x0) >> 1), Math.min(beside, (y1 - y0) >> 1)];
  return (
    x0 >= beside && y0 >= beside && x1 < width - beside && y1 < height - beside &&
    row(y0 - beside) - row(y0 + inY) > leastStep &&
    row(y1 + beside) - row(y1 - inY) > leastStep &&
    column(x0 - beside) - column(x0 + inX) > leastStep &&
    column(x1 + beside) - column(x1 - inX) > leastStep
  ); // prettier-ignore
}
