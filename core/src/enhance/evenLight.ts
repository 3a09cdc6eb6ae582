import { GridRows } from '../raster/gridRows';
import { createRaster, type Plane, type Raster } from '../raster/raster';
import type { Light } from './light';

/** The level that even paper has in an evened grey, so that what is brighter than the paper is not lost yet. */
export const paperLevel = 224;

/** Relative paper brightness at which a pixel becomes plain white, and black, where there is no print to tell by. */
const whitePoint = 0.93;
const blackPoint = 0.1;

/** Dark pages are only stretched between their darkest and brightest percentiles. */
export function stretchDark(page: Raster, light: Light, channels: 1 | 3): Raster {
  const target = createRaster(page.width, page.height, channels);
  const gain = 255 / Math.max(32, light.high - light.low);
  const { data, channels: stride } = page;
  for (let i = 0, p = 0, q = 0; i < page.width * page.height; i++, p += stride) {
    const r = data[p];
    const g = stride === 1 ? r : data[p + 1];
    const b = stride === 1 ? r : data[p + 2];
    if (channels === 1) target.data[q++] = (0.299 * r + 0.587 * g + 0.114 * b - light.low) * gain;
    else {
      target.data[q++] = (r - light.low) * gain;
      target.data[q++] = (g - light.low) * gain;
      target.data[q++] = (b - light.low) * gain;
    }
  }
  return target;
}

/** A page divided by its light: luma (ITU-R BT.601) with the paper at `paperLevel` everywhere. */
export function evenGrey(page: Raster, light: Light): Raster {
  const { width, height, channels: stride, data } = page;
  const target = createRaster(width, height, 1);
  const paper = new GridRows(light.paper, width, height);
  const [br, bg, bb] = [0.299 * light.balance[0], 0.587 * light.balance[1], 0.114 * light.balance[2]];
  for (let y = 0, p = 0, q = 0; y < height; y++) {
    const row = paper.row(y);
    for (let x = 0; x < width; x++, p += stride) {
      const v = stride === 1 ? data[p] : br * data[p] + bg * data[p + 1] + bb * data[p + 2];
      target.data[q++] = (v * paperLevel) / Math.max(24, row[x]);
    }
  }
  return target;
}

export interface PageTone {
  /** Threshold between ink and paper in levels of the evened grey, on a coarse grid. */
  threshold: Plane;
  /** How far above the threshold paper is plain white, in levels. */
  clear: number;
  /** Standard deviation of the noise in the evened grey. */
  noise: number;
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

/** Grey page from its evened grey. */
export function greyPage(even: Raster, light: Light, { threshold, clear }: PageTone): Raster {
  const { width, height, data } = even;
  const target = createRaster(width, height, 1);
  const t = new GridRows(threshold, width, height);
  const pictures = new GridRows(light.pictures, width, height);
  for (let y = 0, p = 0; y < height; y++) {
    const [rt, rp] = [t.row(y), pictures.row(y)];
    for (let x = 0; x < width; x++, p++) target.data[p] = 255 * tone(data[p], rt[x], clear, rp[x]);
  }
  return target;
}

/**
 * Colour page: the tone comes from the evened grey, the colour from the page itself; what little colour white paper shows within its noise is
 * taken as none.
 */
export function colourPage(page: Raster, even: Raster, light: Light, { threshold, clear, noise, saturation }: PageTone): Raster {
  const { width, height, channels: stride, data } = page;
  const target = createRaster(width, height, 3);
  const out = target.data;
  const t = new GridRows(threshold, width, height);
  const pictures = new GridRows(light.pictures, width, height);
  const paper = new GridRows(light.paper, width, height);
  const [br, bg, bb] = light.balance;
  const from = 6 + 1.5 * noise;
  const span = 10 + 2 * noise;
  for (let y = 0, i = 0, p = 0, q = 0; y < height; y++) {
    const [rt, rp, ra] = [t.row(y), pictures.row(y), paper.row(y)];
    for (let x = 0; x < width; x++, i++, p += stride, q += 3) {
      const gain = paperLevel / Math.max(24, ra[x]);
      const r = data[p] * br * gain;
      const g = (stride === 1 ? data[p] : data[p + 1]) * bg * gain;
      const b = (stride === 1 ? data[p] : data[p + 2]) * bb * gain;
      const luma = 0.299 * r + 0.587 * g + 0.114 * b;
      const s = tone(even.data[i], rt[x], clear, rp[x]);
      const spread = Math.max(r, g, b) - Math.min(r, g, b);
      const keep = light.tint > 1 || rp[x] > 0.5 ? 1 : Math.max(0, Math.min(1, (spread - from) / span));
      const white = 255 / light.tint;
      // Colour goes with the level, so that a stroke made deeper keeps its hue.
      const c = (saturation * keep * 255 * Math.max(0.35, Math.min(1.1, (s * paperLevel) / Math.max(24, luma)))) / paperLevel;
      out[q] = s * white + (r - luma) * c;
      out[q + 1] = s * white + (g - luma) * c;
      out[q + 2] = s * white + (b - luma) * c;
    }
  }
  return target;
}
