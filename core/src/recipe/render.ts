import type { Adjust } from '../enhance/adjust';
import { chooseFilter, type Choice } from '../enhance/auto';
import { enhance, judge, judgedAndEnhanced, judgedWithin, lightWithin, finer, type Judgement } from '../enhance/enhance';
import { estimateLight, isAllPicture, lightAround, type Light } from '../enhance/light';
import { filters, wayOfLooking, type Filter } from '../enhance/filters';
import { filled, findLitter, trimSlivers, type Litter } from '../enhance/tidy';
import { painted, touchedUp, type Touch } from '../enhance/touches';
import { crop, within, type Box } from '../raster/crop';
import { createRaster, wholeQuad, type Plane, type Point, type Quad, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { pageDpi } from '../rectify/pageDpi';
import { pageSize, type PageSize } from '../rectify/pageSize';
import { focalPx } from '../rectify/focal';
import { trueRatio, type View } from '../rectify/proportions';
import { effectiveDpi, rectify } from '../rectify/rectify';
import { pageMap, type PageMap } from '../rectify/pageMap';
import type { Turn } from '../rectify/turn';
import { paintBeyond } from './beyond';
import { surfaceOf, type SidesFrom } from '../rectify/surfaceOf';
import { dewarp } from '../rectify/dewarp';

/** How to make a page from its photo. */
export interface RenderRecipe {
  /** The page's corners in photo pixels; null: the whole photo. */
  quad: Quad | null;
  /** The corners are the photo's own, at most turned: nothing of the page is cut off, and a page of a file holds all of its pixels. */
  whole?: boolean;
  /** The true outline, clockwise from the top-left corner with as many points a side, where the page or the lens bends it. */
  polygon?: readonly Point[];
  /** What told how its sides bend; default the photo. */
  sidesFrom?: SidesFrom;
  turn: Turn;
  /** Left and right exchanged: a page photographed through glass or from a mirror. */
  mirror?: boolean;
  /** *auto* picks by what the page holds. */
  filter: Filter | 'auto';
  /** What the user has turned on the filter. */
  adjust?: Adjust;
  /** Whether fingertips and strips of desk on the margin are filled with paper; default true. *Original* and *Picture* never are. */
  tidy?: boolean;
  /** What was painted over it by hand: filled with paper, or kept as photographed. */
  touches?: readonly Touch[];
  /** Width and height as photographed (before the turn); without it the size comes from the true proportions. */
  size?: PageSize;
}

export interface RenderOptions {
  /** Wanted resolution; the photo's own is the limit. Default 300. */
  dpi?: number;
  /** Long side of the result in px at most. */
  maxEdgePx?: number;
  /** Whether this is the photo's only page; default true. */
  alone?: boolean;
  /** The photo's focal length in mm of a 35 mm camera, where its file tells. */
  focal35mm?: number;
}

export interface RenderedPage {
  image: Raster;
  /** Size on paper after the turn. */
  widthMm: number;
  heightMm: number;
  sizeName: PageSize['name'];
  /** Resolution of `image` on paper. */
  dpi: number;
  /** What the photo holds. */
  photoDpi: number;
  /** The filter that was used. */
  filter: Filter;
  /** Places on the margin that were filled with paper. */
  tidied: number;
}

/** A flattened page that filters can be tried on without flattening it again. */
export interface FlatPage extends Omit<RenderedPage, 'filter' | 'tidied'> {
  /** Where its places lie in the photo. */
  map: PageMap;
}

type Shape = Pick<RenderRecipe, 'quad' | 'whole' | 'polygon' | 'sidesFrom' | 'turn' | 'mirror' | 'size'>;

/** Where a page lies in its photo, what size it has on paper, and with how many pixels it is made: all of `flatten` but the pixels. */
export function placePage(photo: Pick<Raster, 'width' | 'height'>, recipe: Shape, options: RenderOptions = {}) {
  const { dpi: wantedDpi = 300, maxEdgePx = Infinity, alone = true, focal35mm } = options;
  const { turn, mirror = false } = recipe;
  const quad: Quad = recipe.quad ?? wholeQuad(photo);
  const view: View = {
    width: photo.width,
    height: photo.height,
    ...(focal35mm && { focalPx: focalPx(focal35mm, photo.width, photo.height) }),
  };
  const surface = recipe.quad && recipe.polygon ? surfaceOf(recipe.polygon, view, recipe.sidesFrom) : null;
  const ratio = surface ? surface.ratio : recipe.quad ? trueRatio(quad, view) : photo.width / photo.height;
  const size = recipe.size ?? pageSize(ratio, alone);
  const photoDpi = effectiveDpi(quad, size.widthMm, size.heightMm);
  const cap = (maxEdgePx / Math.max(size.widthMm, size.heightMm)) * 25.4;
  const dpi = Math.max(1, Math.min(pageDpi(photoDpi, !!recipe.quad && !recipe.whole, wantedDpi), cap));
  const sideways = turn % 180 !== 0;
  const widthMm = sideways ? size.heightMm : size.widthMm;
  const heightMm = sideways ? size.widthMm : size.heightMm;
  const px = (mm: number) => Math.max(1, Math.round((mm / 25.4) * dpi));
  const bent = surface && ((u: number, v: number) => surface.toPhoto(u, v));
  const map = pageMap({ quad, bent, turn, mirror, widthMm, heightMm });
  return { quad, surface, map, widthMm, heightMm, sizeName: size.name, dpi, photoDpi, width: px(widthMm), height: px(heightMm) };
}

/** The photo's own share of `render`: outline, proportions, resolution, turn. */
export function flatten(photo: Raster, recipe: Shape, options: RenderOptions = {}): FlatPage {
  const { quad, surface, width, height, ...place } = placePage(photo, recipe, options);
  const flat = surface
    ? dewarp(photo, surface, { width, height }, recipe.turn)
    : rectify(photo, quad, { width, height }, recipe.turn);
  const image = recipe.mirror ? mirrored(flat) : flat;
  if (recipe.quad) paintBeyond(image, photo, (u, v) => place.map.toPhoto([u, v]));
  return { image, ...place };
}

function mirrored({ width, height, channels, data }: Raster): Raster {
  const target = createRaster(width, height, channels);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = (y * width + width - 1 - x) * channels;
      for (let c = 0, to = (y * width + x) * channels; c < channels; c++) target.data[to + c] = data[from + c];
    }
  return target;
}

