import * as Comlink from 'comlink';
import {
  bentAsItsLines,
  findPages,
  finestPrint,
  analysePage,
  finish,
  finishWindow,
  flatten,
  inspectPage,
  pageSignature,
  placePage,
  printDpi,
  rotatedQuad,
  shrinkToEdge,
  skewToTakeOut,
  wholeAsRead,
  filters,
  type Filter,
  type FlatPage,
  type PageAnalysis,
  type Quad,
  type Raster,
  type RenderOptions,
  type RenderRecipe,
} from '@libretto/core';
import { focalLength35 } from '@libretto/formats/exif';
import { encodeGroup4, packBits } from '@libretto/formats/raster';
import type { Mark } from '@libretto/model';
import type { BroughtWord } from '../store/files';
import { wordsOnPage } from './broughtWords';
import { changePicture, drawMark, isOfPicture, isUnder, noteFamily, type MarkView } from './markDrawing';

/** A photo's pixels, and what its file tells of the lens. */
interface DecodedPhoto extends Raster {
  focal35mm?: number;
}

/** The photo worked on last stays decoded, so that dragging a corner or trying filters does not decode it again. */
let held: { photoId: string; photo: DecodedPhoto } | null = null;
let flat: { key: string; page: FlatPage; seen?: { key: string; analysis: PageAnalysis } } | null = null;

/** Rows fetched from the canvas at a time: one piece of a 12 MP photo would take 96 MB more. */
const stripRows = 256;
/** What a camera writes down stands in front of the picture. */
const headBytes = 128 * 1024;
const inspectEdgePx = 900;
const skewEdgePx = 1400;

async function decode(photoId: string, blob: Blob): Promise<DecodedPhoto> {
  if (held?.photoId === photoId) return held.photo;
  held = null;
  flat = null;
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
    data.set(context.getImageData(0, 0, width, rows).data, y * width * 4);
  }
  bitmap.close();
  const focal35mm = await focalLength35(new Uint8Array(await blob.slice(0, headBytes).arrayBuffer()));
  held = { photoId, photo: { width, height, channels: 4, data, ...(focal35mm && { focal35mm }) } };
  return held.photo;
}

const flattenedPhoto = (photo: DecodedPhoto, recipe: Parameters<typeof flatten>[1], options: RenderOptions) =>
  flatten(photo, recipe, { ...options, ...(photo.focal35mm && { focal35mm: photo.focal35mm }) });

async function flattened(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, limits: Limits): Promise<FlatPage> {
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
  if (flat?.key !== key) flat = { key, page: flattenedPhoto(await decode(photoId, blob), recipe, { ...limits, alone }) };
  return flat.page;
}

/** What is told of the page flattened last, so that another filter or another detail of it is there at once. */
function analysed(holder: NonNullable<typeof flat>, { tidy, touches }: WorkRecipe): PageAnalysis {
  const key = JSON.stringify([tidy, touches]);
  if (holder.seen?.key !== key) holder.seen = { key, analysis: analysePage(holder.page, { tidy, touches }) };
  return holder.seen.analysis;
}

/** A page finished at the resolution of print, from which all its pictures are made. */
async function finished(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, limits: Limits = { dpi: printDpi }) {
  const page = await flattened(photoId, blob, recipe, alone, limits);
  const made = finish(page, recipe, analysed(flat!, recipe));
  return recipe.marks ? { ...made, image: await withMarks(made.image, recipe.marks, page) } : made;
}

const viewOf = ({ width, height }: Raster, { map, widthMm }: FlatPage): MarkView => ({
  width,
  height,
  pxPerMm: width / widthMm,
  toPage: map.toPage,
});

/** A finished page with what was put on it by hand: what is covered is gone, whatever is made of the page. */
async function withMarks(image: Raster, marks: readonly Mark[], page: FlatPage): Promise<Raster> {
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
  return canvas;
}

const encode = (image: Raster, type: 'image/jpeg' | 'image/png', quality: number): Promise<Blob> =>
  drawn(image).convertToBlob({ type, quality });

/** A smaller picture of a page, for a list. */
export interface Small {
  blob: Blob;
  width: number;
  height: number;
}

async function shrunk(page: Raster, longEdgePx: number, quality = 0.82): Promise<Small> {
  const image = shrinkToEdge(page, longEdgePx);
  return { blob: await encode(image, 'image/jpeg', quality), width: image.width, height: image.height };
}

