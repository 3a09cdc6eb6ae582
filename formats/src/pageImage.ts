import type { Part } from './parts';
import type { PageWords } from './textLayer';

/** A finished page, encoded as it will lie in a file. */
export type PageImage = {
  width: number;
  height: number;
  /** Size on paper. */
  widthMm: number;
  heightMm: number;
  bytes: Part;
  /** What stands on it, where it was read. */
  words?: PageWords;
  /** The name of the part of a document that begins with it. */
  begins?: string;
} & ({ kind: 'jpeg'; components: 1 | 3 } | { kind: 'group4' } | LayeredImage);

/** A JPEG with fewer dots. */
export interface SmallJpeg {
  bytes: Part;
  width: number;
  height: number;
  components: 1 | 3;
}

/** Ink over what lies under it: `bytes` say in the page's own dots where there is ink (Group 4). */
export interface LayeredImage {
  kind: 'layered';
  /** Of the mask. */
  maskWidth: number;
  maskHeight: number;
  background: SmallJpeg;
  ink: SmallJpeg;
}

/** Number of colour components of a baseline or progressive JPEG, from its frame header (ITU-T T.81, B.2.2). Throws when there is none. */
export function jpegComponents(bytes: Uint8Array): number {
  let p = 2;
  while (p + 9 < bytes.length) {
    if (bytes[p] !== 0xff) throw new Error('Not a JPEG: a marker was expected');
    const marker = bytes[p + 1]!;
    if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc) return bytes[p + 9]!;
    p += 2 + ((bytes[p + 2]! << 8) | bytes[p + 3]!);
  }
  throw new Error('Not a JPEG: no frame header');
}