/**
 * Makes a page from its photo: the one function that the app, the command line, the exports and the tests all call. A smaller one is the large one shrunk, so that what is shown is what is sent.
 *
 * @throws RangeError when the photo is empty or three corners lie on a line.
 */
export function render(photo: Raster, recipe: RenderRecipe, options: RenderOptions = {}): RenderedPage {
  const { dpi = printDpi, maxEdgePx = Infinity, ...rest } = options;
  const flat = flatten(photo, recipe, { ...rest, dpi: Math.max(printDpi, dpi) });
  return sized(finish(flat, recipe), flat.dpi, dpi, maxEdgePx);
}

/** Pages are finished at the resolution of print, whatever they are for. */
export const printDpi = 300;

/** A page that was finished at `masterDpi`, at a lower resolution; Ink's two levels stay two. */
function sized(page: RenderedPage, masterDpi: number, dpi: number, maxEdgePx: number): RenderedPage {
  const { image, filter } = page;
  const ink = filters[filter].twoLevel;
  const lower = Math.min(dpi, masterDpi);
  const longEdge = Math.max(image.width, image.height);
  const edge = Math.min(maxEdgePx, (longEdge * (ink ? finer(lower) : lower)) / page.dpi);
  if (longEdge - edge < 0.5) return page;
  const small = shrinkToEdge(image, Math.max(1, edge));
  if (ink) for (let i = 0; i < small.data.length; i++) small.data[i] = small.data[i] < 128 ? 0 : 255;
  return { ...page, image: small, dpi: (page.dpi * small.width) / image.width };
}

const judgedEdgePx = 1200;

const hasMargin = (light: Light) => !light.dark && !isAllPicture(light);

/** A size on which strokes are painted: half of the copy's. */
const maskSize = ({ width, height }: Raster) => ({ width: Math.ceil(width / 2), height: Math.ceil(height / 2) });

/** What of a recipe is done to a flattened page. */
export type Finish = Pick<RenderRecipe, 'filter' | 'adjust' | 'tidy' | 'touches'>;

/** What is told by looking at a flattened page, once, whatever is made of it then: planes and numbers only, so that it can be kept. */
export interface PageAnalysis {
  /** What Auto picks for the page, and why. */
  choice: Choice;
  /** A smaller copy, its margin filled. */
  copy: Raster;
  light: Light;
  /** The light before the margin was filled: by that it is filled. */
  found: Light;
  /** What on the margin is filled with paper. */
  litter: Litter | null;
  /** Where strokes keep what was photographed. */
  kept: Plane | null;
  /** What was told for the filters asked for so far. */
  judgements: Map<string, Judgement>;
}

/** Looks at a flattened page: its light, what on its margin is litter, and which filter suits it. */
export function analysePage(flat: FlatPage, { tidy = true, touches = [] }: Pick<Finish, 'tidy' | 'touches'> = {}): PageAnalysis {
  const copy = shrinkToEdge(flat.image, judgedEdgePx);
  const seen = estimateLight(copy);
  const litter = touchedUp(tidy ? findLitter(copy, seen, flat) : null, touches, maskSize(copy), flat);
  // What one paints over may well have drawn the light down.
  const over = painted(touches, 'fill', maskSize(copy), flat);
  const found = over ? lightAround(seen, over) : seen;
  const clean = litter ? filled(copy, found, litter) : copy;
  const light = litter ? estimateLight(clean) : found;
  const kept = painted(touches, 'keep', maskSize(copy), flat);
  return { choice: chooseFilter(clean, light), copy: clean, light, found, litter, kept, judgements: new Map() };
}