/** A page's own file: JPEG or, in Ink, CCITT Group 4. */
const asPrint = (image: Raster, filter: Filter): Promise<Blob> =>
  // Coloured marks on it are worth more than the smallest file.
  filters[filter].twoLevel && image.channels === 1
    ? Promise.resolve(new Blob([encodeGroup4(packBits(image)) as BlobPart], { type: 'image/x-group4' }))
    : encode(image, 'image/jpeg', 0.8);

/** A stroke over a page as it is shown, in shares of its size. */
export interface Stroke {
  points: readonly (readonly [number, number])[];
  radius: number;
}

export interface Limits {
  dpi?: number;
  maxEdgePx?: number;
}
/** The part of a recipe that decides the pixels. */
export type WorkRecipe = RenderRecipe & { marks?: readonly Mark[] };

/** A page's faults, and what it looks like, to tell it from the others. */
function inspected(photo: DecodedPhoto, { quad, polygon, sidesFrom, size, whole }: Omit<WorkRecipe, 'filter'>, alone: boolean) {
  const flat = flattenedPhoto(
    photo,
    { quad, ...(polygon && { polygon }), ...(sidesFrom && { sidesFrom }), ...(size && { size }), turn: 0 },
    { maxEdgePx: inspectEdgePx, alone },
  );
  const { width, height } = flat.image;
  const corners: Quad[number][] = [[0, 0], [width - 1, 0], [width - 1, height - 1], [0, height - 1]]; // prettier-ignore
  const signature = pageSignature(flat.image, corners as unknown as Quad);
  // As the camera sees it, whichever way the print runs: from the corner that lies uppermost on the left.
  const first = quad ? quad.reduce((least, [x, y], i) => (x + y < quad[least]![0] + quad[least]![1] ? i : least), 0) : 0;
  const seen = pageSignature(flat.image, [...corners.slice(first), ...corners.slice(0, first)] as unknown as Quad);
  return { ...inspectPage(photo, whole ? null : quad, flat), signature, seen };
}

function gridOver(toPhoto: (place: readonly [number, number]) => readonly number[], places: number): number[] {
  const out: number[] = [];
  for (let j = 0; j < places; j++)
    for (let i = 0; i < places; i++)
      out.push(...toPhoto([i / (places - 1), j / (places - 1)]).map((v) => Math.round(v * 10) / 10));
  return out;
}

