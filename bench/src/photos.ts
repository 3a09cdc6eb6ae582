import { readFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import type { Point, Raster } from '@libretto/core';

/** One page of a photograph's truth; see the README of the photo set. */
export interface TruePage {
  quad: Point[];
  alt_quad?: Point[];
  polygon: Point[];
  size_mm: [number, number];
  rotation: number;
  /** What stands on it, where it is told. */
  text?: string;
  /** File of the clean page. */
  flat?: string;
  /** flat, curl, book, dogear, stapled, … */
  surface?: string;
}

export interface TruePhoto {
  file: string;
  category: string;
  size: [number, number];
  pages: TruePage[];
}

export function readTruth(dir: string): TruePhoto[] {
  return (JSON.parse(readFileSync(path.join(dir, 'truth.json'), 'utf8')) as { photos: TruePhoto[] }).photos;
}

/** Decodes upright (EXIF turn applied), as RGB, or with alpha, as a browser's canvas gives it. */
export async function decode(file: string, alpha = false): Promise<Raster> {
  const { data, info } = await (alpha ? sharp(file).ensureAlpha() : sharp(file).removeAlpha())
    .rotate()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: info.channels as 1 | 3 | 4, data };
}
