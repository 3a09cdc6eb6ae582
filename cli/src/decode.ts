import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { focalLength35 } from '@libretto/formats/exif';

/** Fewer dots an inch are what programs write that do not know. */
const leastDpi = 100;

/** Reads a JPEG, PNG or WebP upright (EXIF turn applied), with the focal length and the dots an inch that it tells. Throws with the reason, not the file's name. */
export async function decode(file: string): Promise<Raster & { focal35mm?: number; dpi?: number }> {
  const bytes = await readFile(file);
  const { data, info } = await sharp(bytes, { limitInputPixels: 100_000_000 })
    .rotate()
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const focal35mm = await focalLength35(bytes);
  const { width, height } = info;
  const { density = 0 } = await sharp(bytes).metadata();
  return {
    width,
    height,
    channels: info.channels as 1 | 3 | 4,
    data,
    ...(focal35mm && { focal35mm }),
    ...(density >= leastDpi && { dpi: density }),
  };
}

/** Says on stderr which file failed and why. */
export function complain(file: string, error: unknown): void {
  console.error(`${file}: ${error instanceof Error ? error.message : String(error)}`);
}
