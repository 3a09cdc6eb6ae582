import { filters, shrinkToEdge, type Filter, type FlatPage, type Raster } from '@libretto/core';
import { encodeGroup4, packBits } from '@libretto/formats/raster';
import type { Mark } from '@libretto/model';
import { letGo } from './letGo';
import { changePicture, drawMark, isOfPicture, noteFamily, type MarkView } from './markDrawing';

export const viewOf = ({ width, height }: Raster, { map, widthMm }: FlatPage): MarkView => ({
  width,
  height,
  pxPerMm: width / widthMm,
  toPage: map.toPage,
});

/** A finished page with what was put on it by hand: what is covered is gone, whatever is made of the page. */
export async function withMarks(image: Raster, marks: readonly Mark[], page: FlatPage): Promise<Raster> {
  const view = viewOf(image, page);
  changePicture(image, marks.filter(isOfPicture), view);
  const drawing = marks.filter((mark) => !isOfPicture(mark));
  if (!drawing.length) return image;
  if (drawing.some((mark) => mark.kind === 'note')) await noteFont();
  const canvas = drawn(image);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  for (const mark of drawing) drawMark(context, mark, view);
  const { data } = context.getImageData(0, 0, image.width, image.height);
  return { width: image.width, height: image.height, channels: 4, data };
}

const moreLetters = 'U+0100-0151, U+0154-017F, U+0218-021B, U+2044, U+2122';
let font: Promise<unknown> | undefined;
/** The letters of notes: a worker has none of the page's. */
function noteFont(): Promise<unknown> {
  font ??= (async () => {
    const url = (file: string) => `url(${new URL(`/fonts/${file}.woff2`, self.location.origin).href})`;
    // As in public/index.html; a canvas waits for no font, so both are there before it draws.
    const faces = [
      new FontFace(noteFamily, url('atkinson-hyperlegible-700')),
      new FontFace(noteFamily, url('atkinson-hyperlegible-700-more'), { unicodeRange: moreLetters }),
    ];
    const { fonts } = self as unknown as { fonts?: { add(face: FontFace): void } };
    for (const face of await Promise.all(faces.map((face) => face.load()))) fonts?.add(face);
  })().catch(() => undefined);
  return font;
}

function drawn(image: Raster): OffscreenCanvas {
  const { width, height, channels, data } = image;
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let i = 0, p = 0; i < width * height; i++, p += channels) {
    rgba[i * 4] = data[p];
    rgba[i * 4 + 1] = data[channels === 1 ? p : p + 1];
    rgba[i * 4 + 2] = data[channels === 1 ? p : p + 2];
    rgba[i * 4 + 3] = 255;
  }
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  letGo(rgba);
  return canvas;
}

export async function encode(image: Raster, type: 'image/jpeg' | 'image/png', quality: number): Promise<Blob> {
  const canvas = drawn(image);
  const blob = await canvas.convertToBlob({ type, quality });
  // Its pixels would stay until it is collected.
  canvas.width = canvas.height = 0;
  return blob;
}

/** A smaller picture of a page, for a list. */
export interface Small {
  blob: Blob;
  width: number;
  height: number;
}

export async function shrunk(page: Raster, longEdgePx: number, quality = 0.82): Promise<Small> {
  const image = shrinkToEdge(page, longEdgePx);
  return { blob: await encode(image, 'image/jpeg', quality), width: image.width, height: image.height };
}

/** A page's own file: JPEG or, in Ink, CCITT Group 4. */
export const asPrint = (image: Raster, filter: Filter): Promise<Blob> =>
  // Coloured marks on it are worth more than the smallest file.
  filters[filter].twoLevel && image.channels === 1
    ? Promise.resolve(new Blob([encodeGroup4(packBits(image)) as BlobPart], { type: 'image/x-group4' }))
    : encode(image, 'image/jpeg', 0.8);
