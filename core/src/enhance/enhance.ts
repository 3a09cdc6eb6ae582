import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { assertRaster, createRaster, type Raster } from '../raster/raster';
import { evenLight } from './evenLight';
import { estimateLight, type Light } from './light';
import { sauvola } from './sauvola';
import { dropSpecks } from './specks';

/** How a flattened page is finished. */
export type Filter = 'original' | 'even-light' | 'grey' | 'ink';

export interface EnhanceOptions {
  /** Pixels per inch of the page; sets window sizes. Default 200. */
  dpi?: number;
  /** The page's light, when it was estimated before. */
  light?: Light;
}

/**
 * Finishes a flattened page.
 *
 * @returns *original* and *even-light*: the page's channels; *grey*: one channel; *ink*: one channel of 0 and 255.
 */
export function enhance(page: Raster, filter: Filter, options: EnhanceOptions = {}): Raster {
  assertRaster(page);
  if (filter === 'original') return page;
  const { dpi = 200, light = estimateLight(page) } = options;
  if (filter === 'even-light') return evenLight(page, light, page.channels === 1 ? 1 : 3);
  const grey = evenLight(page, light, 1);
  if (filter === 'grey') return grey;
  const smooth = soften(grey);
  const window = Math.max(15, Math.round(dpi * 0.3) | 1);
  const bilevel = sauvola(smooth, { window, k: 0.25, range: 128, ...(light.dark ? {} : { least: 110, most: 200 }) });
  dropSpecks(bilevel, Math.max(3, Math.round((dpi / 200) ** 2 * 5)));
  return bilevel;
}

/** The filter that suits a page: colour where there is colour to lose, else grey. */
export function chooseFilter(page: Raster, light: Light = estimateLight(page)): Exclude<Filter, 'original'> {
  if (page.channels === 1) return 'grey';
  return light.coloured > 0.004 || light.dark || light.tint > 1.02
    ? 'even-light'
    : colourShare(page, light) > 0.003
      ? 'even-light'
      : 'grey';
}

/** Share of pixels with clear chroma after white balance: coloured pen and stamps are thin, so areas alone do not tell. */
function colourShare(page: Raster, light: Light): number {
  const { data, channels, width, height } = page;
  const [br, bg, bb] = light.balance;
  let count = 0;
  let coloured = 0;
  const step = Math.max(1, Math.floor((width * height) / 200_000));
  for (let i = 0; i < width * height; i += step) {
    const p = i * channels;
    const r = data[p] * br;
    const g = data[p + 1] * bg;
    const b = data[p + 2] * bb;
    const top = Math.max(r, g, b);
    count++;
    if (top - Math.min(r, g, b) > 0.28 * top && top > 40) coloured++;
  }
  return coloured / Math.max(1, count);
}

/** A little smoothing by the page's own noise (Immerkær, Computer Vision and Image Understanding 64 (1996)) before a threshold. */
function soften(grey: Raster): Raster {
  const { width, height, data } = grey;
  let sum = 0;
  let count = 0;
  for (let y = 1; y < height - 1; y += 3) {
    for (let x = 1, p = y * width + 1; x < width - 1; x += 3, p += 3) {
      const v =
        data[p - width - 1] -
        2 * data[p - width] +
        data[p - width + 1] -
        2 * data[p - 1] +
        4 * data[p] -
        2 * data[p + 1] +
        data[p + width - 1] -
        2 * data[p + width] +
        data[p + width + 1];
      sum += Math.abs(v);
      count++;
    }
  }
  const noise = count ? (Math.sqrt(Math.PI / 2) * sum) / (6 * count) : 0;
  if (noise < 3) return grey;
  const smooth = gaussian(lumaPlane(grey), Math.min(1.4, 0.4 + noise / 14));
  const target = createRaster(width, height, 1);
  for (let i = 0; i < smooth.data.length; i++) target.data[i] = smooth.data[i];
  return target;
}
