import { within } from '../raster/crop';
import { upsample2x } from '../raster/upsample2x';
import { GridRows } from '../raster/gridRows';
import { assertRaster, createPlane, type Box, type Plane, type Raster } from '../raster/raster';
import { adjusted, partLight, type Adjust } from './adjust';
import { unveiled } from './darkPage';
import { colourPage, evenGrey, greyPage, keepTints, paperLevel, type PageTone } from './evenLight';
import { inkOfDark, inkPage, thresholdOfDark } from './ink';
import { estimateLight, type Light } from './light';
import { filters, type Filter, type Look } from './filters';
import { localThreshold } from './localThreshold';
import { calmed, isNoisy, noiseOver, soften, softColours, type Noise } from './noise';
import { deepened, mayGlare, palenessOf, type Paleness } from './pale';
import { naturalLevels, naturalPicture, type Levels } from './picture';
import { drawRules, findRules } from './rules';
import { whitenSpecks } from './specks';

interface Resolutions {
  /** Pixels per inch of the page; sets window sizes. Default 200. */
  dpi?: number;
  /** What the photo holds of it, pixels per inch; default `dpi`. Where the page has more, its noise is coarser. */
  photoDpi?: number;
}

export interface EnhanceOptions extends Resolutions {
  /** What was told of the whole page; default what is told of what is given. */
  judgement?: Judgement;
  /** What the user has turned on it. */
  adjust?: Adjust;
}

/** What is told by looking at a whole page, for filters that look at it in the same way; it is not altered afterwards. */
export interface Judgement {
  /** The light as these filters take it. */
  light: Light | null;
  levels: Levels | null;
  paleness: Paleness | null;
  noise: Noise | null;
  /** Between ink and paper, on a coarse grid. */
  threshold: Plane | null;
  /** What `findRules` finds where the tone would break rules. */
  rules: Plane | null;
}

/**
 * Looks at a page for a filter.
 *
 * @param copy of the page, maybe smaller, with its margin tidied: enough to tell its strokes by; @param seen the light on it.
 */
export function judge(page: Raster, copy: Raster, seen: Light | null, filter: Filter, options: EnhanceOptions = {}): Judgement {
  return lookedAt(page, copy, seen, filters[filter], options).judgement;
}

/** What is told of a page, and by what it was told: the page with its pale strokes made deep, and its evened grey. */
interface Told {
  judgement: Judgement;
  deep: Raster;
  even: Raster | null;
}

function lookedAt(
  page: Raster,
  copy: Raster,
  seen: Light | null,
  look: Look,
  { dpi = 200, photoDpi = dpi, adjust = {} }: EnhanceOptions,
): Told {
  const nothing: Judgement = { light: null, levels: null, paleness: null, noise: null, threshold: null, rules: null };
  if (look.tones === 'kept') return { judgement: nothing, deep: page, even: null };
  if (look.tones === 'levels') return { judgement: { ...nothing, levels: naturalLevels(page) }, deep: page, even: null };
  const whole = seen ?? estimateLight(copy);
  const light = partLight(look.printed ? whole : boardLight(whole), adjust.evening);
  if (light.dark) {
    const threshold = look.twoLevel ? thresholdOfDark(fine(unveiled(page, light.dark, 1), dpi), finer(dpi), light.dark) : null;
    return { judgement: { ...nothing, light, threshold }, deep: page, even: null };
  }
  const tinted = withTints(light, 'paper');
  const paleness = !look.printed || mayGlare(tinted) ? palenessOf(copy, tinted) : null;
  const deep = withStrokes(page, light, look, paleness);
  const { even, noise } = calmed(evenGrey(deep, light), light, dpi, grainOf(dpi, photoDpi));
  const threshold = thresholdOf(even, light, noise, dpi, look);
  const tone = toneOf(light, noise, threshold, look);
  const rules = look.printed ? brokenRules(even, light, noise, tone, { dpi, photoDpi }) : null;
  return { judgement: { light, levels: null, paleness, noise, threshold, rules }, deep, even };
}

