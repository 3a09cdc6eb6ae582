import * as Comlink from 'comlink';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import type { Raster } from '@libretto/core';
import { layersOf } from '@libretto/core/recipe/layers';
import {
  bytesOf,
  encodeGroup4,
  jpegComponents,
  lighterTries,
  packBits,
  writePdf,
  writeTiff,
  zipOf,
  type PageImage,
  type PageWords,
  type Part,
  type Pixels,
  type SmallJpeg,
  type TiffPage,
} from '@libretto/formats';
import { mediaTypeOf, papers, type PaperId } from '@libretto/model/lists';

export interface FilePage {
  blob: Blob;
  width: number;
  height: number;
  widthMm: number;
  heightMm: number;
  words?: PageWords;
  /** The name of what begins with it, in a document that was joined. */
  begins?: string;
  /** Parted into ink and what lies under it; `blob` is the ink's mask. */
  layers?: { width: number; height: number; background: SmallPicture; ink: SmallPicture };
}

export interface PdfWanted {
  title: string;
  /** ms since 1970. */
  created: number;
  changed: number;
  password?: string;
  paper?: PaperId | undefined;
}

interface SmallPicture {
  blob: Blob;
  width: number;
  height: number;
}

const api = {
  /** One PDF of finished pages, and its SHA-256. */
  async pdf(pages: readonly FilePage[], { title, created, changed, password, paper }: PdfWanted) {
    const images = await Promise.all(
      pages.map(async ({ blob, layers, ...size }): Promise<PageImage> => {
        if (layers) {
          const [background, ink] = await Promise.all([smallJpeg(layers.background), smallJpeg(layers.ink)]);
          return { ...size, kind: 'layered', maskWidth: layers.width, maskHeight: layers.height, bytes: blob, background, ink };
        }
        return blob.type === 'image/x-group4'
          ? { ...size, kind: 'group4', bytes: blob }
          : { ...size, kind: 'jpeg', components: await componentsOf(blob), bytes: blob };
      }),
    );
    const meta = { title, created: new Date(created), changed: new Date(changed), ...(password && { password }), ...(paper && { paper: papers[paper] }) }; // prettier-ignore
    return named(await writePdf(images, meta), 'pdf');
  },

  /** One TIFF of finished pages: two-level ones as Group 4, the others as the pixels that their pictures show. */
  async tiff(pages: readonly FilePage[], title: string) {
    return named(await writeTiff(tiffPages(pages), pages.length, title), 'tif');
  },

  /**
   * The pages with fewer dots and more compression, so that all of them take no more than `most` bytes; two-level pages stay as they are. Tried from the gentlest on, measured each time; the last try is what comes back where none fits.
   *
   * @param first where to begin among the tries; `next` is where to go on if the file has come out too large all the same.
   */
  async lighter(
    pages: readonly FilePage[],
    most: number,
    first = 0,
  ): Promise<{ pages: FilePage[]; dpi: number; next: number | null }> {
    for (let at = first; ; at++) {
      const { dpi, quality, layered } = lighterTries[at]!;
      const last = at === lighterTries.length - 1;
      const out: FilePage[] = [];
      let size = 0;
      for (const page of pages) {
        const lighter =
          page.blob.type === 'image/x-group4' ? page : await (layered ? parted(page, quality) : encoded(page, dpi, quality));
        out.push(lighter);
        size += sizeOf(lighter);
        if (size > most && !last) break;
      }
      if (size <= most || last) return { pages: out, dpi, next: last ? null : at + 1 };
    }
  },

  /** All pages below each other in one picture, all at one scale: with as many dots as a canvas has on every device. */
  async tall(pages: readonly FilePage[]) {
    const widest = Math.max(...pages.map((p) => p.widthMm));
    const down = pages.reduce((sum, p) => sum + p.heightMm, 0) + seamMm * (pages.length - 1);
    const perMm = Math.min(Math.max(...pages.map((p) => p.width / p.widthMm)), mostSidePx / Math.max(down, widest), Math.sqrt(mostPx / (down * widest))); // prettier-ignore
    const canvas = new OffscreenCanvas(Math.max(1, Math.floor(widest * perMm)), Math.max(1, Math.floor(down * perMm)));
    const context = canvas.getContext('2d', { alpha: false })!;
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.fillStyle = '#999';
    context.imageSmoothingQuality = 'high';
    let y = 0;
    for (const [i, { blob, widthMm, heightMm }] of pages.entries()) {
      if (i) context.fillRect(0, (y - seamMm) * perMm, canvas.width, seamMm * perMm);
      const bitmap = await createImageBitmap(blob);
      context.drawImage(bitmap, ((widest - widthMm) / 2) * perMm, y * perMm, widthMm * perMm, heightMm * perMm);
      bitmap.close();
      y += heightMm + seamMm;
    }
    const picture = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.82 });
    return named([picture], 'jpg');
  },

  /** Several files as one ZIP; pictures are packed already. */
  async zip(files: readonly { name: string; blob: Blob }[]) {
    return named(await zipOf(files.map(({ name, blob }) => ({ name, content: blob }))), 'zip');
  },

  /** A file as it is. */
  async asIs(blob: Blob, extension: string) {
    return named([blob], extension);
  },
};