const api = {
  /** Decodes the photo and looks for its pages. */
  async look(photoId: string, blob: Blob) {
    const photo = await decode(photoId, blob);
    const outlines = findPages(photo);
    const alone = outlines.length < 2 || outlines.every((o) => o.spread);
    const pages = outlines.map((outline) => ({ outline, ...inspected(photo, { ...outline, turn: 0 }, alone) }));
    return { width: photo.width, height: photo.height, pages, ...(!pages.length && { whole: wholeAsRead(photo) }) };
  },

  /** The likeliest page round a point of the photo. */
  async findHere(photoId: string, blob: Blob, at: readonly [number, number]) {
    return findPages(await decode(photoId, blob), { at })[0] ?? null;
  },

  /** How far the page's outline has to be turned so that its print runs level, degrees clockwise, or the outline that bends as its lines do. */
  async straighten(photoId: string, blob: Blob, { quad, polygon, sidesFrom, size, turn }: WorkRecipe, alone: boolean) {
    const photo = await decode(photoId, blob);
    const recipe = {
      quad,
      ...(polygon && { polygon }),
      ...(sidesFrom && { sidesFrom }),
      ...(size && { size }),
      turn: 0 as const,
    };
    const { image } = flattenedPhoto(photo, recipe, { maxEdgePx: skewEdgePx, alone });
    const degrees = skewToTakeOut(image);
    // Lines that lean are turned level first: then one sees whether they bend.
    const level = quad && !polygon && rotatedQuad(quad, degrees, image.width / image.height);
    return { degrees, bent: level && turn === 0 ? bentAsItsLines(photo, level) : null };
  },

  /** A stroke over the page as it is shown (shares of its width and height, radius of its longer side) as it lies on the photo, px. */
  async onPhoto(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, stroke: Stroke) {
    const photo = await decode(photoId, blob);
    const { map, widthMm, heightMm } = placePage(photo, recipe, {
      alone,
      ...(photo.focal35mm && { focal35mm: photo.focal35mm }),
    });
    const radius = stroke.radius * Math.max(widthMm, heightMm) * map.scaleAt(stroke.points[0]!);
    return { points: stroke.points.map((place) => map.toPhoto(place)), radius };
  },

  /** Where a page lies in its photo: photo px of a grid of places over it. */
  async places(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, places: number) {
    const photo = await decode(photoId, blob);
    const { map, widthMm, heightMm } = placePage(photo, recipe, {
      alone,
      ...(photo.focal35mm && { focal35mm: photo.focal35mm }),
    });
    return { photo: gridOver(map.toPhoto, places), widthMm, heightMm };
  },

  /** What is wrong with a page, once its edges are other ones. */
  async inspect(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean) {
    return inspected(await decode(photoId, blob), recipe, alone);
  },

  /** A finished page for print and, shrunk, for the screen and for lists: all from one making, so that what is shown is what is sent. */
  async make(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, edges: readonly number[]) {
    const { image, tidied, filter, ...facts } = await finished(photoId, blob, recipe, alone);
    const smaller: Small[] = [];
    let from: Raster = image;
    for (const edge of edges) {
      from = shrinkToEdge(from, edge);
      smaller.push(await shrunk(from, edge));
    }
    const out = await asPrint(image, filter);
    return { ...facts, filter, ...(tidied && { tidied }), blob: out, width: image.width, height: image.height, smaller };
  },

  /** A finished page as a picture without loss. */
  async png(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean): Promise<Blob> {
    return encode((await finished(photoId, blob, recipe, alone)).image, 'image/png', 1);
  },

  /** A page as it looks about, quickly, while something is moved. */
  async draft(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, maxEdgePx: number) {
    const { image, tidied, ...facts } = await finished(photoId, blob, recipe, alone, { maxEdgePx });
    return { ...facts, ...(tidied && { tidied }), ...(await shrunk(image, maxEdgePx, 0.85)) };
  },

  /** One detail of the page at full size under each filter: round `wanted` (shares of the page's width and height), or where the finest print is. */
  async detail(
    photoId: string,
    blob: Blob,
    recipe: WorkRecipe,
    alone: boolean,
    wanted: readonly [number, number] | null,
    size: readonly [number, number],
    filters: readonly Filter[],
  ) {
    const page = await flattened(photoId, blob, recipe, alone, { dpi: printDpi });
    const at = wanted ?? finestPrint(page.image, size);
    const analysis = analysed(flat!, recipe);
    const [width, height] = [Math.min(size[0], page.image.width), Math.min(size[1], page.image.height)];
    const box = {
      x: Math.max(0, Math.min(page.image.width - width, Math.round(at[0] * page.image.width - width / 2))),
      y: Math.max(0, Math.min(page.image.height - height, Math.round(at[1] * page.image.height - height / 2))),
      width,
      height,
    };
    const details = [];
    for (const filter of filters)
      details.push({ filter, blob: await encode(finishWindow(page, { ...recipe, filter }, analysis, box), 'image/png', 1) });
    return { chosen: analysis.choice.filter, why: analysis.choice.why, details, at };
  },

  /**
   * A page for reading: grey, evened, never two-level; where it lies in the photo, as photo px of a grid of places over it; and those of the words that its file brought along which stand on it
   * and under no cover.
   */
  async readable(
    photoId: string,
    blob: Blob,
    recipe: WorkRecipe,
    alone: boolean,
    places: number,
    brought: readonly BroughtWord[],
  ) {
    const page = await flattened(photoId, blob, recipe, alone, { dpi: printDpi });
    const { image: bare, widthMm } = finish(page, { ...recipe, filter: 'grey' }, analysed(flat!, recipe));
    // What is covered is not read; what was put elsewhere is read there.
    const covers = recipe.marks?.filter(isOfPicture) ?? [];
    const image = await withMarks(bare, covers, page);
    const photo = gridOver(page.map.toPhoto, places);
    const { width, height, channels, data } = image;
    const view = viewOf(image, page);
    const words = wordsOnPage(brought, view).filter(({ box }) => !covers.some((mark) => isUnder(box, mark, view)));
    return Comlink.transfer({ raster: { width, height, channels, data }, widthMm, photo, words }, [data.buffer]);
  },

  /** Lets the held pixels go. */
  rest(): void {
    held = null;
    flat = null;
  },
};

export type PageApi = typeof api;
export type WorkQuad = Quad;
Comlink.expose(api);