/** What was told of a page, for a part of it: the same to the last bit. */
export function judgedWithin({ light, levels, noise, threshold, rules, paleness }: Judgement, page: Raster, box: Box): Judgement {
  const part = <T extends Plane | null>(grid: T) => grid && (within(grid, page, box) as T);
  return {
    light: light && lightWithin(light, page, box),
    levels,
    noise,
    threshold: part(threshold),
    rules: part(rules),
    paleness: paleness && {
      board: part(paleness.board),
      glare: part(paleness.glare),
      papers: paleness.papers.map((paper) => part(paper)),
    },
  };
}

export function lightWithin(light: Light, page: Raster, box: Box): Light {
  const { paper, pictures, tints, dark } = light;
  return {
    ...light,
    paper: within(paper, page, box),
    pictures: within(pictures, page, box),
    tints: tints && within(tints, page, box),
    dark: dark && { ...dark, veil: within(dark.veil, page, box), fields: within(dark.fields, page, box) },
  };
}

/** A page's pixels a pixel of its photo, along a line. */
const grainOf = (dpi: number, photoDpi: number) => Math.max(1, dpi / photoDpi);

/** Bounds of the threshold, shares of the paper: print is darker than the most, ink darker than the least. */
const leastThreshold = 0.5;
const leastMost = 0.7;
/** How many deviations of the noise lie between the paper and the threshold. */
const noiseWidths = 2.2;

/**
 * Finishes a flattened page, or a part of one.
 *
 * @returns *original*: the page itself; *even-light*, *board* and *picture*: colour as far as the page has it; *grey*: one channel; *ink*: one channel of 0 and 255, twice as large where the page has few pixels,
 *   since a stroke's edge tells between pixels what a pixel of 1 bit cannot. A raster of its own, whatever the filter.
 */
export function enhance(given: Raster, filter: Filter, options: EnhanceOptions = {}): Raster {
  assertRaster(given);
  const { dpi = 200, photoDpi = dpi, adjust = {} } = options;
  const look = filters[filter];
  if (look.tones === 'kept') return adjusted({ ...given, data: given.data.slice() }, adjust, dpi);
  const rest = { dpi, photoDpi, adjust };
  if (options.judgement) return developed(given, look, options.judgement, null, rest);
  return judgedAndEnhanced(given, given, look.tones === 'evened' ? estimateLight(given) : null, filter, options).image;
}

/** Looks at a page and finishes it in one go, and says what it told. */
export function judgedAndEnhanced(
  page: Raster,
  copy: Raster,
  seen: Light | null,
  filter: Filter,
  options: EnhanceOptions,
): { image: Raster; judgement: Judgement | null } {
  const { dpi = 200, photoDpi = dpi, adjust = {} } = options;
  const look = filters[filter];
  if (look.tones === 'kept') return { image: enhance(page, filter, options), judgement: null };
  const told = lookedAt(page, copy, seen, look, options);
  return { image: developed(page, look, told.judgement, told, { dpi, photoDpi, adjust }), judgement: told.judgement };
}

