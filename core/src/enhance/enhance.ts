import { cropGrid, type Box } from '../raster/crop';
import { double } from '../raster/double';
import { GridRows } from '../raster/gridRows';
import { assertRaster, createPlane, type Plane, type Raster } from '../raster/raster';
import { adjusted, partLight, type Adjust } from './adjust';
import { unveiled } from './darkPage';
import { colourPage, evenGrey, greyPage, keepTints, paperLevel, type PageTone } from './evenLight';
import { inkOfDark, inkPage } from './ink';
import { estimateLight, type Light } from './light';
import { localThreshold } from './localThreshold';
import { calmed, isNoisy, noiseOver, softColours, type Noise } from './noise';
import { deepened, mayGlare, palenessOf, type Paleness } from './pale';
import { naturalLevels, naturalPicture, type Levels } from './picture';
import { drawRules, findRules } from './rules';
import { whitenSpecks } from './specks';

/** How a flattened page is finished. */
export type Filter = 'original' | 'even-light' | 'grey' | 'ink' | 'board' | 'picture';

interface Resolutions {
  /** Pixels per inch of the page; sets window sizes. Default 200. */
  dpi?: number;
  /** What the photo holds of it, pixels per inch; default `dpi`. Where the page has more, its noise is coarser. */
  photoDpi?: number;
}

export interface EnhanceOptions extends Resolutions {
  /** What was told by looking at the page, or at the whole page of which it is a window. */
  known?: Partial<Judgement>;
  /** What the user has turned on it. */
  adjust?: Adjust;
}

/** What is told by looking at a whole page. */
export interface Judgement {
  light: Light;
  noise: Noise;
  paleness: Paleness;
  levels: Levels;
  /** What `findRules` finds where the tone would break rules. */
  rules: Plane | null;
}

/**
 * All of it, for windows of the page to be finished as the page would be.
 *
 * @param copy of the page, smaller and with its margin tidied: enough to tell its strokes by.
 */
export function judge(page: Raster, copy: Raster, light: Light, { dpi = 200, photoDpi = dpi }: Resolutions): Judgement {
  const { even, noise } = calmed(evenGrey(page, light), light, dpi, grainOf(dpi, photoDpi));
  const rules = brokenRules(even, light, noise, pageTone(even, light, noise, dpi), { dpi, photoDpi });
  return { light, noise, rules, paleness: palenessOf(copy, withTints(light, 'paper')), levels: naturalLevels(page) };
}

/** What is told of a part of a page by looking at all of it. */
export function judgedWithin({ light, noise, rules, paleness, levels }: Judgement, page: Raster, box: Box): Judgement {
  const within = (grid: Plane) => cropGrid(grid, page, box);
  return {
    light: lightWithin(light, page, box),
    noise,
    rules: rules && within(rules),
    paleness: {
      board: within(paleness.board),
      glare: paleness.glare && within(paleness.glare),
      papers: paleness.papers.map(within),
    },
    levels,
  };
}

export const lightWithin = (light: Light, page: Raster, box: Box): Light => ({
  ...light,
  paper: cropGrid(light.paper, page, box),
  pictures: cropGrid(light.pictures, page, box),
  tints: light.tints && cropGrid(light.tints, page, box),
  dark: light.dark && {
    ...light.dark,
    veil: cropGrid(light.dark.veil, page, box),
    fields: cropGrid(light.dark.fields, page, box),
  },
});

/** A page's pixels a pixel of its photo, along a line. */
const grainOf = (dpi: number, photoDpi: number) => Math.max(1, dpi / photoDpi);

/** Bounds of the threshold, shares of the paper: print is darker than the most, ink darker than the least. */
const leastThreshold = 0.5;
const mostThreshold = 0.84;
const leastMost = 0.7;
/** How many deviations of the noise lie between the paper and the threshold. */
const noiseWidths = 2.2;

/**
 * Finishes a flattened page.
 *
 * @returns *original*: the page itself; *even-light*, *board* and *picture*: colour as far as the page has it; *grey*: one channel; *ink*: one channel of 0 and 255, twice as large where the page has few pixels,
 *   since a stroke's edge tells between pixels what a pixel of 1 bit cannot.
 */