const mmPerInch = 25.4;
/** Between the pages of one tall picture, mm. */
const seamMm = 1;
/** Dots of a canvas that every engine draws: on iPhones 16.7 million (from memory of WebKit's limit). */
const mostPx = 16_000_000;
const mostSidePx = 16_000;

async function encoded(page: FilePage, dpi: number, quality: number): Promise<FilePage> {
  const width = Math.max(1, Math.min(page.width, Math.round((page.widthMm / mmPerInch) * dpi)));
  const height = Math.max(1, Math.round((page.height * width) / page.width));
  const bitmap = await createImageBitmap(page.blob);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality });
  // What has come out larger stays as it was.
  return blob.size < page.blob.size ? { ...page, blob, width, height } : page;
}

const sizeOf = ({ blob, layers }: FilePage) => blob.size + (layers ? layers.background.blob.size + layers.ink.blob.size : 0);

/** A page as ink over what lies under it, where that is smaller. */
async function parted(page: FilePage, quality: number): Promise<FilePage> {
  const raster = await pixelsOf(page.blob);
  const layers = layersOf(raster, (raster.width / page.widthMm) * mmPerInch);
  if (!layers) return encoded(page, 300, quality);
  const [background, ink] = await Promise.all([pictureOf(layers.background, quality), pictureOf(layers.ink, quality)]);
  const mask = encodeGroup4(packBits(layers.mask));
  const made: FilePage = {
    ...page,
    blob: new Blob([mask as BlobPart], { type: 'image/x-group4' }),
    layers: { width: layers.mask.width, height: layers.mask.height, background, ink },
  };
  const plain = await encoded(page, 300, quality);
  return sizeOf(made) < sizeOf(plain) ? made : plain;
}

async function pictureOf(raster: Raster, quality: number): Promise<SmallPicture> {
  const { width, height, channels, data } = raster;
  const pixels = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let i = 0, p = 0, q = 0; i < width * height; i++, p += channels, q += 4)
    for (let c = 0; c < 3; c++) pixels[q + c] = data[p + (channels === 1 ? 0 : c)]!;
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d', { alpha: false })!.putImageData(new ImageData(pixels, width, height), 0, 0);
  return { width, height, blob: await canvas.convertToBlob({ type: 'image/jpeg', quality }) };
}

async function smallJpeg({ blob, width, height }: SmallPicture): Promise<SmallJpeg> {
  return { bytes: blob, width, height, components: await componentsOf(blob) };
}

async function* tiffPages(pages: readonly FilePage[]): AsyncGenerator<TiffPage> {
  for (const { blob, width, height, widthMm, heightMm } of pages)
    yield blob.type === 'image/x-group4'
      ? { kind: 'group4', width, height, widthMm, heightMm, bytes: blob }
      : { kind: 'pixels', widthMm, heightMm, raster: await pixelsOf(blob) };
}

/** What comes before a JPEG's frame header is shorter than this, bytes. */
const headBytes = 200_000;
const componentsOf = async (jpeg: Blob) => (jpegComponents(await bytesOf(jpeg.slice(0, headBytes))) === 1 ? 1 : 3);

/** Read in pieces, so that no file is ever in memory whole. */
const pieceBytes = 4_000_000;

async function named(parts: readonly Part[], extension: string) {
  const blob = new Blob(parts as BlobPart[], { type: mediaTypeOf(`x.${extension}`) });
  const hash = sha256.create();
  for (let at = 0; at < blob.size; at += pieceBytes) hash.update(await bytesOf(blob.slice(at, at + pieceBytes)));
  return { blob, sha256: bytesToHex(hash.digest()), extension };
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
