import * as Comlink from 'comlink';
import {
  bentAsItsLines,
  findPages,
  finestPrint,
  finish,
  finishWindow,
  inspectPage,
  pageSignature,
  pictureAreas,
  placePage,
  printDpi,
  rotatedQuad,
  shrinkToEdge,
  skewToTakeOut,
  wholeAsRead,
  type Area,
  type Filter,
  type Quad,
  type Raster,
} from '@libretto/core';
import type { BroughtWord } from '../store/files';
import { wordsOnPage } from './broughtWords';
import {
  analysed,
  decode,
  flattened,
  flattenedPhoto,
  letMadeGo,
  rest,
  type DecodedPhoto,
  type Limits,
  type WorkRecipe,
} from './heldPage';
import { isOfPicture, isUnder } from './markDrawing';
import { asPrint, encode, shrunk, viewOf, withMarks, type Small } from './pageDrawing';

const inspectEdgePx = 900;
const skewEdgePx = 1400;

/** A page finished at the resolution of print, from which all its pictures are made. */
async function finished(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean, limits: Limits = { dpi: printDpi }) {
  const page = await flattened(photoId, blob, recipe, alone, limits);
  const made = finish(page, recipe, analysed(recipe));
  return recipe.marks ? { ...made, image: await withMarks(made.image, recipe.marks, page) } : made;
}

/** A stroke over a page as it is shown, in shares of its size. */
export interface Stroke {
  points: readonly (readonly [number, number])[];
  radius: number;
}

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
      const larger = from;
      from = shrinkToEdge(from, edge);
      if (larger !== from && larger !== image) letMadeGo(larger);
      smaller.push(await shrunk(from, edge));
    }
    if (from !== image) letMadeGo(from);
    const out = await asPrint(image, filter);
    letMadeGo(image);
    return { ...facts, filter, ...(tidied && { tidied }), blob: out, width: image.width, height: image.height, smaller };
  },

  /** A finished page as a picture without loss. */
  async png(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean): Promise<Blob> {
    return encode((await finished(photoId, blob, recipe, alone)).image, 'image/png', 1);
  },

  /** Where pictures may stand on a page, mm. */
  async pictures(photoId: string, blob: Blob, recipe: WorkRecipe, alone: boolean): Promise<Area[]> {
    const page = await flattened(photoId, blob, recipe, alone, { maxEdgePx: skewEdgePx });
    return pictureAreas(analysed(recipe), page);
  },

  /** Parts of a page's picture as pictures of their own, JPEG; mm, as the page's width. */
  async cut(blob: Blob, areas: readonly Area[], widthMm: number): Promise<{ jpeg: Uint8Array; width: number; height: number }[]> {
    const whole = await createImageBitmap(blob);
    const px = (mm: number) => Math.round((mm / widthMm) * whole.width);
    const out = [];
    for (const area of areas) {
      const [width, height] = [px(area.width), px(area.height)];
      const canvas = new OffscreenCanvas(width, height);
      canvas.getContext('2d', { alpha: false })!.drawImage(whole, -px(area.x), -px(area.y));
      const jpeg = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
      out.push({ jpeg: new Uint8Array(await jpeg.arrayBuffer()), width, height });
    }
    whole.close();
    return out;
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
    const analysis = analysed(recipe);
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
    const { image: bare, widthMm } = finish(page, { ...recipe, filter: 'grey' }, analysed(recipe));
    // What is covered is not read; what was put elsewhere is read there.
    const covers = recipe.marks?.filter(isOfPicture) ?? [];
    const image = await withMarks(bare, covers, page);
    const photo = gridOver(page.map.toPhoto, places);
    const { width, height, channels, data } = image;
    const view = viewOf(image, page);
    const words = wordsOnPage(brought, view).filter(({ box }) => !covers.some((mark) => isUnder(box, mark, view)));
    return Comlink.transfer({ raster: { width, height, channels, data }, widthMm, photo, words }, [data.buffer]);
  },

  rest,
};

export type PageApi = typeof api;
export type WorkQuad = Quad;
Comlink.expose(api);
