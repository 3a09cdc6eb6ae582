import { findPages, type Raster } from '@libretto/core';
import { ready, textbookFind, type OpenCv } from './textbook';

declare const cv: OpenCv;

/** The pixels as a browser's canvas gives them. */
async function decoded(base64: string): Promise<Raster> {
  const file = await (await fetch(`data:image/jpeg;base64,${base64}`)).blob();
  const bitmap = await createImageBitmap(file);
  const { width, height } = bitmap;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  return { width, height, channels: 4, data: context.getImageData(0, 0, width, height).data };
}

/** How long our finder and the textbook's take for a photo that is decoded already, ms, so often by both in turn. */
async function findTimes(base64: string, rounds: number): Promise<[ours: number, theirs: number][]> {
  await ready(cv);
  const photo = await decoded(base64);
  return Array.from({ length: rounds }, () => {
    const start = performance.now();
    findPages(photo);
    const between = performance.now();
    textbookFind(cv, photo);
    return [between - start, performance.now() - between];
  });
}

export type FindTimes = typeof findTimes;
Object.assign(globalThis, { findTimes });
