/// <reference path="./exifr.d.ts" />
import exifr from 'exifr/dist/mini.umd.js';

/** FocalLengthIn35mmFilm: Exif 2.32 (CIPA DC-008-2019), table 8. */
const focalLengthIn35mmFilm = 0xa405;
/** Lenses outside of this are none that paper is photographed with: the tag is wrong. */
const [shortest, longest] = [10, 200];

/**
 * A photo's focal length as its camera wrote it down, in mm of a 35 mm camera; null where it did not, or cannot be read.
 *
 * @param jpeg the whole file, or its first 64 kB.
 */
export async function focalLength35(jpeg: Uint8Array): Promise<number | null> {
  try {
    const tags = await exifr.parse(jpeg);
    const mm = Number(tags?.[focalLengthIn35mmFilm]);
    return mm >= shortest && mm <= longest ? mm : null;
  } catch {
    return null;
  }
}