export function enhance(given: Raster, filter: Filter, options: EnhanceOptions = {}): Raster {
  assertRaster(given);
  const { dpi = 200, photoDpi = dpi, adjust = {}, known = {} } = options;
  // A raster of its own: whoever receives it may hand it on for good.
  if (filter === 'original') return adjusted({ ...given, data: given.data.slice() }, adjust, dpi);
  if (filter === 'picture') return adjusted(naturalPicture(given, known.levels), adjust, dpi);
  const whole = known.light ?? estimateLight(given);
  const light = partLight(filter === 'board' ? boardLight(whole) : whole, adjust.evening);
  const colour = filter !== 'grey' && given.channels !== 1;
  const page = light.dark ? given : withStrokes(given, withTints(light, 'paper'), filter === 'board', known.paleness);
  if (light.dark) {
    if (filter === 'ink') return inkOfDark(fine(unveiled(page, light.dark, 1), dpi), finer(dpi), light.dark);
    return adjusted(unveiled(page, light.dark, colour ? 3 : 1), adjust, dpi);
  }
  const { even, noise } = calmed(evenGrey(page, light), light, dpi, grainOf(dpi, photoDpi), known.noise);
  const tone = pageTone(even, light, noise, dpi, adjust.strokes, filter === 'board');
  const rules =
    filter === 'board' ? null : known.rules === undefined ? brokenRules(even, light, noise, tone, options) : known.rules;
  if (rules) drawRules(even, rules);
  if (filter === 'ink') return inkPage(fine(even, dpi), tone.threshold, finer(dpi), light.pictures);
  const noisy = isNoisy(noise.photo);
  if (noisy) whitenSpecks(even, tone, light.pictures, dpi);
  const kept = withTints(light, 'tints');
  if (light.tints) keepTints(even, light.tints);
  if (!colour) return adjusted(greyPage(even, kept, tone), adjust, dpi);
  return adjusted(colourPage(noisy ? softColours(page, dpi) : page, even, kept, tone), adjust, dpi);
}

/** A light whose tints are pictures too, since their tones stay (in Ink they are paper), on the grid of one of its planes. */
function withTints(light: Light, on: 'paper' | 'tints'): Light {
  const { pictures, tints } = light;
  if (!tints) return light;
  const { width, height } = light[on]!;
  const [pictureRows, tintRows] = [pictures, tints].map((plane) => new GridRows(plane, width, height));
  const either = createPlane(width, height);
  for (let y = 0, i = 0; y < height; y++) {
    const [picture, tint] = [pictureRows.row(y), tintRows.row(y)];
    for (let x = 0; x < width; x++, i++) either.data[i] = Math.max(picture[x], tint[x]);
  }
  return { ...light, pictures: either };
}

/** A board with all its strokes made deep, another page with those in glare. */
function withStrokes(page: Raster, light: Light, board: boolean, known?: Paleness): Raster {
  if (!board && !known && !mayGlare(light)) return page;
  const paleness = known ?? palenessOf(page, light);
  const gains = board ? paleness.board : paleness.glare;
  return gains ? deepened(page, light, gains, paleness.papers) : page;
}

/** Photographs that hold this of a page keep its rules whole, unless they are dim. */
const wholeRulesDpi = 170;

function brokenRules(
  even: Raster,
  light: Light,
  noise: Noise,
  tone: PageTone,
  { dpi = 200, photoDpi = dpi }: Resolutions,
): Plane | null {
  return photoDpi < wholeRulesDpi || isNoisy(noise.photo) ? findRules(even, tone, light.pictures, dpi) : null;
}

/** A board has no pictures to keep, and its pens are paler than ink. */
const boardLight = (light: Light): Light => ({
  ...light,
  tint: 1,
  pictures: { ...light.pictures, data: new Float32Array(light.pictures.data.length) },
  tints: null,
});
const boardSaturation = 1.2;
/** Noise has colours too. */
const noisySaturation = 0.8;
const mostThresholdBoard = 0.9;
/** How far the threshold moves at the ends of "weight of the strokes", share of the paper. */
const strokesReach = 0.13;

function pageTone(even: Raster, light: Light, noise: Noise, dpi: number, strokes = 0, board = false): PageTone {
  const { photo, left } = noise;
  const over = noiseOver(light, noise);
  const highest = paperLevel * (board ? mostThresholdBoard : mostThreshold);
  const most = {
    ...over,
    data: over.data.map((v) => Math.max(paperLevel * leastMost, highest - noiseWidths * Math.max(0, v - 1))),
  };
  // In the dark the print is pale, and its strokes break where the threshold falls with the deviation.
  const k = 0.25 - 0.13 * Math.max(0, Math.min(1, (photo - 1.5) / 3.5));
  const threshold = localThreshold(even, { dpi, k, least: leastThreshold * paperLevel, most });
  if (strokes) for (let i = 0; i < threshold.data.length; i++) threshold.data[i] += strokes * strokesReach * paperLevel;
  return {
    threshold,
    clear: 0.1 * paperLevel,
    noise: over,
    usualNoise: left,
    saturation: board ? boardSaturation : isNoisy(photo) ? noisySaturation : 1,
  };
}

/** Ink below this resolution is made at twice as much. */
const fineEnoughDpi = 240;
const finer = (dpi: number) => (dpi < fineEnoughDpi ? dpi * 2 : dpi);
const fine = (grey: Raster, dpi: number) => (dpi < fineEnoughDpi ? double(grey) : grey);
