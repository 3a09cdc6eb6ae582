import sharp, { type Sharp } from 'sharp';
import type { Raster } from '@libretto/core';
import type { Roll } from './roll';

/** A photograph as phones' own processing leaves it: half of them with noise smeared and edges sharpened; JPEG of 60 to 90. */
export function asPhonesDo(photo: Raster, roll: Roll): Sharp {
  let made = sharp(photo.data, { raw: { width: photo.width, height: photo.height, channels: 3 } });
  if (roll(0, 1) < 0.5) made = made.median(3).sharpen({ sigma: roll(0.8, 1.6), m1: 1, m2: roll(1, 3) });
  return made.jpeg({ quality: Math.round(roll(60, 90)) });
}
