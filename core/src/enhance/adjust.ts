import { mostAmount, unsharpBySimd } from '../kernels/blur';
import { accelerated } from '../kernels/simd';
import { gaussian, gaussianKernel } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { createRaster, type Raster } from '../raster/raster';
import type { Light } from './light';

/** What a user turns on a filter. All −1 … 1 with 0 as made, but `sharpness` 0 … 1 and `evening` 0 … 1 with 1 as made. */
export interface Adjust {
  brightness?: number;
  contrast?: number;
  sharpness?: number;
  /** Weight of the strokes: thinner and cleaner, or bolder. */
  strokes?: number;
  /** How much of the light's unevenness is taken out. */
  evening?: number;
  /** Colour of white paper: cooler, warmer. */
  warmth?: number;
}

/** The light that is divided out when it is evened by a part only. */
export function partLight(light: Light, evening = 1): Light {
  if (evening >= 1) return light;
  const { data } = light.paper;
  let bright = 0;
  for (const v of data) bright = Math.max(bright, v);
  const paper = { ...light.paper, data: data.map((v) => v * evening + bright * (1 - evening)) };
  const dark = light.dark && { ...light.dark, veil: { ...light.dark.veil, data: light.dark.veil.data.map((v) => v * evening) } };
  return { ...light, paper, dark };
}

/** Brightness, contrast, sharpness and warmth on a finished grey or colour page; the page itself where nothing is asked. */
export function adjusted(page: Raster, { brightness = 0, contrast = 0, sharpness = 0, warmth = 0 }: Adjust, dpi: number): Raster {
  let out = page;
  if (sharpness > 0) out = unsharp(out, Math.max(0.7, dpi / 250), 1.4 * sharpness);
  if (!brightness && !contrast && !warmth) return out;
  const [red, green, blue] = warmth >= 0 ? [1, 1 - 0.035 * warmth, 1 - 0.13 * warmth] : [1 + 0.09 * warmth, 1 + 0.02 * warmth, 1];
  const table = (gain: number) =>
    Uint8ClampedArray.from({ length: 256 }, (_, v) => ((v - 128) * (1 + 0.8 * contrast) + 128 + 70 * brightness) * gain);
  const tables = [table(red), table(green), table(blue)];
  const colour = warmth !== 0 || out.channels !== 1;
  const target = createRaster(out.width, out.height, colour ? 3 : 1);
  const { data, channels } = out;
  for (let i = 0, p = 0, q = 0; i < out.width * out.height; i++, p += channels)
    for (let c = 0; c < target.channels; c++) target.data[q++] = tables[c][data[channels === 1 ? p : p + c]];
  return target;
}

/** Unsharp masking by the luma, so that colours get no fringes. @param sigma px; @param amount of the difference that is added. */
export function unsharp(page: Raster, sigma: number, amount: number): Raster {
  return accelerated(
    (kernels) => unsharpBySimd(kernels, page, gaussianKernel(sigma), amount),
    () => unsharpPlain(page, sigma, amount),
    page.channels !== 4 && amount <= mostAmount,
  );
}

function unsharpPlain(page: Raster, sigma: number, amount: number): Raster {
  const luma = lumaPlane(page);
  const soft = gaussian(luma, sigma).data;
  const target = createRaster(page.width, page.height, page.channels);
  for (let i = 0, p = 0; i < soft.length; i++) {
    const more = amount * (luma.data[i] - soft[i]);
    for (let c = 0; c < page.channels; c++, p++) target.data[p] = page.data[p] + (c < 3 ? more : 0);
  }
  return target;
}
