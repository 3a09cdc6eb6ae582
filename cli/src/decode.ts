import sharp from 'sharp';
import type { Raster } from '@libretto/core';

/** Reads a JPEG, PNG or WebP upright (EXIF turn applied). Throws with the reason, not the file's name. */
export async function decode(file: string): Promise<Raster> {
  const { data, info } = await sharp(file, { limitInputPixels: 100_000_000 })
    .rotate()
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: info.channels as 1 | 3 | 4, data };
}

/** Says on stderr which file failed and why. */
export function complain(file: string, error: unknown): void {
  console.error(`${file}: ${error instanceof Error ? error.message : String(error)}`);
}
