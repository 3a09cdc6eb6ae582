import {
  analysePage,
  flatten,
  type FlatPage,
  type PageAnalysis,
  type Raster,
  type RenderOptions,
  type RenderRecipe,
} from '@libretto/core';
import { focalLength35 } from '@libretto/formats/exif';
import type { Mark } from '@libretto/model';
import { copyRows } from './canvasPixels';
import { letGo } from './letGo';

export interface Limits {
  dpi?: number;
  maxEdgePx?: number;
}
/** The part of a recipe that decides the pixels. */
export type WorkRecipe = RenderRecipe & { marks?: readonly Mark[] };

/** A photo's pixels, and what its file tells of the lens. */
export interface DecodedPhoto extends Raster {
  focal35mm?: number;
}

/** The photo worked on last stays decoded, so that dragging a corner or trying filters does not decode it again. */
let held: { photoId: string; photo: DecodedPhoto } | null = null;
let flat: { key: string; page: FlatPage; seen?: { key: string; analysis: PageAnalysis } } | null = null;

/** Rows fetched from the canvas at a time: one piece of a 12 MP photo would take 96 MB more. */
const stripRows = 256;
/** What a camera writes down stands in front of the picture. */
const headBytes = 128 * 1024;

export async function decode(photoId: string, blob: Blob): Promise<DecodedPhoto> {
  if (held?.photoId === photoId) return held.photo;
  rest();
  const bitmap = await createImageBitmap(blob);
  const { width, height } = bitmap;
  const data = new Uint8ClampedArray(width * height * 4);
  const canvas = new OffscreenCanvas(width, Math.min(stripRows, height));
  const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
  for (let y = 0; y < height; y += stripRows) {
    const rows = Math.min(stripRows, height - y);
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, rows);
    context.drawImage(bitmap, 0, -y);
    await copyRows(canvas, context, rows, data.subarray(y * width * 4, (y + rows) * width * 4));
  }
  bitmap.close();
  const focal35mm = await focalLength35(new Uint8Array(await blob.slice(0, headBytes).arrayBuffer()));
  held = { photoId, photo: { width, height, channels: 4, data, ...(focal35mm && { focal35mm }) } };
  return held.photo;
}

export const flattenedPhoto = (photo: DecodedPhoto, recipe: Parameters<typeof flatten>[1], options: RenderOptions) =>
  flatten(photo, recipe, { ...options, ...(photo.focal35mm && { focal35mm: photo.focal35mm }) });

export async function flattened(
  photoId: string,
  blob: Blob,
  recipe: WorkRecipe,
  alone: boolean,
  limits: Limits,
): Promise<FlatPage> {
  const key = JSON.stringify([
    photoId,
    recipe.quad,
    recipe.whole,
    recipe.polygon,
    recipe.sidesFrom,
    recipe.turn,
    recipe.mirror,
    recipe.size,
    alone,
    limits,
  ]);
  if (flat?.key !== key) {
    const photo = await decode(photoId, blob);
    if (flat) letGo(flat.page.image.data);
    flat = null;
    flat = { key, page: flattenedPhoto(photo, recipe, { ...limits, alone }) };
  }
  return flat.page;
}

/** Lets a picture go that was made of the page flattened last, unless it is that page's own. */
export function letMadeGo({ data }: Raster): void {
  if (data.buffer !== flat?.page.image.data.buffer) letGo(data);
}

/** What is told of the page flattened last, so that another filter or another detail of it is there at once. */
export function analysed({ tidy, touches }: WorkRecipe): PageAnalysis {
  const holder = flat!;
  const key = JSON.stringify([tidy, touches]);
  if (holder.seen?.key !== key) holder.seen = { key, analysis: analysePage(holder.page, { tidy, touches }) };
  return holder.seen.analysis;
}

/** Lets the held pixels go. */
export function rest(): void {
  if (held) letGo(held.photo.data);
  if (flat) letGo(flat.page.image.data);
  held = null;
  flat = null;
}
