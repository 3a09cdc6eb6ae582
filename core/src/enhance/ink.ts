import { linear } from '../raster/colour';
import { GridRows } from '../raster/gridRows';
import { createRaster, type Plane, type Raster } from '../raster/raster';
import { groundOf, type Darkness } from './darkPage';
import { paperLevel } from './evenLight';
import { blueNoise, noiseSide } from './blueNoise';
import { cutAt, localThreshold } from './localThreshold';
import { dropSpecks } from './specks';

/**
 * Black where the grey lies below its local threshold; specks that are too small for a stroke or a full stop go. Pictures are dithered by blue noise
 * (Ulichney, "The void-and-cluster method for dither array generation", SPIE 1913 (1993)): cut at one threshold they would be soot.
 */
export function inkPage(even: Raster, threshold: Plane, dpi: number, pictures: Plane): Raster {
  const target = cutAt(even, threshold);
  dropSpecks(target, leastSpeckPx(dpi));
  if (pictures.data.some((v) => v > 0.5)) dither(even, target, pictures, paperTones);
  return target;
}

/** Share of white, 0..255, in each level of an evened picture: stretched, since half of it is paper. */
const paperTones = Float32Array.from({ length: 256 }, (_, v) =>
  Math.max(0, Math.min(255, ((v / paperLevel - 0.18) / 0.7) * 255)),
);
/** Dots of white on black are as bright together as they have light. */
const linearTones = linear.map((v) => 255 * v);

/** Writes the tones of pictures into a black-and-white page as fine dots, whose places are the page's: a part of it has the same ones. */
function dither(even: Raster, target: Raster, pictures: Plane, tones: Float32Array): void {
  const { width, height, data } = even;
  const rows = new GridRows(pictures, width, height);
  const [left, top] = rows.from;
  const noise = blueNoise();
  for (let y = 0; y < height; y++) {
    const inside = rows.row(y);
    const own = ((top + y) % noiseSide) * noiseSide;
    for (let x = 0, p = y * width; x < width; x++, p++)
      if (inside[x] > 0.5) target.data[p] = tones[data[p]] > noise[own + ((left + x) % noiseSide)] ? 255 : 0;
  }
}

/** Bounds of the threshold on a dark page, shares of its background's level in the negative. */
const [leastOfDark, mostOfDark] = [0.5, 0.84];

/**
 * A page that is mostly dark stays so: writing that is brighter than the ground is white on plain black, told as ink is told on paper; its fields and pictures are dithered.
 *
 * @param grey one channel, stretched and without glare.
 */
export function inkOfDark(
  grey: Raster,
  dpi: number,
  darkness: Darkness,
  threshold = thresholdOfDark(grey, dpi, darkness),
): Raster {
  const negative = negativeOf(grey);
  const target = cutAt(negative, threshold);
  dropSpecks(target, leastSpeckPx(dpi));
  for (let i = 0; i < target.data.length; i++) target.data[i] = 255 - target.data[i];
  dither(grey, target, darkness.fields, linearTones);
  return target;
}

/** Between writing and ground of a dark page's negative. */
export function thresholdOfDark(grey: Raster, dpi: number, darkness: Darkness): Plane {
  const ground = 255 - groundOf(darkness);
  return localThreshold(negativeOf(grey), { dpi, least: leastOfDark * ground, most: mostOfDark * ground });
}

function negativeOf(grey: Raster): Raster {
  const negative = createRaster(grey.width, grey.height, 1);
  for (let i = 0; i < grey.data.length; i++) negative.data[i] = 255 - grey.data[i];
  return negative;
}

/** A full stop of 6 point print is about 0.25 mm across (common practice); half of its area is a speck. */
const leastSpeckPx = (dpi: number) => Math.max(3, Math.round(0.031 * (dpi / 25.4) ** 2 * 2.6));
