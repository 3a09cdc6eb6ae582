import type { Adjust } from '../enhance/adjust';
import { chooseFilter, type Choice } from '../enhance/auto';
import {
  enhance,
  judge,
  judgedAndEnhanced,
  judgedWithin,
  kindOf,
  lightWithin,
  type Filter,
  type Judgement,
  type Kind,
} from '../enhance/enhance';
import { estimateLight, lightAround, type Light } from '../enhance/light';
import { filled, findLitter, trimSlivers, type Litter } from '../enhance/tidy';
import { painted, touchedUp, type Touch } from '../enhance/touches';
import { crop, within, type Box } from '../raster/crop';
import { createRaster, wholeQuad, type Point, type Quad, type Raster } from '../raster/raster';
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
import { unroll } from '../rectify/unroll';

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
    ? unroll(photo, surface, { width, height }, recipe.turn)
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
 * Makes a page from its photo: the one function that the app, the command line, the exports and the tests all call.
 *
 * @throws RangeError when the photo is empty or three corners lie on a line.
 */
export function render(photo: Raster, recipe: RenderRecipe, options: RenderOptions = {}): RenderedPage {
  return finish(flatten(photo, recipe, options), recipe);
}

const judgedEdgePx = 1200;

/** A size on which strokes are painted: half of the copy's. */
const maskSize = ({ width, height }: Raster) => ({ width: Math.ceil(width / 2), height: Math.ceil(height / 2) });

/** What of a recipe is done to a flattened page. */
export type Finish = Pick<RenderRecipe, 'filter' | 'adjust' | 'tidy' | 'touches'>;

/** What is seen of a page on a smaller copy before it is finished: its light, and what on its margin is filled with paper. */
interface Prepared {
  copy: Raster;
  light: Light;
  /** The light before it was filled: by that it is filled. */
  found: Light;
  litter: Litter | null;
}

function prepare(flat: FlatPage, { tidy = true, touches = [] }: Omit<Finish, 'filter'>): Prepared {
  const copy = shrinkToEdge(flat.image, judgedEdgePx);
  const seen = estimateLight(copy);
  const litter = touchedUp(tidy ? findLitter(copy, seen, flat) : null, touches, maskSize(copy), flat);
  // What one paints over may well have drawn the light down.
  const over = painted(touches, 'fill', maskSize(copy), flat);
  const found = over ? lightAround(seen, over) : seen;
  if (!litter) return { copy, light: found, found, litter };
  const clean = filled(copy, found, litter);
  return { copy: clean, light: estimateLight(clean), found, litter };
}

/** Finishes a flattened page with a filter, and with what the user has turned and painted on it. The flattened page stays as it is. */
export function finish({ map, ...flat }: FlatPage, recipe: Finish): RenderedPage {
  const { filter: wanted, adjust = {}, tidy = true, touches = [] } = recipe;
  const mapped = { ...flat, map };
  const seen = keepsTones(wanted) && !touches.length ? null : prepare(mapped, recipe);
  const filter = seen && wanted === 'auto' ? chooseFilter(seen.copy, seen.light).filter : (wanted as Filter);
  const litter = seen && litterUnder(filter, seen, touches, mapped);
  const page = litter ? filled(flat.image, seen.found, litter) : flat.image;
  const options = { dpi: flat.dpi, photoDpi: flat.photoDpi, adjust };
  const image = judgedAndEnhanced(page, seen?.copy ?? page, seen?.light ?? null, filter, options);
  if (keepsTones(filter)) return { ...flat, image, filter, tidied: 0 };
  const { copy, light } = seen!;
  if (!light.dark && tidy) trimSlivers(image, painted(touches, 'keep', maskSize(copy), mapped));
  return { ...flat, image, dpi: (flat.dpi * image.width) / page.width, filter, tidied: litter?.places ?? 0 };
}

/** Filters under which a page stays as it was photographed, but for what was painted over it by hand. */
const keepsTones = (filter: Filter | 'auto') => filter === 'original' || filter === 'picture';

/** What is filled with paper under a filter: what was found on the margin and what was painted over; where tones are kept, only the latter. */
const litterUnder = (filter: Filter, { copy, litter }: Prepared, touches: readonly Touch[], flat: FlatPage) =>
  keepsTones(filter) ? touchedUp(null, touches, maskSize(copy), flat) : litter;

/** How far round a window the page is finished too, inches: further than anything that is done to a pixel looks. */
const windowMargin = 0.2;

export interface PageWindows {
  /** What Auto picks for the page, and why. */
  choice: Choice;
  /** A window (px of the flattened page) under a filter; Ink's has more pixels where the page has few. */
  finished: (box: Box, filter: Filter) => Raster;
}

/** Windows of a page, the same as all of it is when it is finished, for a small part of the work: what is told by the whole page is looked at once for all. */
export function pageWindows(flat: FlatPage, recipe: Omit<Finish, 'filter'>): PageWindows {
  const { dpi, photoDpi, image: page } = flat;
  const { adjust = {}, tidy = true, touches = [] } = recipe;
  const prepared = prepare(flat, recipe);
  const { copy, light, found } = prepared;
  const options = { dpi, photoDpi, adjust };
  const kept = painted(touches, 'keep', maskSize(copy), flat);
  const judgements = new Map<Kind, Judgement>();
  const litterOf = (filter: Filter) => litterUnder(filter, prepared, touches, flat);
  const judgementOf = (filter: Filter) => {
    const kind = kindOf(filter, light);
    const litter = litterOf(filter);
    const known = judgements.get(kind) ?? judge(litter ? filled(page, found, litter) : page, copy, light, kind, options);
    judgements.set(kind, known);
    return known;
  };
  const margin = Math.ceil(windowMargin * dpi);
  return {
    choice: chooseFilter(copy, light),
    finished(box, filter) {
      const x = Math.max(0, box.x - margin);
      const y = Math.max(0, box.y - margin);
      const round: Box = {
        x,
        y,
        width: Math.min(page.width, box.x + box.width + margin) - x,
        height: Math.min(page.height, box.y + box.height + margin) - y,
      };
      let part = crop(page, round);
      const litter = litterOf(filter);
      if (litter) part = filled(part, lightWithin(found, page, round), { ...litter, mask: within(litter.mask, page, round) });
      const image = enhance(part, filter, { ...options, judgement: judgedWithin(judgementOf(filter), page, round) });
      const scale = image.width / round.width;
      if (!keepsTones(filter) && !light.dark && tidy)
        trimSlivers(image, kept, {
          page: { width: page.width * scale, height: page.height * scale },
          at: [x * scale, y * scale],
        });
      const [left, top, width, height] = [box.x - x, box.y - y, box.width, box.height].map((v) => v * scale);
      return crop(image, { x: left, y: top, width, height });
    },
  };
}