/** Filters under which a page stays as it was photographed, but for what was painted over it by hand. */
const keepsTones = (filter: Filter | 'auto') => filter !== 'auto' && filters[filter].tones !== 'evened';

/** What is filled with paper under a filter: what was found on the margin and what was painted over; where tones are kept, only the latter. */
const litterUnder = (filter: Filter, { copy, litter }: PageAnalysis, touches: readonly Touch[], flat: FlatPage) =>
  keepsTones(filter) ? touchedUp(null, touches, maskSize(copy), flat) : litter;

/** Filters that look in the same way, with what the user's own setting changes of it. */
const judgedAs = (filter: Filter, light: Light | null, { evening }: Adjust) => `${wayOfLooking(filters[filter], !!light?.dark)} ${evening ?? ''}`; // prettier-ignore

/**
 * Finishes a flattened page with a filter, and with what the user has turned and painted on it. The flattened page stays as it is.
 *
 * @param analysis of this page and these strokes, where there is one already; default it is looked at now.
 */
export function finish({ map, ...flat }: FlatPage, recipe: Finish, analysis?: PageAnalysis): RenderedPage {
  const { filter: wanted, adjust = {}, tidy = true, touches = [] } = recipe;
  const mapped = { ...flat, map };
  const seen = analysis ?? (keepsTones(wanted) && !touches.length ? null : analysePage(mapped, recipe));
  const filter = seen && wanted === 'auto' ? seen.choice.filter : (wanted as Filter);
  const litter = seen && litterUnder(filter, seen, touches, mapped);
  const page = litter ? filled(flat.image, seen.found, litter) : flat.image;
  const options = { dpi: flat.dpi, photoDpi: flat.photoDpi, adjust };
  const as = judgedAs(filter, seen?.light ?? null, adjust);
  const known = seen?.judgements.get(as);
  const { image, judgement } = known
    ? { image: enhance(page, filter, { ...options, judgement: known }), judgement: known }
    : judgedAndEnhanced(page, seen?.copy ?? page, seen?.light ?? null, filter, options);
  if (judgement) seen?.judgements.set(as, judgement);
  if (keepsTones(filter)) return { ...flat, image, filter, tidied: 0 };
  const { light, kept } = seen!;
  if (hasMargin(light) && tidy) trimSlivers(image, kept);
  return { ...flat, image, dpi: (flat.dpi * image.width) / page.width, filter, tidied: litter?.places ?? 0 };
}

/** How far round a window the page is finished too, inches: further than anything that is done to a pixel looks. */
const windowMargin = 0.2;

/** A window of a page (px of the flattened page), the same as all of it is when it is finished, for a small part of the work; Ink's has more pixels where the page has few. */
export function finishWindow(flat: FlatPage, recipe: Finish, analysis: PageAnalysis, box: Box): Raster {
  const { dpi, photoDpi, image: page } = flat;
  const { adjust = {}, tidy = true, touches = [] } = recipe;
  const { copy, light, found, kept, judgements, choice } = analysis;
  const filter = recipe.filter === 'auto' ? choice.filter : recipe.filter;
  const litter = litterUnder(filter, analysis, touches, flat);
  const options = { dpi, photoDpi, adjust };
  const as = judgedAs(filter, light, adjust);
  const judgement = judgements.get(as) ?? judge(litter ? filled(page, found, litter) : page, copy, light, filter, options);
  judgements.set(as, judgement);
  const margin = Math.ceil(windowMargin * dpi);
  const x = Math.max(0, box.x - margin);
  const y = Math.max(0, box.y - margin);
  const round: Box = {
    x,
    y,
    width: Math.min(page.width, box.x + box.width + margin) - x,
    height: Math.min(page.height, box.y + box.height + margin) - y,
  };
  let part = crop(page, round);
  if (litter) part = filled(part, lightWithin(found, page, round), { ...litter, mask: within(litter.mask, page, round) });
  const image = enhance(part, filter, { ...options, judgement: judgedWithin(judgement, page, round) });
  const scale = image.width / round.width;
  if (!keepsTones(filter) && hasMargin(light) && tidy)
    trimSlivers(image, kept, {
      page: { width: page.width * scale, height: page.height * scale },
      at: [x * scale, y * scale],
    });
  const [left, top, width, height] = [box.x - x, box.y - y, box.width, box.height].map((v) => v * scale);
  return crop(image, { x: left, y: top, width, height });
}
