import { gaussianPicture } from '../raster/blur';
import type { Plane, Raster } from '../raster/raster';
import { leastPaper } from './evenLight';
import { median } from './levels';
import type { Light } from './light';

/** Side of the cells whose deviation is taken, px of the photo. */
const cellPx = 8;
/** Of the cells, by deviation: what lies here is plain paper even on a page full of print. */
const paperShare = 0.3;

/**
 * Standard deviation of a page's noise on its paper, in its own levels: a low percentile of the deviation within small cells. Estimators that look at
 * neighbouring pixels only (Immerkær 1996) see nothing of the noise that a phone has smeared already, which is the one that matters here.
 *
 * @param grey one channel, paper even; @param grain its pixels a pixel of the photo.
 */
export function noiseLevel(grey: Raster, grain = 1): number {
  const { width, height, data } = grey;
  const cell = Math.round(cellPx * grain);
  const counts = new Uint32Array(2560);
  let cells = 0;
  // A step of two cells is enough to go by.
  for (let y0 = 0; y0 + cell <= height; y0 += 2 * cell)
    for (let x0 = 0; x0 + cell <= width; x0 += 2 * cell) {
      let s = 0;
      let q = 0;
      for (let y = y0; y < y0 + cell; y++)
        for (let p = y * width + x0, end = p + cell; p < end; p++) {
          s += data[p];
          q += data[p] * data[p];
        }
      const n = cell * cell;
      counts[Math.min(2559, Math.sqrt(Math.max(0, q / n - (s / n) ** 2)) * 20) | 0]++;
      cells++;
    }
  if (!cells) return 0;
  let seen = 0;
  let level = 0;
  while (level < 2559 && (seen += counts[level]) < paperShare * cells) level++;
  return (level + 0.5) / 20;
}

/** Below this noise a page is left as it is. */
const cleanNoise = 2.5;

export const isNoisy = (noise: number): boolean => noise >= cleanNoise;

/** Noise of a page's evened grey, before and after it is softened, levels. */
export interface Noise {
  photo: number;
  left: number;
  /** How bright the paper is, 0..255, where it is that. */
  usual: number;
}

/** A page's evened grey as calm as it gets, and its noise, unless that is known. @param grain pixels a pixel of the photo. */
export function calmed(
  sharp: Raster,
  { paper }: Light,
  dpi: number,
  grain: number,
  known?: Noise,
): { even: Raster; noise: Noise } {
  const photo = known?.photo ?? noiseLevel(sharp, grain);
  const even = soften(sharp, photo, dpi, grain);
  if (known) return { even, noise: known };
  return {
    even,
    noise: { photo, left: even === sharp ? photo : noiseLevel(even, grain), usual: median(paper.data.slice()) ?? 255 },
  };
}

/**
 * What is left of the noise over a page, levels of the evened grey, on the light's grid. A phone's noise is about the same, in its own levels, on paper in better and in worse light
 * (6.2 at 62, 5.6 at 99 on a development photograph), so evening the light makes it as uneven as the light was.
 */
export function noiseOver({ paper }: Light, { left, usual }: Noise): Plane {
  return { ...paper, data: paper.data.map((v) => (left * usual) / Math.max(leastPaper, v)) };
}

/** One channel blurred by as much as its noise asks for and its resolution bears: a stroke of small print is a hundredth of an inch wide. */
export function soften(grey: Raster, noise: number, dpi: number, grain = 1): Raster {
  return isNoisy(noise) ? gaussianPicture(grey, Math.min(dpi / 210, (0.3 + noise / 14) * grain)) : grey;
}

/** How far the colours of a noisy page are blurred, inches, and px at least: its strokes are told by their light, their colours are seen less finely. */
const colourBlur = 1 / 60;
const leastColourBlurPx = 2;

/** A noisy page without its coloured noise; its light is as blurred and says nothing. */
export const softColours = (page: Raster, dpi: number): Raster =>
  gaussianPicture(page, Math.max(leastColourBlurPx, colourBlur * dpi));
