import { colourBySimd, evenBySimd, greyBySimd, type ColourTone } from '../kernels/finishing';
import { accelerated } from '../kernels/simd';
import { GridRows } from '../raster/gridRows';
import { createRaster, type Plane, type Raster } from '../raster/raster';
import type { Light } from './light';

/** The level that even paper has in an evened grey, so that what is brighter than the paper is not lost yet. */
export const paperLevel = 224;

/** Relative paper brightness at which a pixel becomes plain white, and black, where there is no print to tell by. */
const whitePoint = 0.985;
const blackPoint = 0.02;

/** Light below this is taken as this much, so that black corners do not become noise. */
export const leastPaper = 24;

/** A page divided by its light: luma (ITU-R BT.601) with the paper at `paperLevel` everywhere. */
export function evenGrey(page: Raster, light: Light): Raster {
  const paper = new GridRows(light.paper, page.width, page.height);
  const weights = [0.299 * light.balance[0], 0.587 * light.balance[1], 0.114 * light.balance[2]] as const;
  return accelerated(
    (kernels) => evenBySimd(kernels, page, paper, weights, paperLevel, leastPaper),
    () => evenPlain(page, paper, weights),
    page.channels !== 1,
  );
}

function evenPlain(page: Raster, paper: GridRows, [br, bg, bb]: readonly [number, number, number]): Raster {
  const { width, height, channels: stride, data } = page;
  const target = createRaster(width, height, 1);
  for (let y = 0, p = 0, q = 0; y < height; y++) {
    const row = paper.row(y);
    for (let x = 0; x < width; x++, p += stride) {
      const v = stride === 1 ? data[p] : br * data[p] + bg * data[p + 1] + bb * data[p + 2];
      target.data[q++] = (v * paperLevel) / Math.max(leastPaper, row[x]);
    }
  }
  return target;
}

export interface PageTone {
  /** Threshold between ink and paper in levels of the evened grey, on a coarse grid. */
  threshold: Plane;
  /** How far above the threshold paper is plain white, in levels. */
  clear: number;
  /** Standard deviation of the noise in the evened grey over the page. */
  noise: Plane;
  /** What it usually is. */
  usualNoise: number;
  /** Factor on the colours. */
  saturation: number;
}

/**
 * Tone of an evened level v: white from a little above the local threshold, ink deeper below it, as far as the page is no picture; there a plain
 * curve between the white and the black point.
 */
function tone(v: number, threshold: number, clear: number, picture: number): number {
  const x = v / paperLevel;
  const plain = (x - blackPoint) / (whitePoint - blackPoint);
  if (picture >= 1) return plain;
  const white = threshold + clear;
  const at = 0.62;
  const print = v >= white ? 1 : v >= threshold ? at + ((1 - at) * (v - threshold)) / clear : (at * (v - 12)) / (threshold - 12);
  return print + (plain - print) * picture;
}

/**
 * Makes tints come out of the tone curve with the share of white that they have of the paper, in place: between the curve's black and white point the palest would be white.
 *
 * @param even an evened grey. @param tints 1 where they are.
 */
export function keepTints(even: Raster, tints: Plane): void {
  const { width, height, data } = even;
  const rows = new GridRows(tints, width, height);
  const kept = Uint8ClampedArray.from({ length: 256 }, (_, v) => blackPoint * paperLevel + (whitePoint - blackPoint) * v);
  for (let y = 0, p = 0; y < height; y++) {
    const row = rows.row(y);
    for (let x = 0; x < width; x++, p++) if (row[x] > 0.5) data[p] = kept[data[p]];
  }
}

/** Grey page from its evened grey. */
export function greyPage(even: Raster, light: Light, { threshold, clear }: PageTone): Raster {
  const { width, height } = even;
  const t = new GridRows(threshold, width, height);
  const pictures = new GridRows(light.pictures, width, height);
  return accelerated(
    (kernels) => greyBySimd(kernels, even, t, pictures, clear, paperLevel),
    () => greyPlain(even, t, pictures, clear),
  );
}

function greyPlain({ width, height, data }: Raster, t: GridRows, pictures: GridRows, clear: number): Raster {
  const target = createRaster(width, height, 1);
  for (let y = 0, p = 0; y < height; y++) {
    const rt = t.row(y);
    const rp = pictures.row(y);
    for (let x = 0; x < width; x++, p++) target.data[p] = 255 * tone(data[p], rt[x], clear, rp[x]);
  }
  return target;
}

/**
 * Colour page: the tone comes from the evened grey, the colour from the page itself; what little colour white paper shows within its noise is
 * taken as none.
 */
export function colourPage(page: Raster, even: Raster, light: Light, tone: PageTone): Raster {
  const { width, height } = page;
  const paper = new GridRows(light.paper, width, height);
  const threshold = new GridRows(tone.threshold, width, height);
  const pictures = new GridRows(light.pictures, width, height);
  const colours: ColourTone = {
    balance: light.balance,
    level: paperLevel,
    leastPaper,
    clear: tone.clear,
    keepFrom: 6 + 1.5 * tone.usualNoise,
    keepSpan: 10 + 2 * tone.usualNoise,
    keepAll: light.tint > 1,
    saturation: (tone.saturation / light.tint) * light.level,
    white: (255 / light.tint) * light.level,
  };
  return accelerated(
    (kernels) => colourBySimd(kernels, page, even, paper, threshold, pictures, colours),
    () => colourPlain(page, even, paper, threshold, pictures, colours),
    page.channels !== 1,
  );
}

function colourPlain(
  page: Raster,
  even: Raster,
  paper: GridRows,
  threshold: GridRows,
  pictures: GridRows,
  colours: ColourTone,
): Raster {
  const { width, height, channels: stride, data } = page;
  const { clear, keepFrom, keepSpan, keepAll, saturation, white } = colours;
  const target = createRaster(width, height, 3);
  const out = target.data;
  const [br, bg, bb] = colours.balance;
  // Colours are stretched as tones are between the black and the white point.
  const stretch = (saturation * 255) / paperLevel / (whitePoint - blackPoint);
  for (let y = 0, i = 0, p = 0, q = 0; y < height; y++) {
    const rt = threshold.row(y);
    const rp = pictures.row(y);
    const ra = paper.row(y);
    for (let x = 0; x < width; x++, i++, p += stride, q += 3) {
      const gain = paperLevel / Math.max(leastPaper, ra[x]);
      const r = data[p] * br * gain;
      const g = (stride === 1 ? data[p] : data[p + 1]) * bg * gain;
      const b = (stride === 1 ? data[p] : data[p + 2]) * bb * gain;
      const luma = 0.299 * r + 0.587 * g + 0.114 * b;
      const s = tone(even.data[i], rt[x], clear, rp[x]);
      const spread = Math.max(r, g, b) - Math.min(r, g, b);
      const keep = keepAll || rp[x] > 0.5 ? 1 : Math.max(0, Math.min(1, (spread - keepFrom) / keepSpan));
      const c = keep * stretch;
      out[q] = s * white + (r - luma) * c;
      out[q + 1] = s * white + (g - luma) * c;
      out[q + 2] = s * white + (b - luma) * c;
    }
  }
  return target;
}
