import * as Comlink from 'comlink';
import { zipSync } from 'fflate';
import {
  jpegComponents,
  writePdf,
  writeTiff,
  type PageImage,
  type PageWords,
  type Pixels,
  type TiffPage,
} from '@libretto/formats';
import { mediaTypeOf } from '@libretto/model/lists';

export interface FilePage {
  blob: Blob;
  width: number;
  height: number;
  widthMm: number;
  heightMm: number;
  words?: PageWords;
}

const api = {
  /** One PDF of finished pages, and its SHA-256. */
  async pdf(pages: readonly FilePage[], title: string, created: number, changed: number) {
    const images = await Promise.all(
      pages.map(async ({ blob, ...size }): Promise<PageImage> => {
        const bytes = new Uint8Array(await blob.arrayBuffer());
        return blob.type === 'image/x-group4'
          ? { ...size, kind: 'group4', bytes }
          : { ...size, kind: 'jpeg', components: jpegComponents(bytes) === 1 ? 1 : 3, bytes };
      }),
    );
    return named(await writePdf(images, { title, created: new Date(created), changed: new Date(changed) }), 'pdf');
  },

  /** One TIFF of finished pages: two-level ones as Group 4, the others as the pixels that their pictures show. */
  async tiff(pages: readonly FilePage[], title: string) {
    const parts: TiffPage[] = [];
    for (const { blob, width, height, widthMm, heightMm } of pages)
      parts.push(
        blob.type === 'image/x-group4'
          ? { kind: 'group4', width, height, widthMm, heightMm, bytes: new Uint8Array(await blob.arrayBuffer()) }
          : { kind: 'pixels', widthMm, heightMm, raster: await pixelsOf(blob) },
      );
    return named(writeTiff(parts, title), 'tif');
  },

  /** Several files as one ZIP; pictures are packed already. */
  async zip(files: readonly { name: string; blob: Blob }[]) {
    const entries: Record<string, [Uint8Array, { level: 0 }]> = {};
    for (const { name, blob } of files) entries[name] = [new Uint8Array(await blob.arrayBuffer()), { level: 0 }];
    return named(zipSync(entries), 'zip');
  },

  /** A file as it is. */
  async asIs(blob: Blob, extension: string) {
    return named(new Uint8Array(await blob.arrayBuffer()), extension);
  },
};

async function named(bytes: Uint8Array, extension: string) {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes as BufferSource));
  return {
    blob: new Blob([bytes as BlobPart], { type: mediaTypeOf(`x.${extension}`) }),
    sha256: Array.from(digest, (b) => b.toString(16).padStart(2, '0')).join(''),
    extension,
  };
}

/** The pixels of a picture; grey where it has no colour. */
async function pixelsOf(blob: Blob): Promise<Pixels> {
  const bitmap = await createImageBitmap(blob);
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  for (let p = 0; p < data.length; p += 4)
    if (data[p] !== data[p + 1] || data[p] !== data[p + 2]) return { width, height, channels: 4, data };
  return { width, height, channels: 1, data: data.filter((_, i) => i % 4 === 0) };
}

export type FileApi = typeof api;
Comlink.expose(api);