/** @param told by what was given was looked at, if it was just now; its evened grey is used up. */
function developed(
  given: Raster,
  look: Look,
  judgement: Judgement,
  told: Told | null,
  { dpi, photoDpi, adjust }: Required<Omit<EnhanceOptions, 'judgement'>>,
): Raster {
  if (look.tones === 'levels') return adjusted(naturalPicture(given, judgement.levels ?? undefined), adjust, dpi);
  const light = judgement.light!;
  const colour = look.colour && given.channels !== 1;
  if (light.dark) {
    if (look.twoLevel)
      return inkOfDark(fine(unveiled(given, light.dark, 1), dpi), finer(dpi), light.dark, judgement.threshold ?? undefined);
    return adjusted(unveiled(given, light.dark, colour ? 3 : 1), adjust, dpi);
  }
  const { rules, threshold } = judgement;
  const noise = judgement.noise!;
  const page = told?.deep ?? withStrokes(given, light, look, judgement.paleness);
  const even = told?.even ?? soften(evenGrey(page, light), noise.photo, dpi, grainOf(dpi, photoDpi));
  const tone = toneOf(light, noise, threshold!, look, adjust.strokes);
  if (rules) drawRules(even, rules);
  if (look.twoLevel) return inkPage(fine(even, dpi), tone.threshold, finer(dpi), light.pictures);
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
  const { width, height, part } = light[on]!;
  // All of both grids, whatever part of the page is looked at.
  const [pictureRows, tintRows] = [pictures, tints].map(({ part: _, ...plane }) => new GridRows(plane, width, height));
  const either: Plane = { ...createPlane(width, height), ...(part && { part }) };
  for (let y = 0, i = 0; y < height; y++) {
    const [picture, tint] = [pictureRows.row(y), tintRows.row(y)];
    for (let x = 0; x < width; x++, i++) either.data[i] = Math.max(picture[x], tint[x]);
  }
  return { ...light, pictures: either };
}

/** A board with all its strokes made deep, another page with those in glare. */
function withStrokes(page: Raster, light: Light, { printed }: Look, paleness: Paleness | null): Raster {
  const gains = paleness && (printed ? paleness.glare : paleness.board);
  return gains ? deepened(page, withTints(light, 'paper'), gains, paleness.papers) : page;
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

/** The light on a page without pictures. */
const boardLight = (light: Light): Light => ({
  ...light,
  tint: 1,
  level: 1,
  pictures: { ...light.pictures, data: new Float32Array(light.pictures.data.length) },
  tints: null,
});
/** Noise has colours too. */
const noisySaturation = 0.8;
/** How far the threshold moves at the ends of "weight of the strokes", share of the paper. */
const strokesReach = 0.13;

/** 1 where a photo has hardly any noise, 0 where it has plenty: there what is a little darker than paper is noise, here it is a thin stroke that a phone has smeared. */
const calmness = (photo: number) => Math.max(0, Math.min(1, (5 - photo) / 3.5));
const between = (noisy: number, calm: number, calmness: number) => noisy + (calm - noisy) * calmness;
/** On a calm page the highest threshold lies so much lower, share of the paper, since grey follows it for longer. */
const calmLower = 0.04;

function thresholdOf(even: Raster, light: Light, { photo, left, usual }: Noise, dpi: number, { mostThreshold }: Look): Plane {
  const over = noiseOver(light, { photo, left, usual });
  const highest = paperLevel * between(mostThreshold, mostThreshold - calmLower, calmness(photo));
  const most = {
    ...over,
    data: over.data.map((v) => Math.max(paperLevel * leastMost, highest - noiseWidths * Math.max(0, v - 1))),
  };
  // In the dark the print is pale, and its strokes break where the threshold falls with the deviation.
  const k = between(0.12, 0.2, calmness(photo));
  return localThreshold(even, { dpi, k, least: leastThreshold * paperLevel, most });
}

function toneOf(light: Light, noise: Noise, threshold: Plane, { saturation, printed }: Look, strokes = 0): PageTone {
  return {
    threshold: strokes ? { ...threshold, data: threshold.data.map((v) => v + strokes * strokesReach * paperLevel) } : threshold,
    clear: between(0.1, 0.15, calmness(noise.photo)) * paperLevel,
    noise: noiseOver(light, noise),
    usualNoise: noise.left,
    saturation: printed && isNoisy(noise.photo) ? noisySaturation : saturation,
  };
}

/** Ink below this resolution is made at twice as much. */
const fineEnoughDpi = 240;
export const finer = (dpi: number) => (dpi < fineEnoughDpi ? dpi * 2 : dpi);
const fine = (grey: Raster, dpi: number) => (dpi < fineEnoughDpi ? upsample2x(grey) : grey);
